import { useQuery } from "@tanstack/react-query";
import { App, Button, Select } from "antd";
import { useRef, useState } from "react";
import { Dialog } from "../ui/Dialog";
import { FileInput } from "../ui/FileInput";
import { ApiError, api, unwrap } from "../api/client";
import { keys, queryClient } from "../api/queries";

const key = ["word-lists"];
const english = "english";

/** Which language's words forecasts use; a list of one's own can be loaded. */
export function WordLists() {
  const { message } = App.useApp();
  const picker = useRef<HTMLInputElement>(null);
  const [broken, setBroken] = useState<{ name: string; csv: string; faults: string[] }>();
  const { data } = useQuery({ queryKey: key, queryFn: () => unwrap(api.GET("/api/word-lists")) });

  const change = async (ask: () => Promise<NonNullable<typeof data>>) => {
    queryClient.setQueryData(key, await ask());
    await queryClient.invalidateQueries({ queryKey: keys.board });
  };
  const tell = (error: unknown) => void message.error((error as Error).message, 6);

  const load = async (name: string, csv: string, takeTheRest: boolean) => {
    setBroken(undefined);
    try {
      await change(() => unwrap(api.POST("/api/word-lists", { body: { name, csv, takeTheRest } })));
      void message.success(`${name} is in use now.`);
    } catch (error) {
      const faults =
        error instanceof ApiError
          ? Object.entries(error.problem.errors ?? {}).filter(([at]) => at.startsWith("csv["))
          : [];
      if (faults.length === 0) tell(error);
      else setBroken({ name, csv, faults: faults.flatMap(([, words]) => words) });
    }
  };

  return (
    <span className="word-lists">
      <label htmlFor="word-list">Ordinary text in</label>
      <Select
        id="word-list"
        value={data?.chosen ?? english}
        popupMatchSelectWidth={false}
        options={(data?.lists ?? []).map((list) => ({
          value: list.id ?? english,
          label: `${list.name} (${list.words.toLocaleString("en")} words)`,
        }))}
        onChange={(id: number | string) =>
          void change(() =>
            unwrap(api.PUT("/api/word-lists/chosen", { body: { id: id === english ? null : Number(id) } })),
          ).catch(tell)
        }
      />
      <Button onClick={() => picker.current?.click()}>Load a word list …</Button>
      {data?.chosen != null && (
        <Button
          type="text"
          onClick={() =>
            void change(() =>
              unwrap(api.DELETE("/api/word-lists/{id}", { params: { path: { id: data.chosen ?? 0 } } })),
            ).catch(tell)
          }
        >
          Remove it
        </Button>
      )}
      <FileInput
        ref={picker}
        accept=".csv,.tsv,.txt,text/csv"
        label="Word list"
        onFile={(file) => void file.text().then((csv) => load(file.name.replace(/\.\w+$/, ""), csv, false))}
      />
      <Dialog
        open={broken !== undefined}
        title={`Some lines of ${broken?.name ?? ""} cannot be read`}
        okText="Take the rest"
        cancelText="Take nothing"
        onCancel={() => setBroken(undefined)}
        onOk={() => broken && void load(broken.name, broken.csv, true)}
      >
        <ul className="broken-lines">
          {broken?.faults.map((fault) => (
            <li key={fault}>{fault}</li>
          ))}
        </ul>
      </Dialog>
    </span>
  );
}

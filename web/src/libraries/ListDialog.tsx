import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { ApiError, api, unwrap, type ListLine } from "../api/client";
import { librariesChanged } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { toast } from "../ui/toasts";
import { useLater } from "../ui/useLater";
import { nameOf } from "../gather";
import { undo } from "../items/undoing";
import "../ui/listPreview.css";

interface Props {
  place: { id: number; label: string } | null;
  begin: string;
  onClose: () => void;
}

/** A pasted list of abbreviations with their texts: what each line becomes is shown before anything is added. */
export function ListDialog({ place, begin, onClose }: Props) {
  const [text, setText] = useState(begin);
  const [without, setWithout] = useState<ReadonlySet<number>>(new Set());
  const [fault, setFault] = useState<string>();
  const asked = useLater(text, 200);
  const { data: lines, error } = useQuery({
    queryKey: ["list", asked],
    queryFn: () => unwrap(api.POST("/api/lists/preview", { body: { text: asked } })),
    enabled: asked.trim() !== "",
    placeholderData: (before) => before,
    gcTime: 0,
    retry: false,
  });
  const shown = asked.trim() === "" ? [] : (lines ?? []);
  const wanted = shown.filter((line) => line.problem === null && !without.has(line.line));

  const add = async () => {
    try {
      const snippets = wanted.map((line) => ({
        name: nameOf(line.text) || line.code,
        text: line.text,
        triggers: [{ kind: "abbreviation", text: line.code }],
      }));
      const { count } = await unwrap(
        api.POST("/api/snippets/list", { body: { parentId: place?.id ?? null, snippets } }),
      );
      toast(`${count} snippets are in ${place?.label ?? "a new library"}.`, {
        key: "undo",
        action: { label: "Undo", act: () => void undo() },
      });
      onClose();
      await librariesChanged();
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setFault(problem.message);
    }
  };

  return (
    <Dialog
      open
      title={`Add from a list to ${place?.label ?? "a new library"}`}
      width={860}
      onCancel={onClose}
      footer={[
        fault && (
          <span key="fault" className="fault list-fault" role="alert">
            {fault}
          </span>
        ),
        <Button key="add" type="primary" disabled={wanted.length === 0} onClick={() => void add()}>
          {wanted.length === 1 ? "Add 1 snippet" : `Add ${wanted.length} snippets`}
        </Button>,
      ]}
    >
      <label htmlFor="list-text">
        One a line: the abbreviation, then a tab, <kbd>=</kbd> or a comma, then the text
      </label>
      <Input.TextArea
        id="list-text"
        className="mono"
        autoSize={{ minRows: 4, maxRows: 8 }}
        spellCheck={false}
        placeholder={"brb\tbe right back\nomw = on my way\ntks, thank you"}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {error && <p className="fault">{error.message}</p>}
      {shown.length > 0 && (
        <div className="list-preview">
          <table>
            <thead>
              <tr>
                <th scope="col">Add</th>
                <th scope="col">Line</th>
                <th scope="col">Set off by</th>
                <th scope="col">What goes in</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((line) => (
                <LineRow
                  key={line.line}
                  line={line}
                  wanted={!without.has(line.line)}
                  onWant={(wants) => {
                    const next = new Set(without);
                    if (wants) next.delete(line.line);
                    else next.add(line.line);
                    setWithout(next);
                  }}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Dialog>
  );
}

function LineRow({ line, wanted, onWant }: { line: ListLine; wanted: boolean; onWant: (wants: boolean) => void }) {
  return (
    <tr>
      <td>
        <input
          type="checkbox"
          aria-label={`Add line ${line.line}`}
          disabled={line.problem !== null}
          checked={line.problem === null && wanted}
          onChange={(event) => onWant(event.target.checked)}
        />
      </td>
      <td className="soft">{line.line}</td>
      <td>{line.code !== "" && <span className="tag">{line.code}</span>}</td>
      <td>
        {line.text}
        {line.problem !== null && <p className="fault">{line.problem}</p>}
        {line.caution !== null && <p className="caution">{line.caution}</p>}
      </td>
    </tr>
  );
}

import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useRef, useState } from "react";
import { FileInput } from "../ui/FileInput";
import { ApiError, api, unwrap, type Backup } from "../api/client";
import { keys, queryClient } from "../api/queries";
import { toast } from "../ui/toasts";
import { attempt } from "../items/useLibraryActions";
import { moment, reasons, size } from "../words/historyWords";
import { undo } from "../items/undoing";

/** The backups: made by themselves, restored with one click, downloaded and brought in as one file. */
export function BackupList() {
  const picker = useRef<HTMLInputElement>(null);
  const [working, setWorking] = useState<string>();
  const { data, error } = useQuery({
    queryKey: [...keys.history, "backups"],
    queryFn: () => unwrap(api.GET("/api/backups")),
  });
  const { data: rules } = useQuery({
    queryKey: ["backup-rules"],
    queryFn: () => unwrap(api.GET("/api/backups/rules")),
    staleTime: Infinity,
  });

  const during = async (what: string, work: () => Promise<void>) => {
    setWorking(what);
    await attempt(work);
    setWorking(undefined);
  };
  const make = () =>
    during("making", async () => {
      const made = await unwrap(api.POST("/api/backups"));
      toast(`A backup with ${made.snippets} snippets is made.`);
    });
  const restore = (backup: Backup) =>
    during(backup.name, async () => {
      await unwrap(api.POST("/api/backups/{name}/restore", { params: { path: { name: backup.name } } }));
      toast(`Everything is as it was on ${moment(backup.at)}.`, {
        detail: "What there was before is the newest backup.",
        action: { label: "Undo", act: () => void undo() },
      });
      await queryClient.invalidateQueries();
    });
  const bringIn = (file: File) =>
    during("bringing", async () => {
      const answer = await fetch("/api/backups/file", {
        method: "POST",
        headers: { "content-type": "application/octet-stream" },
        body: file,
      });
      const body: unknown = await answer.json();
      if (!answer.ok) throw new ApiError(body as ApiError["problem"]);
      toast("The backup is in the list. Nothing else has changed yet.");
    });

  if (error) return <p className="fault">{error.message}</p>;
  return (
    <>
      <p className="history-actions">
        <Button loading={working === "making"} onClick={() => void make()}>
          Make a backup now
        </Button>
        <Button loading={working === "bringing"} onClick={() => picker.current?.click()}>
          Bring one in from a file …
        </Button>
        <FileInput ref={picker} accept=".sqlite" label="Backup file" onFile={(file) => void bringIn(file)} />
      </p>
      {rules && (
        <p className="soft">
          Made once a day and before imports, restores and updates. Kept: the last of {rules.backupDays} days, of{" "}
          {rules.backupWeeks} weeks and of {rules.backupMonths} months, and the newest {rules.backupOthers} that were
          made for each other reason.
        </p>
      )}
      {data?.length === 0 && <p className="soft">There is no backup yet.</p>}
      {data && data.length > 0 && (
        <table className="history-table">
          <thead>
            <tr>
              <th>When</th>
              <th>Why</th>
              <th>What is in it</th>
              <th className="number">Size</th>
              <th>
                <span className="visually-hidden">What can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.map((backup) => (
              <tr key={backup.name}>
                <td>{moment(backup.at)}</td>
                <td className="soft">{reasons[backup.reason] ?? backup.reason}</td>
                <td className="soft">
                  {backup.libraries} libraries, {backup.snippets} snippets
                </td>
                <td className="number soft">{size(backup.bytes)}</td>
                <td className="history-buttons">
                  <Button
                    size="small"
                    loading={working === backup.name}
                    aria-label={`Restore the backup of ${moment(backup.at)}`}
                    onClick={() => void restore(backup)}
                  >
                    Restore
                  </Button>
                  <a href={`/api/backups/${encodeURIComponent(backup.name)}/file`} download>
                    Download
                  </a>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { api, unwrap } from "../api/client";
import { keys } from "../api/queries";
import { moment } from "../words/historyWords";
import { redo, setUndone, undo } from "../items/undoing";

/** The last hundred changes with what they did; each can be undone for itself, as long as nothing else stands against it. */
export function ChangeList() {
  const { data, error } = useQuery({
    queryKey: [...keys.history, "changes"],
    queryFn: () => unwrap(api.GET("/api/changes")),
  });
  if (error) return <p className="fault">{error.message}</p>;
  if (!data) return <p className="soft">Looking …</p>;
  return (
    <>
      <p className="history-actions">
        <Button disabled={data.nextToUndo === null} onClick={() => void undo()}>
          Undo the last one <kbd>Ctrl+Z</kbd>
        </Button>
        <Button disabled={data.nextToRedo === null} onClick={() => void redo()}>
          Do it again <kbd>Ctrl+Shift+Z</kbd>
        </Button>
      </p>
      {data.changes.length === 0 && <p className="soft">Nothing was changed yet.</p>}
      {data.changes.length > 0 && (
        <table className="history-table">
          <thead>
            <tr>
              <th>When</th>
              <th>What was done</th>
              <th>
                <span className="visually-hidden">What can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.changes.map((change) => (
              <tr key={change.id} className={change.undone ? "undone" : ""}>
                <td className="soft">{moment(change.at)}</td>
                <td>
                  {change.what}
                  {change.undone && <span className="soft"> – undone</span>}
                </td>
                <td>
                  <Button
                    size="small"
                    aria-label={`${change.undone ? "Do again" : "Undo"}: ${change.what}`}
                    onClick={() => void setUndone(change.id, !change.undone)}
                  >
                    {change.undone ? "Do again" : "Undo"}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

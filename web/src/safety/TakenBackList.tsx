import { App, Button } from "antd";
import { api, unwrap, type Board } from "../api/client";
import { keys, queryClient, useEngine } from "../api/queries";
import { keyLabel } from "../words/ruleWords";
import { TriggerLink } from "./OverlapSentence";

/** Misfires that really happened: firings that were taken back, the most often first. */
export function TakenBackList({ board }: { board: Board }) {
  const { message } = App.useApp();
  const { data: engine } = useEngine();
  const forget = async (snippetId: number, trigger: string) => {
    try {
      await unwrap(api.DELETE("/api/safety/record", { params: { query: { snippetId, trigger } } }));
    } catch (error) {
      void message.error((error as Error).message);
    }
    await queryClient.invalidateQueries({ queryKey: keys.board });
  };
  if (board.takenBack.length === 0)
    return (
      <p className="soft">
        Nothing was taken back yet. When a text goes in unasked, take it back with{" "}
        <kbd>{keyLabel(engine?.settings.chords.takeBack ?? "")}</kbd>; it is counted here.
      </p>
    );
  return (
    <ul className="finding-list" aria-label="Taken back">
      {board.takenBack.map((record) => {
        const often = record.takenBack >= 3 || record.takenBack * 2 >= record.fired;
        return (
          <li key={`${record.snippetId} ${record.trigger}`}>
            <span>
              <TriggerLink {...record} /> was taken back{" "}
              <strong className={often ? "caution" : ""}>
                {record.takenBack} of {record.fired} times
              </strong>
              {often &&
                (record.atOnce ? " – change its letters or make it wait for a closing key" : " – change its letters")}
            </span>
            <span className="finding-actions">
              <Button size="small" type="text" onClick={() => void forget(record.snippetId, record.trigger)}>
                Forget
              </Button>
            </span>
          </li>
        );
      })}
    </ul>
  );
}

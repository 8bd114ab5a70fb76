import { App, Button, Progress } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { FormPopover } from "../ui/FormPopover";
import { editSnippet } from "../items/useLibraryActions";
import { api, unwrap, type Board, type Misfire } from "../api/client";
import { keys, librariesChanged, queryClient } from "../api/queries";
import { Grade } from "../words/Grade";
import { perTenThousand, ruleAddress } from "../words/safetyWords";
import { Suggestions } from "./Suggestions";
import { WordLists } from "./WordLists";

/** The triggers that ordinary text sets off, the worst first. */
export function ForecastList({ board }: { board: Board }) {
  const { message } = App.useApp();
  const work = async (ask: () => Promise<Board>) => {
    try {
      queryClient.setQueryData(keys.board, await ask());
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return (
    <>
      <div className="forecast-head">
        <WordLists />
        {board.state === "working" && (
          <span className="progress-line">
            <Progress percent={Math.round(board.progress * 100)} size="small" aria-label="Forecast" />
            <Button size="small" onClick={() => void work(() => unwrap(api.DELETE("/api/safety/work")))}>
              Stop
            </Button>
          </span>
        )}
        {board.state === "stopped" && (
          <span className="progress-line">
            <span className="caution">Stopped: what is below may be out of date.</span>
            <Button size="small" onClick={() => void work(() => unwrap(api.POST("/api/safety/work")))}>
              Go on
            </Button>
          </span>
        )}
      </div>
      {board.misfires.length === 0 && board.state === "ready" && (
        <p className="soft">All {board.triggers} triggers are quiet: ordinary text sets none of them off.</p>
      )}
      {board.misfires.length > 0 && (
        <table className="finding-table">
          <thead>
            <tr>
              <th scope="col">Trigger</th>
              <th scope="col">Grade</th>
              <th scope="col">In 10&nbsp;000 words</th>
              <th scope="col">The words that set it off</th>
              <th scope="col">
                <span className="visually-hidden">What can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {board.misfires.map((misfire) => (
              <MisfireRow key={`${misfire.snippetId} ${misfire.trigger}`} misfire={misfire} />
            ))}
          </tbody>
        </table>
      )}
      {board.state === "ready" && board.misfires.length > 0 && (
        <p className="soft">The other {board.triggers - board.misfires.length} are quiet.</p>
      )}
    </>
  );
}

function MisfireRow({ misfire }: { misfire: Misfire }) {
  const { message } = App.useApp();
  const [open, setOpen] = useState(false);
  const take = async (text: string) => {
    setOpen(false);
    try {
      const { snippet } = await unwrap(api.GET("/api/snippets/{id}", { params: { path: { id: misfire.snippetId } } }));
      const before = (snippet.triggers ?? []).find(
        (trigger) => trigger.text === misfire.trigger && trigger.kind === "abbreviation",
      );
      if (!before) throw new Error(`${misfire.trigger} is not there any more.`);
      await editSnippet(misfire.snippetId, {}, {}, [{ before, after: { ...before, text, leftEdge: null } }]);
      void message.success(`${misfire.snippet} is set off by ${text} now.`, 5);
    } catch (error) {
      void message.error((error as Error).message, 6);
    }
    await librariesChanged();
  };
  return (
    <tr>
      <td>
        <Link to={ruleAddress(misfire.snippetId, misfire.trigger, "timing")} className="trigger-link">
          <span className="tag">{misfire.trigger}</span> {misfire.snippet}
          <span className="soft"> in {misfire.library}</span>
        </Link>
      </td>
      <td>
        <Grade grade={misfire.grade} />
      </td>
      <td className="number">{perTenThousand(misfire.per10kWords)}</td>
      <td className="causes soft">
        {misfire.words.map(({ word, per10kWords }) => `${word} ${perTenThousand(per10kWords)}`).join(", ")}
      </td>
      <td aria-label="What can be done">
        <FormPopover
          name="Suggested abbreviations"
          placement="left"
          open={open}
          onOpenChange={setOpen}
          content={
            <Suggestions name={misfire.snippet} snippetId={misfire.snippetId} onTake={(text) => void take(text)} />
          }
        >
          <Button size="small">Safer ones</Button>
        </FormPopover>
      </td>
    </tr>
  );
}

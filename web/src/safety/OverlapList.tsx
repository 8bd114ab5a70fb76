import { App, Button, Checkbox, Dropdown } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, unwrap, type Board, type Overlap } from "../api/client";
import { keys, queryClient, useLibraries } from "../api/queries";
import { useLibraryActions } from "../libraries/useLibraryActions";
import { visibleRows } from "../libraries/rows";
import { OverlapSentence } from "./OverlapSentence";
import { mendingRule, overlapKey, ruleAddress } from "./safetyWords";

/** Every overlap with its witness and what can be done about it. */
export function OverlapList({ board }: { board: Board }) {
  const { message } = App.useApp();
  const navigate = useNavigate();
  const actions = useLibraryActions();
  const { data: tree } = useLibraries();
  const [ignoredToo, setIgnoredToo] = useState(false);
  const ignored = board.overlaps.filter((found) => found.ignored).length;
  const shown = board.overlaps.filter((found) => ignoredToo || !found.ignored);

  const ignore = async ({ kind, winner, loser }: Overlap, on: boolean) => {
    try {
      const body = {
        kind,
        winnerSnippetId: winner.snippetId,
        winnerTrigger: winner.trigger,
        loserSnippetId: loser.snippetId ?? 0,
        loserTrigger: loser.trigger,
        ignored: on,
      };
      await unwrap(api.PUT("/api/safety/ignored", { body }));
    } catch (error) {
      void message.error((error as Error).message);
    }
    await queryClient.invalidateQueries({ queryKey: keys.board });
  };

  const rowOf = (snippetId: number | null) =>
    tree && visibleRows(tree, new Set()).find((row) => row.kind === "snippet" && row.id === snippetId);

  const switchOff = async (snippetId: number | null) => {
    const row = rowOf(snippetId);
    if (!row) return;
    await actions.toggle(row);
    void message.success(`“${row.name}” is off. Switch it on again in the libraries.`, 6);
  };

  const raise = async ({ winner, loser }: Overlap) => {
    const rows = tree ? visibleRows(tree, new Set()).filter((row) => row.kind === "library") : [];
    const upper = rows.find((row) => row.name === winner.library);
    const lower = rows.find((row) => row.name === loser.library);
    if (!upper || !lower) return;
    await actions.move(lower, { libraryId: lower.id, folderId: null, before: upper.id });
    void message.success(`${lower.name} stands above ${upper.name} now, so its trigger wins.`, 6);
  };

  const menu = (overlap: Overlap) => {
    const { winner, loser, kind } = overlap;
    const rule = mendingRule[kind] ?? "letters";
    const mended = winner.snippetId === null ? loser : winner;
    return {
      items: [
        { key: "letters", label: `Change ${loser.trigger}` },
        {
          key: "rule",
          label:
            rule === "letters"
              ? `Change ${mended.trigger} in ${mended.library || "its library"}`
              : `Change the rule of ${mended.trigger}`,
        },
        ...(winner.library !== loser.library && winner.snippetId !== null
          ? [{ key: "raise", label: `Move ${loser.library} above ${winner.library}` }]
          : []),
        { type: "divider" as const },
        ...(winner.snippetId === null ? [] : [{ key: "winner-off", label: `Switch ${winner.snippet} off` }]),
        { key: "loser-off", label: `Switch ${loser.snippet} off` },
      ],
      onClick: ({ key }: { key: string }) => {
        if (key === "letters") void navigate(ruleAddress(loser.snippetId, loser.trigger, "letters"));
        if (key === "rule") void navigate(ruleAddress(mended.snippetId, mended.trigger, rule));
        if (key === "raise") void raise(overlap);
        if (key === "winner-off") void switchOff(winner.snippetId);
        if (key === "loser-off") void switchOff(loser.snippetId);
      },
    };
  };

  return (
    <>
      {ignored > 0 && (
        <Checkbox checked={ignoredToo} onChange={(event) => setIgnoredToo(event.target.checked)}>
          Show the {ignored} that {ignored === 1 ? "is" : "are"} ignored
        </Checkbox>
      )}
      {shown.length === 0 && <p className="soft">Nothing gets in the way of anything else.</p>}
      <ul className="finding-list" aria-label="Overlaps">
        {shown.map(({ overlap, ignored: isIgnored }) => (
          <li key={overlapKey(overlap)} className={isIgnored ? "ignored" : ""}>
            <OverlapSentence overlap={overlap} />
            <span className="finding-actions">
              <Dropdown trigger={["click"]} menu={menu(overlap)}>
                <Button size="small">Mend</Button>
              </Dropdown>
              <Button size="small" type="text" onClick={() => void ignore(overlap, !isIgnored)}>
                {isIgnored ? "Take up again" : "Ignore"}
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

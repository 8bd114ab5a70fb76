import { App, Button, Checkbox, Dropdown } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, unwrap, type Board, type Overlap } from "../api/client";
import { keys, queryClient, useLibraries } from "../api/queries";
import { toast } from "../ui/toasts";
import { undo } from "../items/undoing";
import { useLibraryActions } from "../items/useLibraryActions";
import { OverlapSentence } from "./OverlapSentence";
import { mendingRule, overlapKey, ruleAddress } from "../words/safetyWords";

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

  const switchOff = async (id: number | null, name: string) => {
    if (id === null) return;
    await actions.toggle({ id, kind: "snippet", enabled: true });
    toast(`“${name}” is off.`, { action: { label: "Undo", act: () => void undo() } });
  };

  const raise = async ({ winner, loser }: Overlap) => {
    const of = (name: string) => tree?.libraries.find((library) => library.name === name);
    const [upper, lower] = [of(winner.library), of(loser.library)];
    if (!upper || !lower) return;
    await actions.move([lower.id], null, upper.id);
    toast(`${lower.name} stands above ${upper.name} now, so its trigger wins.`, {
      key: "undo",
      action: { label: "Undo", act: () => void undo() },
    });
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
        if (key === "winner-off") void switchOff(winner.snippetId, winner.snippet);
        if (key === "loser-off") void switchOff(loser.snippetId, loser.snippet);
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

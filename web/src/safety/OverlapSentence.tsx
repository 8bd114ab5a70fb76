import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Overlap } from "../api/client";
import { Keys } from "./Keys";
import { overlapVerbs, ruleAddress } from "../words/safetyWords";
import { shortened } from "../words/graphemes";
import "./safety.css";

/** An overlap as a sentence, with the keys that show it. */
export function OverlapSentence({ overlap, own }: { overlap: Overlap; own?: number }) {
  const { winner, loser, witness, kind } = overlap;
  return (
    <span className="overlap-sentence">
      {winner.snippetId === null ? <strong>{winner.snippet}</strong> : <TriggerLink {...winner} own={own} />}
      <span> {overlapVerbs[kind] ?? kind} </span>
      <TriggerLink {...loser} own={own} />
      {kind !== "taken-hotkey" && (
        <span className="witness soft">
          {own === undefined ? "" : " · "}
          Type <Keys keys={witness.keys} />
          {witness.app && ` in ${witness.app}`} → <Shown text={witness.text} />
        </span>
      )}
    </span>
  );
}

export function TriggerLink(props: {
  snippetId: number | null;
  snippet: string;
  library: string;
  trigger: string;
  own?: number | undefined;
}) {
  const tag = <span className="tag">{props.trigger}</span>;
  if (props.snippetId === props.own || props.snippetId === null || props.snippetId < 0) return tag;
  return (
    <Link to={ruleAddress(props.snippetId, props.trigger, "letters")} className="trigger-link">
      {tag} {props.snippet}
      <span className="soft"> in {props.library}</span>
    </Link>
  );
}

/** A text that was put in, with its line ends shown and cut where it grows long. */
export function Shown({ text }: { text: string }): ReactNode {
  return <q className="shown">{shortened(text.replaceAll("\n", " ⏎ "), 70)}</q>;
}

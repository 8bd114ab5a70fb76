import type { TriggerDocument } from "../api/client";

/** A snippet's triggers as paper tags. */
export function Tags({ triggers }: { triggers: TriggerDocument[] }) {
  return (
    <span className="tags">
      {triggers.map((trigger, at) => (
        <span key={at} className="tag" data-kind={trigger.kind} title={trigger.text ?? ""}>
          {trigger.text}
        </span>
      ))}
    </span>
  );
}

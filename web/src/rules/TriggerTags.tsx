import type { TriggerSketch } from "../api/client";

/** A snippet's triggers as paper tags. */
export function TriggerTags({ triggers }: { triggers: TriggerSketch[] }) {
  return (
    <span className="tags">
      {triggers.map((trigger, at) => (
        <span key={at} className="tag" data-kind={trigger.kind} title={trigger.text}>
          {trigger.text}
        </span>
      ))}
    </span>
  );
}

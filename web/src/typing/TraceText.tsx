import { Fragment } from "react";
import type { Trace } from "../api/client";

/** A reason in words: abbreviations as tags, names set off. */
export function ReasonText({ why }: { why: string }) {
  const parts = why.split(/(`[^`]+`|\*[^*]+\*)/);
  return (
    <>
      {parts.map((part, at) => {
        if (part.startsWith("`"))
          return (
            <span key={at} className="tag">
              {part.slice(1, -1)}
            </span>
          );
        if (part.startsWith("*")) return <em key={at}>{part.slice(1, -1)}</em>;
        return <Fragment key={at}>{part}</Fragment>;
      })}
    </>
  );
}

const words: Record<string, string> = {
  typed: "typed",
  waits: "waits",
  "gives-way": "gives way",
  "near-miss": "near miss",
  fires: "goes off",
  "takes-back": "taken back",
  quiet: "quiet",
  reset: "starts anew",
  resting: "resting",
};

/** What the engine did with a key, and why. */
export function TraceText({ trace }: { trace: Trace }) {
  return (
    <span className="trace-text">
      <span className="trace-event" data-event={trace.event}>
        {words[trace.event] ?? trace.event}
      </span>{" "}
      {trace.reasons.map((reason, at) => (
        <span key={reason.why}>
          {at > 0 && "; "}
          <ReasonText why={reason.why} />
        </span>
      ))}
    </span>
  );
}

import { useEffect, useRef, useState } from "react";
import type { Decision } from "../api/client";
import { TraceText } from "../typing/TraceText";
import { typingSession } from "../typing/TypingSession";
import { useTypingControl } from "../typing/useTypingField";

/** The typing line that tests triggers on the spot, with the reason for every key. */
export function ProofLine() {
  const field = useRef<HTMLInputElement>(null);
  const [decision, setDecision] = useState<Decision>();
  useTypingControl(field, { place: "proof-line", app: "proof-line", name: "Proof line", kind: "plain" });
  useEffect(
    () => typingSession.onDecided((decided) => decided.place === "proof-line" && setDecision(decided.decision)),
    [],
  );
  return (
    <section className="proof" aria-label="Proof line">
      <label htmlFor="proof-line">Proof line</label>
      <input
        id="proof-line"
        ref={field}
        placeholder="Type an abbreviation here"
        autoComplete="off"
        spellCheck={false}
      />
      <div className="proof-why" aria-live="polite">
        {decision?.trace ? (
          <>
            <TraceText trace={decision.trace} />
            {decision.hint && <span className="soft"> → {decision.hint.firstWords}</span>}
          </>
        ) : (
          <span className="soft">Each key is explained here: what went off, what waits, and what kept it back.</span>
        )}
      </div>
    </section>
  );
}

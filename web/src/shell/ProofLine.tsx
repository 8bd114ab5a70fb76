import { useEffect, useRef, useState } from "react";
import type { HostAnswer } from "../api/client";
import { OfferLine } from "./OfferLine";
import { TraceText } from "../typing/TraceText";
import { typingSession } from "../typing/TypingSession";
import { useTypingControl } from "../typing/useTypingControl";

/** The typing line that tests triggers on the spot, with the reason for every key. */
export function ProofLine() {
  const field = useRef<HTMLInputElement>(null);
  const [answer, setAnswer] = useState<HostAnswer>();
  useTypingControl(field, { place: "proof-line", app: "proof-line", name: "Proof line", kind: "plain" });
  useEffect(() => {
    const stops = [
      typingSession.look("proof-line"),
      typingSession.on("decided", (decided) => decided.place === "proof-line" && setAnswer(decided.answer)),
    ];
    return () => stops.forEach((stop) => stop());
  }, []);
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
      <div className="proof-told">
        <OfferLine />
        <div className="proof-why" aria-live="polite">
          {answer?.trace ? (
            <>
              <TraceText trace={answer.trace} />
              {answer.hint && <span className="soft"> → {answer.hint.preview}</span>}
            </>
          ) : (
            <span className="soft">Each key is explained here: what went off, what waits, and what kept it back.</span>
          )}
        </div>
      </div>
    </section>
  );
}

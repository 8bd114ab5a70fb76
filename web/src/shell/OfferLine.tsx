import { useEffect, useState } from "react";
import type { Offer } from "../api/client";
import { keyLabel } from "../words/ruleWords";
import { typingSession } from "../typing/TypingSession";

/** A quiet line beside the proof line: how what is being typed may go on. Whoever types on passes over it. */
export function OfferLine() {
  const [offer, setOffer] = useState<Offer | null>(null);
  useEffect(() => typingSession.on("offer", setOffer), []);
  return (
    <div className="offer-line" aria-live="polite">
      {offer && (
        <>
          <span className="offer-rest">… {offer.rest}</span>
          <kbd>{offerKey(offer.key)}</kbd>
          {offer.snippet !== null && <span className="soft">{offer.snippet}</span>}
          {offer.of > 1 && (
            <span className="soft">
              {offer.at} of {offer.of}, <kbd>Alt ↓</kbd> for the next
            </span>
          )}
        </>
      )}
    </div>
  );
}

const offerKey = (key: string): string => (key === "ArrowRight" ? "→" : keyLabel(key));

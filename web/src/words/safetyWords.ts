import type { Overlap } from "../api/client";

/** What the grades mean, for somebody who sees them for the first time. */
export const grades: Record<string, { name: string; long: string }> = {
  quiet: { name: "quiet", long: "less than once in 100 000 words" },
  rare: { name: "rare", long: "less than once in 10\u00a0000 words" },
  nagging: { name: "nagging", long: "up to ten times in 10\u00a0000 words" },
  unusable: { name: "unusable", long: "ten times or more in 10\u00a0000 words" },
};

/** What the winner does to the loser. */
export const overlapVerbs: Record<string, string> = {
  same: "is typed the same way and goes off instead of",
  "cut-short": "goes off before one has finished typing",
  "hidden-inside": "goes off in the middle of",
  "closed-early": "is closed by a character of",
  "same-hotkey": "is pressed the same way and goes off instead of",
  "taken-hotkey": "already answers to",
  "pattern-covers-abbreviation": "covers",
};

/** Which of the two can be changed to mend it, and the rule that decides. */
export const mendingRule: Record<string, string> = {
  same: "letters",
  "cut-short": "timing",
  "hidden-inside": "left-edge",
  "closed-early": "timing",
  "same-hotkey": "letters",
  "taken-hotkey": "letters",
  "pattern-covers-abbreviation": "letters",
};

export const suggestionWords: Record<string, string> = {
  "leading-sign": "your usual sign in front",
  initials: "initials of the name",
  consonants: "consonants only",
  "trailing-sign": "a sign behind",
  "doubled-letter": "first letter doubled",
  "prefix-word": "a short word in front",
  beginnings: "first letters of each word",
};

export const perTenThousand = (rate: number): string =>
  rate === 0 ? "never" : rate < 0.01 ? "under 0.01" : rate < 10 ? rate.toFixed(2) : rate.toFixed(0);

export const overlapKey = (overlap: Overlap): string =>
  [
    overlap.kind,
    overlap.winner.snippetId,
    overlap.winner.trigger,
    overlap.loser.snippetId,
    overlap.loser.trigger,
    overlap.witness.keys.join(" "),
  ].join("|");

/** The address of a trigger's rule on its snippet's page. */
export const ruleAddress = (snippetId: number | null, trigger: string, rule: string): string =>
  `/snippets/${snippetId}?trigger=${encodeURIComponent(trigger)}&rule=${rule}`;

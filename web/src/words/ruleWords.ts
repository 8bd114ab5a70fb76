import type { Defaults, TriggerDocument, TriggerSketch } from "../api/client";
import { deskApps } from "./deskApps";
import { graphemes } from "./graphemes";

/** The rules of a trigger in the words of the table and the anatomy strip. */
export const timings = {
  "at-once": { short: "at once", long: "At once, on its last character" },
  "closing-key": { short: "closing key", long: "After a closing key" },
  "double-closing-key": { short: "closing key twice", long: "After the same closing key pressed twice" },
} as const;

export const leftEdges = {
  space: { short: "after a space", long: "After a space, an opening bracket or quotation mark" },
  word: { short: "at a word’s start", long: "At a word’s start: not inside don’t, 12.30 or gate.com" },
  any: { short: "anywhere", long: "Anywhere, even inside a word" },
} as const;

export const letterCases = {
  either: { short: "either case", long: "Either case; the text goes in as written" },
  exact: { short: "exactly as written", long: "Exactly as written; other capitals do nothing" },
  mirror: { short: "follow my capitals", long: "Follow my capitals: Teh gives The, TEH gives THE" },
} as const;

export const scopes = {
  everywhere: { short: "everywhere", long: "In every application" },
  "only-in": { short: "only in", long: "Only in these applications" },
  "not-in": { short: "not in", long: "In every application but these" },
} as const;

export const deliveries: Record<string, string> = {
  automatic: "as fits the field: short plain text typed, everything else through the clipboard",
  keystrokes: "as keystrokes, without formatting",
  clipboard: "through the clipboard",
};

export const linkWritings: Record<string, string> = {
  "as-set": "as in the settings",
  "with-address": "with their address behind the words",
  "words-only": "the words alone",
};

/** The applications that a scope can name. */
export const applications: readonly { id: string; name: string }[] = [
  ...deskApps,
  { id: "proof-line", name: "Proof line" },
];

const short = (words: Record<string, { short: string }>, key: string | null | undefined): string =>
  key ? (words[key]?.short ?? key) : "";

type Shown = TriggerDocument | TriggerSketch;

export const timingWords = (trigger: Shown): string =>
  trigger.kind === "hotkey" ? "when pressed" : short(timings, trigger.timing);

export const caseWords = (trigger: Shown): string => short(letterCases, trigger.case);

export const appName = (id: string): string => applications.find((app) => app.id === id)?.name ?? id;

export function scopeWords({ scope }: Shown): string {
  if (!scope?.mode || scope.mode === "everywhere") return "everywhere";
  const apps = (scope.apps ?? []).map(appName).join(", ");
  return scope.mode === "only-in" ? `only ${apps}` : `not ${apps}`;
}

/** The closing keys a library has unless it says otherwise (the design's default set). */
export const defaultClosingKeys = [" ", "Tab", "Enter", ...graphemes(".,;:!?)]}\"'’”/-–—")];

export const keyLabel = (key: string): string => key.replace(/(?<=^|\+) $/, "Space");

/** The left edge a trigger has unless it says otherwise. */
export const defaultEdge = (text: string): "word" | "space" =>
  text === "" || /^[\p{L}\p{N}]/u.test(text) ? "word" : "space";

/** The rules of a trigger that are not what they would be without a word said. */
export function chosenRules(trigger: TriggerDocument): Set<"leftEdge" | "case" | "timing" | "keep" | "scope"> {
  const chosen = new Set<"leftEdge" | "case" | "timing" | "keep" | "scope">();
  const timing = trigger.timing ?? "closing-key";
  if (trigger.leftEdge && trigger.leftEdge !== defaultEdge(trigger.text ?? "")) chosen.add("leftEdge");
  if (trigger.case && trigger.case !== "either") chosen.add("case");
  if (timing !== "closing-key" || trigger.closingKeys) chosen.add("timing");
  if (timing !== "at-once" && (trigger.keepClosingKey ?? true) !== (timing !== "double-closing-key"))
    chosen.add("keep");
  if (trigger.scope?.mode && trigger.scope.mode !== "everywhere") chosen.add("scope");
  return chosen;
}

/** A trigger to begin with, as its place wants it. */
export function newAbbreviation(defaults: Defaults, part: Partial<TriggerDocument>): TriggerDocument {
  const timing = defaults.timing ?? "closing-key";
  return {
    kind: "abbreviation",
    text: "",
    timing,
    leftEdge: defaults.leftEdge ?? "word",
    case: defaults.case ?? "either",
    keepClosingKey: defaults.keepClosingKey ?? timing !== "double-closing-key",
    closingKeys: defaults.closingKeys ?? null,
    givesWay: true,
    scope: defaults.scope ?? { mode: "everywhere", apps: [] },
    ...part,
  };
}

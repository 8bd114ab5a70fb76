import type { DrillQuestion } from "../api/client";

/** A drill under way: what is still to be asked, and how it went. */
export interface Drilling {
  left: readonly DrillQuestion[];
  /** Whether the abbreviation of the first one is shown, because it was not known. */
  shown: boolean;
  known: number;
  unknown: number;
  /** What went off instead of what was asked for. */
  other: string | undefined;
}

export type DrillEvent =
  { kind: "fired"; snippetId: number; snippet: string } | { kind: "unknown" } | { kind: "skipped" };

export const begun = (questions: readonly DrillQuestion[]): Drilling => ({
  left: questions,
  shown: false,
  known: 0,
  unknown: 0,
  other: undefined,
});

/** What is to be told to the program about an answer; nothing where it is no answer yet. */
export interface Told {
  snippetId: number;
  trigger: string;
  right: boolean;
}

/** What comes of an event, and what is to be told. */
export function next(before: Drilling, event: DrillEvent): { now: Drilling; told: Told | undefined } {
  const asked = before.left[0];
  if (!asked) return { now: before, told: undefined };
  const told = (right: boolean): Told => ({ snippetId: asked.snippetId, trigger: asked.trigger, right });
  const rest = before.left.slice(1);
  switch (event.kind) {
    case "fired":
      // Another one went off: it is said, and one may try again.
      if (event.snippetId !== asked.snippetId) return { now: { ...before, other: event.snippet }, told: undefined };
      // What had to be shown was counted then; it comes again at the end.
      return before.shown
        ? { now: { ...before, left: [...rest, asked], shown: false, other: undefined }, told: undefined }
        : { now: { ...before, left: rest, known: before.known + 1, other: undefined }, told: told(true) };
    case "unknown":
      return before.shown
        ? { now: before, told: undefined }
        : { now: { ...before, shown: true, unknown: before.unknown + 1, other: undefined }, told: told(false) };
    default:
      return { now: { ...before, left: rest, shown: false, other: undefined }, told: undefined };
  }
}

/** How long a drill lasts. */
export const drillMinutes = 5;

/** The time that is left, as minutes and seconds. */
export function timeLeft(seconds: number): string {
  const left = Math.max(0, Math.ceil(seconds));
  return `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")}`;
}

import type { LearningSettings, Phrase, Sprout } from "../api/client";
import { appName } from "../words/ruleWords";

/** For how long a phrase is remembered that is not typed any more. */
export const keepChoices: readonly { days: number; label: string }[] = [
  { days: 30, label: "a month" },
  { days: 90, label: "three months" },
  { days: 180, label: "half a year" },
  { days: 365, label: "a year" },
];

/** The keys that are proposed for taking an offer, each with what is to be known of it. */
export const takeKeys: readonly { key: string; label: string }[] = [
  { key: "ArrowRight", label: "→, at the end of a line" },
  { key: "End", label: "End" },
  { key: "F8", label: "F8" },
  { key: "Ctrl+Alt+Enter", label: "Ctrl+Alt+Enter" },
];

/** What is done with what is typed, in one line. */
export function choiceWords({ learns, offers, misses, scope }: LearningSettings): string {
  const done = [
    learns && "phrases that come back are remembered",
    offers && "the rest of what you begin is offered",
    misses && "missed chances are said",
  ].filter((words): words is string => typeof words === "string");
  if (done.length === 0) return "Nothing is done with what you type.";
  const last = done.pop() ?? "";
  const all = done.length === 0 ? last : `${done.join(", ")} and ${last}`;
  return `${all[0]?.toUpperCase()}${all.slice(1)} ${scopeWords(scope)}.`;
}

function scopeWords({ mode, apps }: LearningSettings["scope"]): string {
  const names = (apps ?? []).map(appName).join(", ");
  if (mode === "only-in") return `in ${names} only`;
  return mode === "not-in" ? `everywhere but in ${names}` : "in every application";
}

export const timesWords = (times: number): string => (times === 1 ? "once" : times === 2 ? "twice" : `${times} times`);

/** A text that varies, with its gaps named. */
export const sproutText = ({ parts }: Pick<Sprout, "parts">): string =>
  parts.map(({ text, kind }) => text ?? `⟨${kind ?? ""}⟩`).join("");

/** Phrases that hold some words, in any of their texts. */
export function phrasesWith(phrases: readonly Phrase[], words: string): readonly Phrase[] {
  const wanted = words.trim().toLocaleLowerCase();
  if (wanted === "") return phrases;
  return phrases.filter(({ texts }) => texts.some((text) => text.toLocaleLowerCase().includes(wanted)));
}

/** A day as people write it. */
export const dayWords = (moment: string): string =>
  new Date(moment).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });

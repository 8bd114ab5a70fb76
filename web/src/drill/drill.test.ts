import { expect, test } from "vitest";
import type { DrillQuestion } from "../api/client";
import { begun, next, timeLeft, type DrillEvent } from "./drill";

const question = (snippetId: number): DrillQuestion => ({
  snippetId,
  name: `Snippet ${snippetId}`,
  goesIn: "",
  trigger: `;${snippetId}`,
  closes: false,
  box: 0,
});

const fired = (snippetId: number): DrillEvent => ({ kind: "fired", snippetId, snippet: `Snippet ${snippetId}` });

test("what is known goes, and is told as known", () => {
  const { now, told } = next(begun([question(1), question(2)]), fired(1));
  expect(told).toEqual({ snippetId: 1, trigger: ";1", right: true });
  expect(now).toMatchObject({ known: 1, unknown: 0, shown: false });
  expect(now.left.map(({ snippetId }) => snippetId)).toEqual([2]);
});

test("another one is said, and one may try again", () => {
  const { now, told } = next(begun([question(1)]), fired(7));
  expect(told).toBeUndefined();
  expect(now).toMatchObject({ other: "Snippet 7", known: 0 });
  expect(next(now, fired(1)).now).toMatchObject({ known: 1, other: undefined });
});

test("what is not known is shown, told once, typed once, and comes again at the end", () => {
  const shown = next(begun([question(1), question(2)]), { kind: "unknown" });
  expect(shown.told).toEqual({ snippetId: 1, trigger: ";1", right: false });
  expect(next(shown.now, { kind: "unknown" }).told).toBeUndefined();
  const typed = next(shown.now, fired(1));
  expect(typed.told).toBeUndefined();
  expect(typed.now.left.map(({ snippetId }) => snippetId)).toEqual([2, 1]);
  expect(typed.now).toMatchObject({ unknown: 1, known: 0, shown: false });
});

test("what is left out is not told, and an empty drill stays empty", () => {
  const { now, told } = next(begun([question(1)]), { kind: "skipped" });
  expect([now.left.length, told]).toEqual([0, undefined]);
  expect(next(now, fired(1))).toEqual({ now, told: undefined });
});

test("the time that is left", () => {
  expect([timeLeft(300), timeLeft(61.2), timeLeft(0.4), timeLeft(-3)]).toEqual(["5:00", "1:02", "0:01", "0:00"]);
});

import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { PartValues, type PartValue } from "./partValues";

const value = (text: string): PartValue => ({ text, problem: null });

describe("the values of live parts", () => {
  let time = 0;
  let asked: string[][] = [];
  let fails = 0;
  let values: PartValues;

  beforeEach(() => {
    vi.useFakeTimers();
    [time, asked, fails] = [0, [], 0];
    values = new PartValues(
      (parts) => {
        asked.push(parts);
        return fails-- > 0
          ? Promise.reject(new Error("away"))
          : Promise.resolve(parts.map((part) => value(`${part}@${time}`)));
      },
      () => time,
    );
  });
  afterEach(() => vi.useRealTimers());

  it("are asked for together, each once", async () => {
    for (const part of ["a", "b", "a"]) values.show(part);
    await vi.runAllTimersAsync();
    expect(asked).toEqual([["a", "b"]]);
    expect(values.get("b")).toEqual(value("b@0"));
  });

  it("come for every part, however many there are", async () => {
    const parts = Array.from({ length: 950 }, (_, at) => `p${at}`);
    for (const part of parts) values.show(part);
    await vi.runAllTimersAsync();
    expect(asked.map((one) => one.length)).toEqual([200, 200, 200, 200, 150]);
    expect(parts.every((part) => values.get(part))).toBe(true);
  });

  it("are asked for again when that failed, and no part is wrong meanwhile", async () => {
    fails = 2;
    values.show("a");
    await vi.advanceTimersByTimeAsync(100);
    expect(values.get("a")).toBeUndefined();
    await vi.runAllTimersAsync();
    expect(values.get("a")).toEqual(value("a@0"));
    expect(asked).toHaveLength(3);
  });

  it("are not asked for any more once nobody looks", async () => {
    fails = 1;
    const hide = values.show("a");
    await vi.advanceTimersByTimeAsync(100);
    hide();
    await vi.runAllTimersAsync();
    expect(asked).toHaveLength(1);
  });

  it("are asked for anew after a while, and when told", async () => {
    const heard = vi.fn();
    values.subscribe(heard);
    values.show("a");
    await vi.runAllTimersAsync();
    values.show("a");
    await vi.runAllTimersAsync();
    expect(asked).toHaveLength(1);
    time = 60_000;
    values.show("a");
    await vi.runAllTimersAsync();
    expect(values.get("a")).toEqual(value("a@60000"));
    time = 61_000;
    values.refresh();
    await vi.runAllTimersAsync();
    expect(values.get("a")).toEqual(value("a@61000"));
    expect(heard).toHaveBeenCalledTimes(3);
  });
});

it("tells whether one that is shown is wrong", async () => {
  vi.useFakeTimers();
  const values = new PartValues((parts) =>
    Promise.resolve(parts.map((part) => ({ text: "", problem: part === "bad" ? "There is no such pattern." : null }))),
  );
  values.show("good");
  const hide = values.show("bad");
  expect(values.anyWrong()).toBe(false);
  await vi.runAllTimersAsync();
  expect(values.anyWrong()).toBe(true);
  hide();
  expect(values.anyWrong()).toBe(false);
  vi.useRealTimers();
});

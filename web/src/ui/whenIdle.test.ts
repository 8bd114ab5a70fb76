import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { whenIdle } from "./whenIdle";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("works where a browser does not tell when it is idle", () => {
  vi.stubGlobal("requestIdleCallback", undefined);
  const work = vi.fn();
  whenIdle(work);
  whenIdle(work, 50)();
  vi.runAllTimers();
  expect(work).toHaveBeenCalledTimes(1);
});

it("asks the browser where it tells", () => {
  const asked = vi.fn((work: () => void) => (work(), 7));
  const calledOff = vi.fn();
  vi.stubGlobal("requestIdleCallback", asked);
  vi.stubGlobal("cancelIdleCallback", calledOff);
  const work = vi.fn();
  whenIdle(work, 400)();
  expect(work).toHaveBeenCalledTimes(1);
  expect(asked).toHaveBeenCalledWith(expect.any(Function), { timeout: 400 });
  expect(calledOff).toHaveBeenCalledWith(7);
});

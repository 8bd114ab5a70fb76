import { expect, test } from "vitest";
import { typedTail } from "./typedTail";

test("the tail is what was typed since it began anew", () => {
  const keys = (...all: [string, string?][]) =>
    all.map(([key, event = "typed"]) => ({ app: "post", key, trace: { event, reasons: [] } }));
  expect(typedTail(keys(["a"], ["b"], ["Backspace"], ["c"]))).toBe("ac");
  expect(typedTail(keys(["a"], ["ArrowLeft", "reset"], ["b"], ["Enter"], ["Tab"]))).toBe("b\n\t");
  expect(typedTail(keys(["a"], [" ", "fires"], ["x"], ["Shift"]))).toBe("x");
});

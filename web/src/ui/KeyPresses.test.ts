import { describe, expect, it } from "vitest";
import { canClose, withKey } from "./KeyPresses";

describe("keys that are pressed", () => {
  it("come in, and go out when they are pressed again", () => {
    expect(withKey([" "], "Enter")).toEqual([" ", "Enter"]);
    expect(withKey([" ", "Enter"], " ")).toEqual(["Enter"]);
  });

  it("can close a word when they are typed", () => {
    for (const key of [" ", ".", "é", "Tab", "Enter", "🙂"]) expect(canClose(key)).toBe(true);
    for (const key of ["ArrowLeft", "Ctrl+A", "Backspace", "F1", "Shift"]) expect(canClose(key)).toBe(false);
  });
});

import { expect, it } from "vitest";
import { nameOfKeys } from "./keySets";

const sets = [
  { name: "Only Space", keys: [" "], places: 0, fixed: false },
  { name: "Space and Enter", keys: [" ", "Enter"], places: 2, fixed: false },
];

it("knows a set by its keys, in whatever order", () => {
  expect(nameOfKeys(sets, ["Enter", " "])).toBe("Space and Enter");
  expect(nameOfKeys(sets, [" "])).toBe("Only Space");
  expect(nameOfKeys(sets, ["Enter"])).toBeUndefined();
  expect(nameOfKeys(sets, [])).toBeUndefined();
});

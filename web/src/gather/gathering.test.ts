import { expect, test } from "vitest";
import { nameOf } from "./gathering";

test("a phrase names itself by its first words", () => {
  expect(nameOf("  The pilot boards at the outer buoy. ")).toBe("The pilot boards at the");
  expect(nameOf("Moored.")).toBe("Moored");
  expect(nameOf("x".repeat(60))).toHaveLength(40);
});

import { expect, test } from "vitest";
import type { Pack } from "../api/client";
import { lookWords, packGroups } from "./packWords";

const pack = (id: string, state: string): Pack => ({
  id,
  name: id,
  about: "",
  licence: "MIT",
  source: "",
  snippets: 1,
  state,
  libraryId: state === "offered" ? null : 1,
  library: null,
  own: false,
  examples: [],
});

test("what wants something stands first, and empty groups are left out", () => {
  const groups = packGroups([pack("a", "offered"), pack("b", "changed"), pack("c", "offered")]);
  expect(groups.map(({ title, packs }) => [title, packs.map(({ id }) => id)])).toEqual([
    ["Newer than in your libraries", ["b"]],
    ["On the packList", ["a", "c"]],
  ]);
});

test("there is nothing to look at in a pack that is as it was added", () => {
  expect(lookWords("added")).toBeUndefined();
  expect(lookWords("offered")).toBe("Look at it");
  expect(lookWords("changed")).toBe("Look at what is new");
});

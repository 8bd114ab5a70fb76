import { expect, test } from "vitest";
import type { LibraryTree } from "../api/client";
import { countSnippets, rowKey, visibleRows } from "./rows";

const snippet = (id: number) => ({ id, version: 1, name: `s${id}`, enabled: true, firstWords: "", triggers: [] });
const tree: LibraryTree = {
  libraries: [
    {
      id: 1,
      version: 1,
      name: "A",
      enabled: true,
      closingKeys: null,
      capsLockShouts: false,
      backspaceTakesBack: false,
      folders: [
        {
          id: 5,
          version: 1,
          name: "F",
          folders: [{ id: 6, version: 1, name: "G", folders: [], snippets: [snippet(9)] }],
          snippets: [snippet(8)],
        },
      ],
      snippets: [snippet(7)],
    },
  ],
};

test("folders come before the snippets beside them, each a step deeper", () => {
  expect(visibleRows(tree, new Set()).map((row) => `${" ".repeat(row.depth)}${row.key}`)).toEqual([
    "library-1",
    " folder-5",
    "  folder-6",
    "   snippet-9",
    "  snippet-8",
    " snippet-7",
  ]);
});

test("what is closed hides what is in it", () => {
  expect(visibleRows(tree, new Set([rowKey("folder", 5)])).map((row) => row.key)).toEqual([
    "library-1",
    "folder-5",
    "snippet-7",
  ]);
  expect(countSnippets(tree.libraries[0]!)).toBe(3);
});

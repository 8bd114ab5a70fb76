import { describe, expect, it } from "vitest";
import { destinationOf } from "./useRowDrag";

const snippet = { id: 1, kind: "snippet", parentId: 9 };
const other = { id: 2, kind: "snippet", parentId: 8 };
const folder = { id: 8, kind: "folder", parentId: 7 };
const library = { id: 7, kind: "library", parentId: 0 };

describe("where dropping puts things", () => {
  it("puts like things in front of each other, wherever they lie", () => {
    expect(destinationOf(snippet, [1], other)).toEqual({ parentId: 8, before: 2 });
    expect(destinationOf(library, [7], { ...library, id: 6 })).toEqual({ parentId: null, before: 6 });
  });

  it("puts snippets and folders into libraries and folders", () => {
    expect(destinationOf(snippet, [1], folder)).toEqual({ parentId: 8, before: null });
    expect(destinationOf(folder, [8], library)).toEqual({ parentId: 7, before: null });
  });

  it("puts nothing on itself, on another one that is dragged, or a library into anything", () => {
    expect(destinationOf(snippet, [1, 2], other)).toBeUndefined();
    expect(destinationOf(library, [7], folder)).toBeUndefined();
    expect(destinationOf(folder, [8], snippet)).toBeUndefined();
    expect(destinationOf(undefined, [], snippet)).toBeUndefined();
  });
});

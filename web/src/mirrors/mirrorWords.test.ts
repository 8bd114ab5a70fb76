import { expect, test } from "vitest";
import type { Mirror } from "../api/client";
import { inFolders, partWords, stateWords } from "./mirrorWords";

const mirror = (library: string, folder: string): Mirror => ({
  libraryId: 1,
  library,
  folder,
  file: `${library}.json`,
  pocket: false,
  state: "in-step",
  words: "",
  unreadable: false,
  conflicts: [],
  notes: [],
});

test("libraries stand under their folders, in the order of the first of each", () => {
  const folders = inFolders([mirror("Berth desk", "/b"), mirror("Notices", "/a"), mirror("Spelling", "/b")]);
  expect(folders.map(({ folder, libraries }) => [folder, libraries.map(({ library }) => library)])).toEqual([
    ["/b", ["Berth desk", "Spelling"]],
    ["/a", ["Notices"]],
  ]);
});

test("a state says what there is to do", () => {
  const conflict = {
    key: "k",
    part: "body",
    source: "",
    seen: "",
    title: "",
    here: "",
    there: "",
    snippetId: null,
  };
  expect(stateWords({ state: "in-step", conflicts: [] })).toBe("in step");
  expect(stateWords({ state: "undecided", conflicts: [conflict] })).toBe("1 choice to make");
  expect(stateWords({ state: "undecided", conflicts: [conflict, conflict] })).toBe("2 choices to make");
  expect(stateWords({ state: "waiting", conflicts: [] })).toBe("waiting");
  expect(stateWords({ state: "fault", conflicts: [] })).toBe("needs you");
});

test("every part has words", () => {
  for (const part of ["name", "enabled", "note", "private", "delivery", "body", "twin", "triggers", "tags", "rules"])
    expect(partWords(part)).not.toBe(part);
});

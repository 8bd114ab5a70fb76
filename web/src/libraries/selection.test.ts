import { describe, expect, it } from "vitest";
import { idsBetween, meantBy, nothingChosen, toggled } from "./selection";

const rows = [10, 11, 12, 13].map((id) => ({ id, kind: id === 12 ? "folder" : "snippet" }));

describe("choosing rows", () => {
  it("takes one more and lets it go again", () => {
    const one = toggled(nothingChosen, 7);
    expect([...one]).toEqual([7]);
    expect(toggled(one, 7).size).toBe(0);
    expect(nothingChosen.size).toBe(0);
  });

  it("takes the rows between two places, whichever comes first", () => {
    expect(idsBetween(1, 3, (at) => rows[at], true)).toEqual([11, 12, 13]);
    expect(idsBetween(3, 1, (at) => rows[at], true)).toEqual([11, 12, 13]);
    expect(idsBetween(2, 2, (at) => rows[at], true)).toEqual([12]);
    expect(idsBetween(1, 3, (at) => rows[at], false)).toEqual([11, 13]);
  });

  it("says when some rows are not here yet", () => expect(idsBetween(2, 5, (at) => rows[at], true)).toBeUndefined());
});

describe("what a row's keys are about", () => {
  it("is all that are chosen when it is one of them", () => expect(meantBy(new Set([1, 2, 3]), 2)).toEqual([1, 2, 3]));
  it("is the row alone when it is not", () => expect(meantBy(new Set([1, 2, 3]), 4)).toEqual([4]));
});

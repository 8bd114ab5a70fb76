import { describe, expect, it } from "vitest";
import { sortedBy, treeOrder, viewOf } from "./tableView";

describe("sorting", () => {
  it("goes one way, the other way, and back to the tree", () => {
    const once = sortedBy(treeOrder, "name");
    expect(once).toEqual({ by: "name", descending: false });
    const twice = sortedBy(once, "name");
    expect(twice).toEqual({ by: "name", descending: true });
    expect(sortedBy(twice, "name")).toEqual(treeOrder);
  });

  it("begins with the most and the latest where one wants those", () => {
    const once = sortedBy(treeOrder, "uses");
    expect(once).toEqual({ by: "uses", descending: true });
    const twice = sortedBy(once, "uses");
    expect(twice).toEqual({ by: "uses", descending: false });
    expect(sortedBy(twice, "uses")).toEqual(treeOrder);
  });

  it("begins anew with another column", () =>
    expect(sortedBy({ by: "uses", descending: false }, "on")).toEqual({ by: "on", descending: false }));
});

describe("what is asked of the server", () => {
  it("knows what is closed in the tree alone", () => {
    expect(viewOf([3, 4], "", treeOrder).closed).toEqual([3, 4]);
    expect(viewOf([3, 4], "fee", treeOrder).closed).toEqual([]);
    expect(viewOf([3, 4], "", { by: "name", descending: false }).closed).toEqual([]);
  });

  it("takes white space for no filter, and keeps it behind one: a word is finished by it", () => {
    expect(viewOf([], "  ", treeOrder).filter).toBe("");
    expect(viewOf([], "never used ", treeOrder).filter).toBe("never used ");
  });
});

import { describe, expect, it } from "vitest";
import { openImport, withColumn, withOption } from "./importing";

describe("columns told by hand", () => {
  it("hold each thing once", () =>
    expect(withColumn(["trigger", "text", ""], 2, "text")).toEqual(["trigger", "", "text"]));
  it("may hold nothing", () => expect(withColumn(["trigger", "text", ""], 0, "")).toEqual(["", "text", ""]));
});

describe("options told by hand", () => {
  const options = {
    kind: "table",
    encoding: "utf-8",
    separator: ";",
    heading: true,
    columns: ["trigger", "text"],
    parentId: 4,
    sameName: "number",
    replace: false,
  };

  it("are found out anew where the file is read otherwise", () => {
    expect(withOption(options, { separator: "," })).toEqual({
      ...options,
      separator: ",",
      columns: null,
      heading: null,
    });
    expect(withOption(options, { kind: "list" })).toEqual({ kind: "list", parentId: 4, replace: false });
  });

  it("are kept where it is not", () =>
    expect(withOption(options, { sameName: "leave" })).toEqual({ ...options, sameName: "leave" }));
});

describe("several files", () => {
  it("are texts, or told which one is not", () =>
    expect(openImport([new File([""], "a.md"), new File([""], "b.csv")], null)).rejects.toThrow(
      "b.csv is no Markdown",
    ));
});

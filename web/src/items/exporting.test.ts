import { expect, test } from "vitest";
import { exportAddress, exportName, fileFormats, type FileFormat } from "./exporting";

test("all is got by an address, a part by another; what is private only when it is asked for", () => {
  expect(exportAddress([], "json", false)).toBe("/api/library-file?format=json");
  expect(exportAddress([], "csv", true)).toBe("/api/library-file?format=csv&withPrivate=true");
  expect(exportAddress([3, 4], "yaml", false)).toBe("/api/library-file/part?format=yaml");
});

test("a file is named by its kind", () => {
  for (const format of Object.keys(fileFormats) as FileFormat[])
    expect(exportName(exportAddress([1], format, true))).toBe(`dash-sprout-snippets.${format}`);
});

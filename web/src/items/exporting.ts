/** The kinds of file that libraries are saved as. */
export const fileFormats = {
  json: { label: "Library file (JSON)", hint: "everything, pictures too" },
  yaml: { label: "YAML", hint: "everything, for reading and editing" },
  csv: { label: "Table (CSV)", hint: "for spreadsheets" },
} as const;

export type FileFormat = keyof typeof fileFormats;

/** Where a file is made: of everything, or of a part. */
export function exportAddress(ids: readonly number[], format: FileFormat, withPrivate: boolean): string {
  const part = ids.length === 0 ? "" : "/part";
  return `/api/library-file${part}?format=${format}${withPrivate ? "&withPrivate=true" : ""}`;
}

/** The name of a file, from the address that makes it. */
export const exportName = (address: string): string =>
  `dash-sprout-snippets.${new URLSearchParams(address.split("?")[1]).get("format") ?? "json"}`;

import { ApiError, api, unwrap, type Import, type ImportOptions } from "../api/client";

/** The kinds of files in the words of the page. */
export const kinds: Record<string, string> = {
  "library-file": "a library file",
  yaml: "a library file in YAML",
  table: "a table",
  list: "a list of abbreviations with their texts",
  contacts: "contacts",
  documents: "texts, one snippet each",
};

export const separators: Record<string, string> = { ",": "comma", ";": "semicolon", "\t": "tab", "|": "bar" };

export const sameNames: Record<string, string> = {
  change: "changes the one that is there",
  number: "is added with a number behind its name",
  leave: "is passed over",
};

export const fates: Record<string, string> = {
  add: "new",
  change: "changes",
  same: "the same",
  leave: "passed over",
  wrong: "wrong",
};

/** What is accepted, as the HTML attribute says it. */
export const acceptedFiles = ".json,.csv,.tsv,.txt,.yaml,.yml,.vcf,.md,.markdown,.html,.htm";

const isDocument = (name: string) => /\.(md|markdown|html?)$/i.test(name);

/** Gives files to the program, which begins to look at them. */
export async function openImport(files: readonly File[], parentId: number | null): Promise<Import> {
  const place = parentId === null ? {} : { parentId };
  if (files.length > 1 || isDocument(files[0]?.name ?? "")) {
    const other = files.find((file) => !isDocument(file.name));
    if (other)
      throw new ApiError({
        detail: `${other.name} is no Markdown or HTML file. Other files are brought in one by one.`,
      });
    const texts = await Promise.all(
      files.map(async (file) => ({ name: file.webkitRelativePath || file.name, text: await file.text() })),
    );
    return unwrap(api.POST("/api/imports/documents", { params: { query: place }, body: { files: texts } }));
  }
  const file = files[0];
  if (!file) throw new ApiError({ detail: "There is no file. Choose one." });
  const answer = await fetch(`/api/imports?${new URLSearchParams({ name: file.name, ...numbers(place) }).toString()}`, {
    method: "POST",
    headers: { "content-type": "application/octet-stream" },
    body: file,
  });
  const body: unknown = await answer.json();
  if (!answer.ok) throw new ApiError(body as ApiError["problem"]);
  return body as Import;
}

const numbers = (place: { parentId?: number }): Record<string, string> =>
  Object.fromEntries(Object.entries(place).map(([key, value]) => [key, String(value)]));

/** The columns of a table with one of them holding something else; each thing is held by one column. */
export function withColumn(columns: readonly string[], at: number, id: string): string[] {
  return columns.map((held, place) => (place === at ? id : held === id ? "" : held));
}

/** What of the options is kept when something is changed by hand: another kind is read anew. */
export function withOption(options: ImportOptions, part: Partial<ImportOptions>): ImportOptions {
  if (part.kind !== undefined) return { kind: part.kind, parentId: options.parentId ?? null, replace: false };
  if (part.separator !== undefined || part.encoding !== undefined)
    return { ...options, columns: null, heading: null, separator: null, ...part };
  return { ...options, ...part };
}

import { useNavigate } from "react-router";
import { ApiError, api, unwrap, type Defaults, type BulkRules, type TableRow } from "../api/client";
import { librariesChanged } from "../api/queries";
import { exportName } from "./exporting";
import { toast } from "../ui/toasts";
import { undo } from "./undoing";

export interface RulesChange {
  ownClosingKeys?: string[];
  capsLockShouts?: boolean;
  backspaceTakesBack?: boolean;
  defaults?: Defaults;
}

export interface FolderChange {
  enabled?: boolean;
  defaults?: Defaults;
}

const undoable = { key: "undo", action: { label: "Undo", act: () => void undo() } };

/** Tells what was done with many, and offers to undo it. */
function said({ what, count }: { what: string; count: number }): void {
  if (count > 0) toast(`${what}.`, undoable);
}

/** Has the browser keep a file. */
export function download(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

type Named = Pick<TableRow, "id" | "kind" | "name">;

/** Does something, says what went wrong, and has everything looked at anew. */
export async function attempt<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work();
  } catch (error) {
    toast(error instanceof ApiError ? error.message : String(error), { kind: "fault" });
    return undefined;
  } finally {
    await librariesChanged();
  }
}

const at = (id: number) => ({ path: { id } });

/** Parts of a snippet that do not hold text are changed as they are. */
const unchanged = { enabled: true, private: false, leaveOnClipboard: false };

/** Changes some parts of a snippet, from what they are to what they are to be; what is refused is thrown. */
export async function editSnippet(id: number, before: object, after: object, triggers: object[] = []): Promise<void> {
  const body = { before: { ...unchanged, ...before }, after: { ...unchanged, ...after }, triggers };
  const { unsaved } = await unwrap(api.PATCH("/api/snippets/{id}", { params: at(id), body }));
  if (unsaved[0]) throw new ApiError({ detail: unsaved[0].why });
}

/** What can be done with libraries, folders and snippets. */
export function useLibraryActions() {
  const navigate = useNavigate();
  return {
    remove: (row: Named) =>
      attempt(async () => {
        await unwrap(api.DELETE("/api/items/{id}", { params: at(row.id) }));
        toast(`“${row.name}” is in the bin.`, undoable);
      }),
    addLibrary: (name: string) => attempt(() => unwrap(api.POST("/api/libraries", { body: { name } }))),
    addFolder: (parentId: number, name: string) =>
      attempt(() => unwrap(api.POST("/api/folders", { body: { parentId, name } }))),
    /** Opens the page of a snippet that is made once something is typed into it. */
    addSnippet: (place: number | null) => void navigate(`/snippets/new${place === null ? "" : `?in=${place}`}`),
    rename: (row: Named, name: string) =>
      attempt(async () => {
        const params = at(row.id);
        if (row.kind === "library") await unwrap(api.PATCH("/api/libraries/{id}", { params, body: { name } }));
        else if (row.kind === "folder") await unwrap(api.PATCH("/api/folders/{id}", { params, body: { name } }));
        else await editSnippet(row.id, { name: row.name }, { name });
      }),
    toggle: (row: Pick<TableRow, "id" | "kind" | "enabled">) =>
      attempt(async () => {
        const enabled = !row.enabled;
        if (row.kind === "library")
          await unwrap(api.PATCH("/api/libraries/{id}", { params: at(row.id), body: { enabled } }));
        else if (row.kind === "folder")
          await unwrap(api.PATCH("/api/folders/{id}", { params: at(row.id), body: { enabled } }));
        else await editSnippet(row.id, { enabled: row.enabled }, { enabled });
      }),
    changeFolder: (id: number, body: FolderChange) =>
      attempt(() => unwrap(api.PATCH("/api/folders/{id}", { params: at(id), body }))),
    setRules: (id: number, body: RulesChange) =>
      attempt(() => unwrap(api.PATCH("/api/libraries/{id}", { params: at(id), body }))),
    move: (ids: number[], parentId: number | null, before: number | null) =>
      attempt(async () => said(await unwrap(api.POST("/api/bulk/move", { body: { ids, parentId, before } })))),
    switchMany: (ids: number[], enabled: boolean) =>
      attempt(async () => said(await unwrap(api.POST("/api/bulk/switch", { body: { ids, enabled } })))),
    editInBulk: (ids: number[], edit: Omit<BulkRules, "ids">) =>
      attempt(async () =>
        said(await unwrap(api.POST("/api/bulk/rules", { body: { libraryKeys: false, ...edit, ids } }))),
      ),
    duplicate: (ids: number[]) =>
      attempt(async () => {
        const { what } = await unwrap(api.POST("/api/bulk/duplicate", { body: { ids } }));
        toast(`${what}. The copies are off: they answer to the same keys.`, undoable);
      }),
    removeMany: (ids: number[]) =>
      attempt(async () => said(await unwrap(api.POST("/api/bulk/delete", { body: { ids } })))),
    /** Brings the libraries, or a part of them, as a file. */
    save: (ids: number[], address: string) =>
      attempt(async () => {
        if (ids.length === 0) {
          location.assign(address);
          return;
        }
        const answer = await fetch(address, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body: JSON.stringify({ ids }),
        });
        if (!answer.ok) throw new ApiError((await answer.json()) as ApiError["problem"]);
        download(await answer.blob(), exportName(address));
      }),
    shift: (id: number, up: boolean) =>
      attempt(() => unwrap(api.POST("/api/items/{id}/shift", { params: at(id), body: { up } }))),
  };
}

import { App, Button } from "antd";
import { useNavigate } from "react-router";
import { ApiError, api, unwrap, type LibraryNode, type SnippetNode } from "../api/client";
import { librariesChanged } from "../api/queries";
import type { Row } from "./rows";

const addresses = {
  library: "/api/libraries/{id}",
  folder: "/api/folders/{id}",
  snippet: "/api/snippets/{id}",
} as const;

/** What can be done with libraries, folders and snippets; each says what went wrong and refreshes the table. */
export function useLibraryActions() {
  const { message, notification } = App.useApp();
  const navigate = useNavigate();

  const attempt = async <T,>(work: () => Promise<T>): Promise<T | undefined> => {
    try {
      return await work();
    } catch (error) {
      void message.error(error instanceof ApiError ? error.message : String(error), 6);
      return undefined;
    } finally {
      await librariesChanged();
    }
  };

  const remove = (row: Row) =>
    attempt(async () => {
      const params = { path: { id: row.id } };
      await unwrap(api.DELETE(addresses[row.kind], { params }));
      const key = `deleted-${row.key}`;
      const undo = () => {
        notification.destroy(key);
        void attempt(() => unwrap(api.POST(`${addresses[row.kind]}/restore`, { params })));
      };
      notification.open({
        key,
        title: `“${row.name}” was deleted`,
        duration: 12,
        actions: (
          <Button autoFocus onClick={undo}>
            Undo
          </Button>
        ),
      });
    });

  return {
    attempt,
    remove,
    addLibrary: (name: string) => attempt(() => unwrap(api.POST("/api/libraries", { body: { name } }))),
    addFolder: (row: Row, name: string) =>
      attempt(() =>
        unwrap(
          api.POST("/api/folders", {
            body: { libraryId: row.libraryId, folderId: row.kind === "folder" ? row.id : row.folderId, name },
          }),
        ),
      ),
    addSnippet: (row: Row, taken: string[]) =>
      attempt(async () => {
        let name = "New snippet";
        for (let count = 2; taken.includes(name); count++) name = `New snippet ${count}`;
        const folderId = row.kind === "folder" ? row.id : row.folderId;
        const made = await unwrap(
          api.POST("/api/snippets", { body: { libraryId: row.libraryId, folderId, snippet: { name, text: "" } } }),
        );
        await navigate(`/snippets/${made.id}`);
      }),
    rename: (row: Row, name: string) =>
      attempt(async () => {
        const params = { path: { id: row.id } };
        if (row.kind === "library")
          await unwrap(api.PATCH("/api/libraries/{id}", { params, body: { version: row.version, name } }));
        else if (row.kind === "folder")
          await unwrap(api.PATCH("/api/folders/{id}", { params, body: { version: row.version, name } }));
        else {
          const { snippet, version } = await unwrap(api.GET("/api/snippets/{id}", { params }));
          await unwrap(api.PUT("/api/snippets/{id}", { params, body: { version, snippet: { ...snippet, name } } }));
        }
      }),
    toggle: (row: Row) =>
      attempt(async () => {
        const params = { path: { id: row.id } };
        const enabled = !(row.node as LibraryNode | SnippetNode).enabled;
        if (row.kind === "library")
          await unwrap(api.PATCH("/api/libraries/{id}", { params, body: { version: row.version, enabled } }));
        if (row.kind === "snippet")
          await unwrap(api.PUT("/api/snippets/{id}/switch", { params, body: { version: row.version, enabled } }));
      }),
    setRules: (
      library: LibraryNode,
      change: { ownClosingKeys?: string[]; capsLockShouts?: boolean; backspaceTakesBack?: boolean },
    ) =>
      attempt(() =>
        unwrap(
          api.PATCH("/api/libraries/{id}", {
            params: { path: { id: library.id } },
            body: { version: library.version, ...change },
          }),
        ),
      ),
    move: (row: Row, to: { libraryId: number; folderId: number | null; before: number | null }) =>
      attempt(() => unwrap(api.POST(`${addresses[row.kind]}/move`, { params: { path: { id: row.id } }, body: to }))),
    importFile: (file: File, replace: boolean) =>
      attempt(async () => {
        const answer = await fetch(`/api/library-file?replace=${replace}`, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body: file,
        });
        const body: unknown = await answer.json();
        if (!answer.ok) throw new ApiError(body as ApiError["problem"]);
        const brought = body as { libraries: number; snippets: number };
        void message.success(`${brought.libraries} libraries with ${brought.snippets} snippets are in.`);
      }),
  };
}

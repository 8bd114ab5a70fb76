import { lazy, Suspense, useRef, useState } from "react";
import { Navigate } from "react-router";
import type { TableRow } from "../api/client";
import { FileInput } from "../frame/FileInput";
import { Menu } from "../frame/Menu";
import { useUndoKeys } from "../history/undoing";
import { useClosedRows } from "./closedRows";
import { rememberRow, takeLastRow } from "./lastRow";
import type { LibraryDialog } from "./LibraryDialogs";
import { LibraryTable } from "./LibraryTable";
import { TypingRow } from "./TypingRow";
import { useIsEmpty } from "./useIsEmpty";
import { useLibraryActions } from "./useLibraryActions";
import { usePlace } from "./usePlace";
import "./libraries.css";

const LibraryDialogs = lazy(() => import("./LibraryDialogs"));

let started = false;

/** Whether the program has just been opened; asked once. */
function takeStart(): boolean {
  const first = !started;
  started = true;
  return first;
}

/** All libraries in one table: the tree, what sets each snippet off, and what goes in. */
export default function LibrariesView() {
  const actions = useLibraryActions();
  const [closed, setOpen] = useClosedRows();
  const [current, setCurrent] = useState<TableRow>();
  const [shown, setShown] = useState<number | undefined>(takeLastRow);
  const [dialog, setDialog] = useState<LibraryDialog>();
  const picker = useRef<HTMLInputElement>(null);
  const [start] = useState(takeStart);
  const empty = useIsEmpty();
  const holder = current && (current.kind === "snippet" ? current.parentId : current.id);
  const place = usePlace(holder);
  useUndoKeys();

  // Where there is nothing yet, one begins with a snippet.
  if (empty && start) return <Navigate to="/snippets/new" replace />;
  const onRules = (row: TableRow) =>
    setDialog(
      row.kind === "folder" ? { kind: "folder-rules", folderId: row.id } : { kind: "rules", libraryId: row.libraryId },
    );
  const openList = (text: string) => setDialog({ kind: "list", place, text });
  return (
    <div className="libraries">
      <div className="libraries-head">
        <h1>Libraries</h1>
        <span className="soft">Higher wins: when two triggers answer to the same keys, the upper one goes off.</span>
        <span className="spacer" />
        <button
          type="button"
          className="button primary"
          onClick={() => {
            if (current) rememberRow(current.id);
            actions.addSnippet(holder ?? null);
          }}
        >
          New snippet
        </button>
        <Menu
          label="More"
          items={[
            {
              label: "New folder",
              disabled: holder === undefined,
              act: () => holder !== undefined && setDialog({ kind: "folder", parentId: holder }),
            },
            { label: "New library", act: () => setDialog({ kind: "library" }) },
            {
              label: "Rules of the library …",
              disabled: !current,
              act: () => current && setDialog({ kind: "rules", libraryId: current.libraryId }),
            },
            "line",
            { label: "Add from a list …", act: () => openList("") },
            { label: "Add from a library file …", act: () => picker.current?.click() },
            { label: "Save all to a library file", act: () => location.assign("/api/library-file") },
            { label: "Cheat sheet to print", act: () => void window.open("/api/cheat-sheet", "_blank", "noopener") },
            { label: "Cheat sheet in Markdown", act: () => location.assign("/api/cheat-sheet.md") },
          ]}
        />
        <FileInput
          ref={picker}
          accept=".json,application/json"
          label="Library file"
          onFile={(file) => setDialog({ kind: "import", file })}
        />
      </div>
      <TypingRow
        place={place}
        onList={openList}
        onLeave={() => current && document.getElementById(`row-${current.id}`)?.focus()}
      />
      <LibraryTable
        closed={closed}
        setOpen={setOpen}
        actions={actions}
        onCurrent={setCurrent}
        shown={shown}
        onFolder={(parentId) => setDialog({ kind: "folder", parentId })}
        onRules={onRules}
      />
      {empty && (
        <p className="soft">Nothing is here yet. Type an abbreviation and its text above, or look under More.</p>
      )}
      <Suspense>
        {dialog && (
          <LibraryDialogs dialog={dialog} actions={actions} onMade={setShown} onClose={() => setDialog(undefined)} />
        )}
      </Suspense>
    </div>
  );
}

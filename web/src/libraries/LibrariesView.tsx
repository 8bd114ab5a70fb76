import { lazy, Suspense, useCallback, useEffect, useRef, useState } from "react";
import { Navigate } from "react-router";
import type { TableRow } from "../api/client";
import { acceptedFiles } from "../exchange";
import { FileInput } from "../ui/FileInput";
import { Menu } from "../ui/Menu";
import { useUndoKeys } from "../items/undoing";
import { optionalColumns, useColumns } from "./columns";
import { FilterBox } from "./FilterBox";
import { forgetRow, lastRow, rememberRow } from "../items/lastRow";
import type { LibraryDialog } from "./LibraryDialogs";
import { LibraryTable } from "./LibraryTable";
import { nothingChosen, type Selection } from "./selection";
import { TableFoot } from "./TableFoot";
import { useTableView } from "./tableView";
import { TypingRow } from "./TypingRow";
import { useIsEmpty } from "./useIsEmpty";
import { useLibraryActions } from "../items/useLibraryActions";
import { usePlace } from "./usePlace";
import "./libraries.css";

const LibraryDialogs = lazy(() => import("./LibraryDialogs"));

/** Whether the program has been opened before in this window. */
let started = false;

/** All libraries in one table: the tree, what sets each snippet off, and what goes in. */
export default function LibrariesView() {
  const actions = useLibraryActions();
  const table = useTableView();
  const [chosenColumns, toggleColumn] = useColumns();
  const [selection, setSelection] = useState<Selection>(nothingChosen);
  const [counted, setCounted] = useState<{ snippets: number; problem: string | null }>();
  const [current, setCurrent] = useState<TableRow>();
  const [shown, setShown] = useState<number | undefined>(lastRow);
  const [dialog, setDialog] = useState<LibraryDialog>();
  const picker = useRef<HTMLInputElement>(null);
  const [start, setStart] = useState(!started);
  useEffect(() => {
    started = true;
    forgetRow();
  }, []);
  const empty = useIsEmpty();
  // What is emptied later is not a start.
  if (start && empty === false) setStart(false);
  const holder = current && (current.kind === "snippet" ? current.parentId : current.id);
  const place = usePlace(holder);
  useUndoKeys();
  const onCounted = useCallback((snippets: number, problem: string | null) => setCounted({ snippets, problem }), []);

  // Where there is nothing yet, one begins with a snippet.
  if (empty && start) return <Navigate to="/snippets/new" replace />;
  const onRules = (row: TableRow) =>
    setDialog(
      row.kind === "folder" ? { kind: "folder-rules", folderId: row.id } : { kind: "rules", libraryId: row.libraryId },
    );
  const ids = [...selection];
  const toRow = () => current && document.getElementById(`row-${current.id}`)?.focus();
  const openList = (text: string) => setDialog({ kind: "list", place, text });
  return (
    <div className="libraries">
      <div className="libraries-head">
        <h1>Libraries</h1>
        <FilterBox
          filter={table.filter}
          onFilter={(filter) => {
            table.setFilter(filter);
            // What is out of sight is not worked on.
            setSelection(nothingChosen);
          }}
          onLeave={toRow}
        />
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
            { label: "Bring in from a file …", act: () => picker.current?.click() },
            { label: "Save all to a file …", act: () => setDialog({ kind: "export", ids: [] }) },
            { label: "Cheat sheet to print", act: () => void window.open("/api/cheat-sheet", "_blank", "noopener") },
            { label: "Pocket file for a phone", act: () => location.assign("/api/pocket-file") },
            { label: "Cheat sheet in Markdown", act: () => location.assign("/api/cheat-sheet.md") },
            "line",
            ...optionalColumns.map((column) => ({
              label: `${chosenColumns.includes(column.id) ? "Hide" : "Show"} the column “${column.label}”`,
              act: () => toggleColumn(column.id),
            })),
          ]}
        />
        <FileInput
          ref={picker}
          accept={acceptedFiles}
          label="Files to bring in"
          onFiles={(files) => setDialog({ kind: "import", files, place })}
        />
      </div>
      <TypingRow place={place} onList={openList} onLeave={toRow} />
      <LibraryTable
        table={table}
        chosenColumns={chosenColumns}
        actions={actions}
        selection={selection}
        onSelect={setSelection}
        onCurrent={setCurrent}
        shown={shown}
        onFolder={(parentId) => setDialog({ kind: "folder", parentId })}
        onRules={onRules}
        onMove={(rows) => setDialog({ kind: "move", ids: rows })}
        onEdit={(rows) => setDialog({ kind: "edit", ids: rows })}
        onSave={(rows) => setDialog({ kind: "export", ids: rows })}
        onCounted={onCounted}
      />
      {counted && !empty && (
        <TableFoot
          snippets={counted.snippets}
          problem={counted.problem}
          filtered={table.view.filter !== ""}
          selection={selection}
          onMove={() => setDialog({ kind: "move", ids })}
          onEdit={() => setDialog({ kind: "edit", ids })}
          onSwitch={(on) => void actions.switchMany(ids, on)}
          onDuplicate={() => void actions.duplicate(ids)}
          onSave={() => setDialog({ kind: "export", ids })}
          onRemove={() =>
            void actions.removeMany(ids).then(() => {
              setSelection(nothingChosen);
              toRow();
            })
          }
          onLetGo={() => {
            setSelection(nothingChosen);
            toRow();
          }}
        />
      )}
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

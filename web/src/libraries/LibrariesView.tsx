import { lazy, Suspense, useRef, useState } from "react";
import { FileInput } from "../frame/FileInput";
import type { TableRow } from "../api/client";
import { useUndoKeys } from "../history/undoing";
import { useClosedRows } from "./closedRows";
import type { Dialog } from "./LibraryDialogs";
import { LibraryTable } from "./LibraryTable";
import { useLibraryActions } from "./useLibraryActions";
import { Menu } from "../frame/Menu";
import "./libraries.css";

const LibraryDialogs = lazy(() => import("./LibraryDialogs"));

/** All libraries in one table: the tree, what sets each snippet off, and what goes in. */
export default function LibrariesView() {
  const actions = useLibraryActions();
  const [closed, setOpen] = useClosedRows();
  const [current, setCurrent] = useState<TableRow>();
  const [shown, setShown] = useState<number>();
  const [dialog, setDialog] = useState<Dialog>();
  const picker = useRef<HTMLInputElement>(null);
  useUndoKeys();

  const holder = current && (current.kind === "snippet" ? current.parentId : current.id);
  return (
    <div className="libraries">
      <div className="libraries-head">
        <h1>Libraries</h1>
        <span className="soft">Higher wins: when two triggers answer to the same keys, the upper one goes off.</span>
        <span className="spacer" />
        <button type="button" className="button primary" onClick={() => void actions.addSnippet(holder ?? null)}>
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
            { label: "Add from a library file …", act: () => picker.current?.click() },
            { label: "Save all to a library file", act: () => location.assign("/api/library-file") },
          ]}
        />
        <FileInput
          ref={picker}
          accept=".json,application/json"
          label="Library file"
          onFile={(file) => setDialog({ kind: "import", file })}
        />
      </div>
      <LibraryTable closed={closed} setOpen={setOpen} actions={actions} onCurrent={setCurrent} shown={shown} />
      <Suspense>
        {dialog && (
          <LibraryDialogs dialog={dialog} actions={actions} onMade={setShown} onClose={() => setDialog(undefined)} />
        )}
      </Suspense>
    </div>
  );
}

import { useEffect, useRef, useState, type DragEvent, type KeyboardEvent } from "react";
import { useNavigate } from "react-router";
import type { TableRow } from "../api/client";
import { fetchRows } from "./rowsQuery";
import { useRows } from "./useRows";
import { useSight } from "./useSight";
import { RowCells } from "./RowCells";
import type { useLibraryActions } from "./useLibraryActions";

const rowHeight = 38;
const around = 12;

interface Props {
  closed: readonly number[];
  setOpen: (id: number, open: boolean) => void;
  actions: ReturnType<typeof useLibraryActions>;
  /** The row that keys and buttons are about. */
  onCurrent: (row: TableRow | undefined) => void;
  /** Something that was just made, to be shown and focused. */
  shown: number | undefined;
}

const rowId = (id: number) => `row-${id}`;

/** Libraries, folders and snippets in one table; only the rows in sight are asked for. */
export function LibraryTable({ closed, setOpen, actions, onCurrent, shown }: Props) {
  const navigate = useNavigate();
  const scroller = useRef<HTMLDivElement>(null);
  const [opened, setOpened] = useState(false);
  const sight = useSight(scroller, rowHeight, opened);
  const first = Math.max(0, sight.first - around);
  const rows = useRows(closed, first, sight.last + around);
  // Once it is there the table stays, also while the rows of another place are still coming.
  if (rows.opened && !opened) setOpened(true);
  const last = Math.min(rows.total - 1, sight.last + around);
  const drawn = Array.from({ length: Math.max(0, last - first + 1) }, (_, place) => first + place);
  const [current, setCurrent] = useState<number>();
  const [renaming, setRenaming] = useState<number>();
  const [dragged, setDragged] = useState<TableRow>();
  const [target, setTarget] = useState<number>();
  // A row that is to have the focus as soon as it is here.
  const wantsFocus = useRef<{ at: number } | { id: number }>(undefined);
  const place = rows.placeOf(current);
  const focusedAt = place >= 0 ? place : 0;
  const focused = rows.at(focusedAt);
  useEffect(() => onCurrent(focused), [focused, onCurrent]);

  useEffect(() => {
    const wish = wantsFocus.current;
    if (!wish) return;
    const row = "at" in wish ? rows.at(wish.at) : rows.at(rows.placeOf(wish.id));
    const element = row && document.getElementById(rowId(row.id));
    if (!element) return;
    wantsFocus.current = undefined;
    element.focus({ preventScroll: true });
  });

  const focusAt = (index: number) => {
    if (rows.total === 0) return;
    const at = Math.min(Math.max(index, 0), rows.total - 1);
    wantsFocus.current = { at };
    setCurrent(rows.at(at)?.id);
    sight.bring(at);
  };

  useEffect(() => {
    if (shown === undefined) return;
    wantsFocus.current = { id: shown };
    setCurrent(shown);
    void fetchRows(closed, 0, 0, shown).then(({ foundAt }) => foundAt !== null && sight.bring(foundAt));
    // Only what was made anew is shown; opening and closing rows is no reason to go back to it.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [shown]);

  /** A row that was worked on has the focus again: it may have moved, or its name field has gone. */
  const afterwards = async (work: Promise<unknown>, row: TableRow) => {
    await work;
    setCurrent(row.id);
    const element = document.getElementById(rowId(row.id));
    if (element) element.focus({ preventScroll: true });
    else wantsFocus.current = { id: row.id };
  };

  const onKeyDown = (event: KeyboardEvent, row: TableRow, index: number) => {
    if (renaming !== undefined || event.target !== event.currentTarget) return;
    // Whoever presses a key is where they want to be.
    wantsFocus.current = undefined;
    const act = {
      ArrowDown: () => (event.altKey ? void afterwards(actions.shift(row.id, false), row) : focusAt(index + 1)),
      ArrowUp: () => (event.altKey ? void afterwards(actions.shift(row.id, true), row) : focusAt(index - 1)),
      Home: () => focusAt(0),
      End: () => focusAt(rows.total - 1),
      PageDown: () => focusAt(index + around),
      PageUp: () => focusAt(index - around),
      ArrowRight: () => (row.kind !== "snippet" && !row.open ? setOpen(row.id, true) : focusAt(index + 1)),
      ArrowLeft: () => (row.open ? setOpen(row.id, false) : row.parentAt >= 0 && focusAt(row.parentAt)),
      Enter: () => (row.kind === "snippet" ? void navigate(`/snippets/${row.id}`) : setOpen(row.id, !row.open)),
      F2: () => setRenaming(row.id),
      " ": () => row.kind !== "folder" && void afterwards(actions.toggle(row), row),
      Delete: () => {
        void actions.remove(row).then(() => focusAt(index));
      },
      n: () => void actions.addSnippet(row.kind === "snippet" ? row.parentId : row.id),
    }[event.key];
    if (!act || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    act();
  };

  /** Dropping on a row puts a like item in front of it, and a snippet or folder into a library or folder. */
  const destination = (row: TableRow): { parentId: number | null; before: number | null } | undefined => {
    if (!dragged || dragged.id === row.id) return undefined;
    if (dragged.kind === row.kind) return { parentId: row.kind === "library" ? null : row.parentId, before: row.id };
    if (dragged.kind === "library" || row.kind === "snippet") return undefined;
    return { parentId: row.id, before: null };
  };

  const onDrop = (event: DragEvent, row: TableRow) => {
    event.preventDefault();
    setTarget(undefined);
    const to = destination(row);
    if (dragged && to) void actions.move(dragged.id, to.parentId, to.before);
    setDragged(undefined);
  };

  if (rows.error) return <div className="page fault">{rows.error.message}</div>;
  if (!opened) return <div className="loading soft">Opening the libraries …</div>;

  return (
    <>
      <div
        className="table"
        role="treegrid"
        aria-label="Libraries, folders and snippets"
        aria-rowcount={rows.total + 1}
      >
        <div className="table-row table-head" role="row">
          <span role="columnheader">Name</span>
          <span role="columnheader">Set off by</span>
          <span role="columnheader">What goes in</span>
          <span role="columnheader">When</span>
          <span role="columnheader">Letter case</span>
          <span role="columnheader">Where</span>
          <span role="columnheader">Misfires</span>
          <span role="columnheader">Overlaps</span>
          <span role="columnheader">Switch</span>
        </div>
        <div className="table-body" ref={scroller} role="rowgroup">
          <div style={{ height: rows.total * rowHeight, position: "relative" }} role="presentation">
            {drawn.map((index) => {
              const row = rows.at(index);
              if (!row) return null;
              return (
                <div
                  key={row.id}
                  id={rowId(row.id)}
                  role="row"
                  aria-level={row.depth + 1}
                  aria-rowindex={index + 2}
                  aria-expanded={row.kind === "snippet" ? undefined : row.open}
                  tabIndex={index === focusedAt ? 0 : -1}
                  className={`table-row ${row.kind}-row${row.active ? "" : " off"}${target === row.id ? " drop" : ""}`}
                  style={{ transform: `translateY(${index * rowHeight}px)`, height: rowHeight }}
                  draggable={renaming !== row.id}
                  onFocus={() => setCurrent(row.id)}
                  onKeyDown={(event) => onKeyDown(event, row, index)}
                  onDoubleClick={() => row.kind === "snippet" && void navigate(`/snippets/${row.id}`)}
                  onDragStart={() => setDragged(row)}
                  onDragEnd={() => setDragged(undefined)}
                  onDragOver={(event) => {
                    if (!destination(row)) return;
                    event.preventDefault();
                    setTarget(row.id);
                  }}
                  onDragLeave={() => setTarget(undefined)}
                  onDrop={(event) => onDrop(event, row)}
                >
                  <RowCells
                    row={row}
                    renaming={renaming === row.id}
                    onOpen={(open) => setOpen(row.id, open)}
                    onToggle={() => void actions.toggle(row)}
                    onVisit={() => void navigate(`/snippets/${row.id}`)}
                    onRenamed={(name) => {
                      setRenaming(undefined);
                      const done =
                        name !== undefined && name !== row.name ? actions.rename(row, name) : Promise.resolve();
                      void afterwards(done, row);
                    }}
                  />
                </div>
              );
            })}
          </div>
        </div>
      </div>
      {rows.total === 0 && (
        <p className="page soft">No library yet. New snippet makes one; more can be added under More.</p>
      )}
    </>
  );
}

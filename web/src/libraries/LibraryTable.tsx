import { useEffect, useRef, useState, type DragEvent, type KeyboardEvent, type MouseEvent } from "react";
import { useNavigate } from "react-router";
import type { TableRow } from "../api/client";
import { rememberRow } from "./lastRow";
import { RowMenu, type RowActs, type RowMenuPlace } from "./RowMenu";
import { fetchRows } from "./rowsQuery";
import { typingRowId } from "./TypingRow";
import { useRows } from "./useRows";
import { useSight } from "./useSight";
import { RowCells } from "./RowCells";
import type { useLibraryActions } from "./useLibraryActions";

const rowHeight = 38;
const headHeight = 33;
const around = 12;

interface Props {
  closed: readonly number[];
  setOpen: (id: number, open: boolean) => void;
  actions: ReturnType<typeof useLibraryActions>;
  /** The row that keys and buttons are about. */
  onCurrent: (row: TableRow | undefined) => void;
  /** Something that was just made, or that one comes back to, to be shown and focused. */
  shown: number | undefined;
  onFolder: (parentId: number) => void;
  onRules: (row: TableRow) => void;
}

const rowId = (id: number) => `row-${id}`;

/** Libraries, folders and snippets in one table; only the rows in sight are asked for. */
export function LibraryTable({ closed, setOpen, actions, onCurrent, shown, onFolder, onRules }: Props) {
  const navigate = useNavigate();
  const scroller = useRef<HTMLDivElement>(null);
  const [opened, setOpened] = useState(false);
  const sight = useSight(scroller, rowHeight, headHeight, opened);
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
  const [menu, setMenu] = useState<RowMenuPlace>();
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

  const visit = (row: TableRow) => {
    rememberRow(row.id);
    void navigate(`/snippets/${row.id}`);
  };

  /** What can be done with a row, by its keys and by its menu. */
  const actsOf = (row: TableRow, index: number): RowActs => ({
    open: () => (row.kind === "snippet" ? visit(row) : setOpen(row.id, !row.open)),
    rename: () => setRenaming(row.id),
    toggle: () => void afterwards(actions.toggle(row), row),
    shift: (up) => void afterwards(actions.shift(row.id, up), row),
    addSnippet: () => {
      rememberRow(row.id);
      actions.addSnippet(row.kind === "snippet" ? row.parentId : row.id);
    },
    addFolder: () => onFolder(row.kind === "snippet" ? row.parentId : row.id),
    rules: () => onRules(row),
    remove: () => void actions.remove(row).then(() => focusAt(index)),
  });

  const onKeyDown = (event: KeyboardEvent, row: TableRow, index: number) => {
    if (renaming !== undefined || event.target !== event.currentTarget) return;
    // Whoever presses a key is where they want to be.
    wantsFocus.current = undefined;
    const acts = actsOf(row, index);
    const act = {
      ArrowDown: () => (event.altKey ? acts.shift(false) : focusAt(index + 1)),
      ArrowUp: () => (event.altKey ? acts.shift(true) : focusAt(index - 1)),
      Home: () => focusAt(0),
      End: () => focusAt(rows.total - 1),
      PageDown: () => focusAt(index + around),
      PageUp: () => focusAt(index - around),
      ArrowRight: () => (row.kind !== "snippet" && !row.open ? setOpen(row.id, true) : focusAt(index + 1)),
      ArrowLeft: () => (row.open ? setOpen(row.id, false) : row.parentAt >= 0 && focusAt(row.parentAt)),
      Enter: acts.open,
      F2: acts.rename,
      " ": acts.toggle,
      Delete: acts.remove,
      n: acts.addSnippet,
      a: () => document.getElementById(typingRowId)?.focus(),
    }[event.key];
    if (!act || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    act();
  };

  const openMenu = (event: MouseEvent<HTMLElement>, row: TableRow, index: number) => {
    if (renaming === row.id) return;
    event.preventDefault();
    setCurrent(row.id);
    const box = event.currentTarget.getBoundingClientRect();
    // The keyboard asks for it at no place: it stands at the row then.
    const byKey = event.clientX === 0 && event.clientY === 0;
    setMenu({ row, index, x: byKey ? box.left + 60 : event.clientX, y: byKey ? box.bottom : event.clientY });
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
        ref={scroller}
      >
        <div role="rowgroup" className="table-head-group">
          <div className="table-row table-head" role="row" style={{ height: headHeight }}>
            <span role="columnheader">Name</span>
            <span role="columnheader">Set off by</span>
            <span role="columnheader">What goes in</span>
            <span role="columnheader" title="Empty: after a closing key, either case, everywhere">
              Rules
            </span>
            <span role="columnheader" title="Empty: quiet">
              Misfires
            </span>
            <span role="columnheader">Overlaps</span>
            <span role="columnheader">On</span>
            <span role="columnheader">
              <span className="visually-hidden">More</span>
            </span>
          </div>
        </div>
        <div className="table-body" role="rowgroup">
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
                  onDoubleClick={() => row.kind === "snippet" && visit(row)}
                  onContextMenu={(event) => openMenu(event, row, index)}
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
                    onVisit={() => visit(row)}
                    onMenu={(event) => openMenu(event, row, index)}
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
      {menu && <RowMenu place={menu} acts={actsOf(menu.row, menu.index)} onClose={() => setMenu(undefined)} />}
    </>
  );
}

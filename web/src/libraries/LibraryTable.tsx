import { useCallback, useEffect, useRef, useState, type KeyboardEvent, type MouseEvent } from "react";
import { useNavigate } from "react-router";
import type { TableRow } from "../api/client";
import { columnsWith, widthsOf } from "./columns";
import { filterBoxId } from "./FilterBox";
import { rememberRow } from "../items/lastRow";
import { RowCells } from "./RowCells";
import { RowMenu, type RowActs, type RowMenuPlace } from "./RowMenu";
import { fetchIds } from "./rowsQuery";
import { idsBetween, meantBy, nothingChosen, toggled, type Selection } from "./selection";
import { TableHead } from "./TableHead";
import type { useTableView } from "./tableView";
import { typingRowId } from "./TypingRow";
import type { useLibraryActions } from "../items/useLibraryActions";
import { useRowDrag } from "./useRowDrag";
import { useRowFocus } from "./useRowFocus";
import { useRows } from "./useRows";
import { useSight } from "../ui/useSight";

const rowHeight = 38;
const headHeight = 33;
const around = 12;

interface Props {
  table: ReturnType<typeof useTableView>;
  chosenColumns: readonly string[];
  actions: ReturnType<typeof useLibraryActions>;
  selection: Selection;
  onSelect: (selection: Selection) => void;
  /** The row that keys and buttons are about. */
  onCurrent: (row: TableRow | undefined) => void;
  /** Something that was just made, or that one comes back to, to be shown and focused. */
  shown: number | undefined;
  onFolder: (parentId: number) => void;
  onRules: (row: TableRow) => void;
  /** Rows are to be moved to a place, or changed alike, that is asked for. */
  onMove: (ids: number[]) => void;
  onEdit: (ids: number[]) => void;
  onSave: (ids: number[]) => void;
  /** How many snippets there are, and what of the filter could not be read. */
  onCounted: (snippets: number, problem: string | null) => void;
}

/** Libraries, folders and snippets in one table; only the rows in sight are asked for. */
export function LibraryTable(props: Props) {
  const { table, actions, selection, onSelect } = props;
  const { view, setOpen } = table;
  const navigate = useNavigate();
  const scroller = useRef<HTMLDivElement>(null);
  const [opened, setOpened] = useState(false);
  const sight = useSight(scroller, rowHeight, headHeight, opened);
  const first = Math.max(0, sight.first - around);
  const rows = useRows(view, first, sight.last + around);
  // Once it is there the table stays, also while the rows of another place are still coming.
  if (rows.opened && !opened) setOpened(true);
  const last = Math.min(rows.total - 1, sight.last + around);
  const drawn = Array.from({ length: Math.max(0, last - first + 1) }, (_, place) => first + place);
  const [renaming, setRenaming] = useState<number>();
  const [menu, setMenu] = useState<RowMenuPlace>();
  const anchor = useRef<number>(undefined);
  const { focusedAt, setCurrent, focusAt, afterwards, settle } = useRowFocus(
    rows,
    sight.bring,
    view,
    props.shown,
    props.onCurrent,
  );
  // Another order or filter begins at its top.
  const { filter, sort, descending } = view;
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
  }, [filter, sort, descending]);
  const { snippets, problem } = rows;
  const { onCounted } = props;
  useEffect(() => onCounted(snippets, problem), [snippets, problem, onCounted]);
  const isTree = view.filter === "" && view.sort === null;
  // What a filter leaves of a folder is not all of it, so that only snippets are chosen there.
  const canChoose = (row: TableRow) => isTree || row.kind === "snippet";
  const meant = useCallback((row: TableRow) => meantBy(selection, row.id), [selection]);
  const drag = useRowDrag(meant, (ids, to) => void actions.move(ids, to.parentId, to.before), view.sort === null);

  const selectTo = async (at: number) => {
    if (selection.size === 0) anchor.current = undefined;
    const from = (anchor.current ??= focusedAt);
    onSelect(new Set(idsBetween(from, at, rows.at, isTree) ?? (await fetchIds(view, from, at, !isTree))));
  };
  const extendTo = (at: number) => {
    const to = Math.min(Math.max(at, 0), rows.total - 1);
    void selectTo(to);
    focusAt(to);
  };
  const go = (at: number) => {
    anchor.current = undefined;
    focusAt(at);
  };

  const toHead = () => scroller.current?.querySelector<HTMLElement>(".table-head button[tabindex='0']")?.focus();

  const visit = (row: TableRow) => {
    rememberRow(row.id);
    void navigate(`/snippets/${row.id}`);
  };

  /** What can be done with a row, or with all that are chosen, by its keys and by its menu. */
  const actsOf = (row: TableRow, index: number): RowActs => {
    const ids = meant(row);
    return {
      many: ids.length,
      open: () => (row.kind === "snippet" ? visit(row) : setOpen(row.id, !row.open)),
      rename: () => setRenaming(row.id),
      toggle: () => void afterwards(ids.length > 1 ? actions.switchMany(ids, !row.enabled) : actions.toggle(row), row),
      shift: (up) => void afterwards(actions.shift(row.id, up), row),
      addSnippet: () => {
        rememberRow(row.id);
        actions.addSnippet(row.kind === "snippet" ? row.parentId : row.id);
      },
      addFolder: () => props.onFolder(row.kind === "snippet" ? row.parentId : row.id),
      rules: () => props.onRules(row),
      moveTo: () => props.onMove(ids),
      edit: () => props.onEdit(ids),
      duplicate: () => void afterwards(actions.duplicate(ids), row),
      save: () => props.onSave(ids),
      remove: () =>
        void (ids.length > 1 ? actions.removeMany(ids) : actions.remove(row)).then(() => {
          onSelect(nothingChosen);
          focusAt(index);
        }),
    };
  };

  const onKeyDown = (event: KeyboardEvent, row: TableRow, index: number) => {
    if (renaming !== undefined || event.target !== event.currentTarget) return;
    settle();
    const acts = actsOf(row, index);
    const walk = event.shiftKey ? extendTo : go;
    const withCtrl: Record<string, () => void> = {
      a: () => void fetchIds(view, 0, rows.total - 1, !isTree).then((ids) => onSelect(new Set(ids))),
      " ": () => canChoose(row) && onSelect(toggled(selection, row.id)),
    };
    const alone: Record<string, () => void> = {
      ArrowDown: () => (event.altKey ? acts.shift(false) : walk(index + 1)),
      ArrowUp: () => (event.altKey ? acts.shift(true) : index === 0 && !event.shiftKey ? toHead() : walk(index - 1)),
      Home: () => walk(0),
      End: () => walk(rows.total - 1),
      PageDown: () => walk(index + around),
      PageUp: () => walk(index - around),
      ArrowRight: () => (row.kind !== "snippet" && !row.open ? setOpen(row.id, true) : go(index + 1)),
      ArrowLeft: () => (row.open && isTree ? setOpen(row.id, false) : row.parentAt >= 0 && go(row.parentAt)),
      Enter: acts.open,
      Escape: () => onSelect(nothingChosen),
      F2: acts.rename,
      " ": acts.toggle,
      Delete: acts.remove,
      n: acts.addSnippet,
      m: acts.moveTo,
      r: acts.edit,
      d: acts.duplicate,
      a: () => document.getElementById(typingRowId)?.focus(),
      "/": () => document.getElementById(filterBoxId)?.focus(),
    };
    const act = (event.ctrlKey || event.metaKey ? withCtrl : alone)[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  };

  const onClick = (event: MouseEvent<HTMLElement>, row: TableRow, index: number) => {
    if (!event.ctrlKey && !event.metaKey && !event.shiftKey) {
      // A click on what a row holds is meant for that.
      if ((event.target as Element).closest("button, input")) return;
      anchor.current = undefined;
      if (selection.size > 0) onSelect(nothingChosen);
      return;
    }
    event.preventDefault();
    event.currentTarget.focus({ preventScroll: true });
    if (event.shiftKey) void selectTo(index);
    else if (canChoose(row)) {
      onSelect(toggled(selection, row.id));
      anchor.current = index;
    }
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

  if (rows.error) return <div className="page fault">{rows.error.message}</div>;
  if (!opened) return <div className="loading soft">Opening the libraries …</div>;

  const shownColumns = columnsWith(props.chosenColumns);
  return (
    <>
      <div
        className="table"
        role="treegrid"
        aria-label="Libraries, folders and snippets"
        aria-rowcount={rows.total + 1}
        aria-multiselectable
        ref={scroller}
        style={{ "--columns": widthsOf(shownColumns) } as React.CSSProperties}
      >
        <TableHead
          columns={shownColumns}
          sorting={table.sorting}
          onSort={table.sortBy}
          onLeave={() => focusAt(focusedAt)}
          height={headHeight}
        />
        <div className="table-body" role="rowgroup">
          <div style={{ height: rows.total * rowHeight, position: "relative" }} role="presentation">
            {drawn.map((index) => {
              const row = rows.at(index);
              if (!row) return null;
              const chosen = selection.has(row.id);
              const states = [
                `table-row ${row.kind}-row`,
                !row.active && "off",
                chosen && "chosen",
                drag.isTarget(row) && "drop",
                drag.isDragged(row) && "dragged",
              ];
              return (
                <div
                  key={row.id}
                  id={`row-${row.id}`}
                  role="row"
                  aria-level={row.depth + 1}
                  aria-rowindex={index + 2}
                  aria-selected={chosen}
                  aria-expanded={row.kind === "snippet" ? undefined : row.open}
                  tabIndex={index === focusedAt ? 0 : -1}
                  className={states.filter(Boolean).join(" ")}
                  style={{ transform: `translateY(${index * rowHeight}px)`, height: rowHeight }}
                  draggable={renaming !== row.id}
                  onFocus={() => setCurrent(row.id)}
                  onKeyDown={(event) => onKeyDown(event, row, index)}
                  onClickCapture={(event) => onClick(event, row, index)}
                  onDoubleClick={() => row.kind === "snippet" && visit(row)}
                  onContextMenu={(event) => openMenu(event, row, index)}
                  {...drag.of(row)}
                >
                  <RowCells
                    row={row}
                    columns={shownColumns}
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

import type { KeyboardEvent } from "react";
import type { Column } from "./columns";
import type { Sorting } from "./tableView";

interface Props {
  columns: readonly Column[];
  sorting: Sorting;
  onSort: (column: string) => void;
  /** On to the rows. */
  onLeave: () => void;
  height: number;
}

/** The heads of the columns: chosen, they sort the table. One of them is reached by Tab, the others by the arrow keys. */
export function TableHead({ columns, sorting, onSort, onLeave, height }: Props) {
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const heads = [...event.currentTarget.querySelectorAll("button")];
    const at = heads.indexOf(event.target as HTMLButtonElement);
    const act = {
      ArrowRight: () => heads[Math.min(at + 1, heads.length - 1)]?.focus(),
      ArrowLeft: () => heads[Math.max(at - 1, 0)]?.focus(),
      ArrowDown: onLeave,
    }[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  const first = columns.find((column) => column.sort !== null);
  return (
    <div role="rowgroup" className="table-head-group">
      {/* oxlint-disable-next-line jsx-a11y/interactive-supports-focus -- its buttons have the focus */}
      <div className="table-row table-head" role="row" style={{ height }} onKeyDown={onKeyDown}>
        {columns.map((column) => (
          <span
            key={column.id}
            role="columnheader"
            className={`c-${column.id}`}
            title={column.title}
            aria-sort={
              sorting.by !== null && sorting.by === column.sort
                ? sorting.descending
                  ? "descending"
                  : "ascending"
                : undefined
            }
          >
            {column.sort === null ? (
              column.label
            ) : (
              <button
                type="button"
                tabIndex={column === (columns.find((one) => one.sort === sorting.by && sorting.by) ?? first) ? 0 : -1}
                onClick={() => onSort(column.sort!)}
              >
                {column.label}
                {sorting.by === column.sort && <span aria-hidden> {sorting.descending ? "↓" : "↑"}</span>}
              </button>
            )}
          </span>
        ))}
        <span role="columnheader" className="c-more">
          <span className="visually-hidden">More</span>
        </span>
      </div>
    </div>
  );
}

import { MenuList, type MenuItem } from "../ui/MenuList";
import type { TableRow } from "../api/client";

/** Where the menu of a row was asked for. */
export interface RowMenuPlace {
  row: TableRow;
  index: number;
  x: number;
  y: number;
}

/** What can be done with a row, or with all that are chosen: everything its keys do. */
export interface RowActs {
  /** How many rows it is done with. */
  many: number;
  open: () => void;
  rename: () => void;
  toggle: () => void;
  shift: (up: boolean) => void;
  addSnippet: () => void;
  addFolder: () => void;
  rules: () => void;
  moveTo: () => void;
  edit: () => void;
  duplicate: () => void;
  save: () => void;
  remove: () => void;
}

const most = { width: 300, height: 440 };

export function RowMenu({ place, acts, onClose }: { place: RowMenuPlace; acts: RowActs; onClose: () => void }) {
  const { row } = place;
  const isSnippet = row.kind === "snippet";
  const toMany: MenuItem[] = [
    { label: "Move to …", keys: "M", act: acts.moveTo },
    { label: "Change rules and tags …", keys: "R", act: acts.edit },
    { label: "Duplicate", keys: "D", act: acts.duplicate },
    { label: "Save to a file …", act: acts.save },
    "line",
    { label: "Put into the bin", keys: "Delete", act: acts.remove },
  ];
  const toOne: MenuItem[] = [
    { label: isSnippet ? "Open" : row.open ? "Close" : "Open", keys: "Enter", act: acts.open },
    { label: "Rename", keys: "F2", act: acts.rename },
    { label: row.enabled ? "Switch off" : "Switch on", keys: "Space", act: acts.toggle },
    "line",
    { label: "Move up", keys: "Alt+↑", act: () => acts.shift(true) },
    { label: "Move down", keys: "Alt+↓", act: () => acts.shift(false) },
    "line",
    { label: "New snippet here", keys: "N", act: acts.addSnippet },
    ...(isSnippet
      ? []
      : ([
          { label: "New folder in it", act: acts.addFolder },
          { label: row.kind === "library" ? "Rules of the library" : "What new snippets begin with", act: acts.rules },
        ] satisfies MenuItem[])),
    "line",
    ...toMany,
  ];
  const ofAll = `What can be done with ${acts.many} rows`;
  const items: MenuItem[] =
    acts.many > 1
      ? [{ label: row.enabled ? "Switch all off" : "Switch all on", keys: "Space", act: acts.toggle }, ...toMany]
      : toOne;
  return (
    <MenuList
      name={acts.many > 1 ? ofAll : `What can be done with ${row.name}`}
      items={items}
      opener={undefined}
      style={{
        position: "fixed",
        left: Math.max(4, Math.min(place.x, innerWidth - most.width)),
        top: Math.max(4, Math.min(place.y, innerHeight - most.height)),
        right: "auto",
      }}
      onClose={(back) => {
        onClose();
        if (back) document.getElementById(`row-${row.id}`)?.focus({ preventScroll: true });
      }}
    />
  );
}

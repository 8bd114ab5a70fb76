import { useState, type DragEvent } from "react";
import type { TableRow } from "../api/client";

/** Where something is dropped: into a library or folder, in front of another one or at the end. */
export interface Destination {
  parentId: number | null;
  before: number | null;
}

/** Where dropping some rows on another one puts them: a like one goes in front of it, snippets and folders go into a library or folder. */
export function destinationOf(
  dragged: Pick<TableRow, "id" | "kind"> | undefined,
  ids: readonly number[],
  onto: Pick<TableRow, "id" | "kind" | "parentId">,
): Destination | undefined {
  if (!dragged || ids.includes(onto.id)) return undefined;
  if (dragged.kind === onto.kind) return { parentId: onto.kind === "library" ? null : onto.parentId, before: onto.id };
  if (dragged.kind === "library" || onto.kind === "snippet") return undefined;
  return { parentId: onto.id, before: null };
}

/** Dragging one row or all that are chosen; a row is seen to be the target. */
export function useRowDrag(
  meant: (row: TableRow) => number[],
  onMove: (ids: number[], to: Destination) => void,
  canMove: boolean,
) {
  const [dragged, setDragged] = useState<{ row: TableRow; ids: number[] }>();
  const [target, setTarget] = useState<number>();
  const end = () => {
    setDragged(undefined);
    setTarget(undefined);
  };
  const to = (row: TableRow) => (dragged ? destinationOf(dragged.row, dragged.ids, row) : undefined);
  return {
    isDragged: (row: TableRow) => dragged?.ids.includes(row.id) === true,
    isTarget: (row: TableRow) => target === row.id,
    /** What a row listens to. */
    of: (row: TableRow) => ({
      onDragStart: (event: DragEvent<HTMLElement>) => {
        if (!canMove) {
          event.preventDefault();
          return;
        }
        const ids = meant(row);
        setDragged({ row, ids });
        event.dataTransfer.effectAllowed = "move";
        if (ids.length > 1) event.dataTransfer.setDragImage(countImage(ids.length), -8, -8);
      },
      onDragEnd: end,
      onDragOver: (event: DragEvent) => {
        if (!to(row)) return;
        event.preventDefault();
        setTarget(row.id);
      },
      onDragLeave: () => setTarget(undefined),
      onDrop: (event: DragEvent) => {
        event.preventDefault();
        const place = to(row);
        if (dragged && place) onMove(dragged.ids, place);
        end();
      },
    }),
  };
}

/** A small picture of how many are dragged. */
function countImage(count: number): HTMLElement {
  const image = document.createElement("div");
  image.className = "drag-count";
  image.textContent = `${count} rows`;
  document.body.append(image);
  setTimeout(() => image.remove());
  return image;
}

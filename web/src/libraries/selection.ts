/** Which rows are chosen, to do something with all of them. */
export type Selection = ReadonlySet<number>;

export const nothingChosen: Selection = new Set();

export function toggled(selection: Selection, id: number): Selection {
  const next = new Set(selection);
  if (!next.delete(id)) next.add(id);
  return next;
}

/** What something is done with that is asked for at a row: all that are chosen when it is one of them, else itself. */
export const meantBy = (selection: Selection, id: number): number[] =>
  selection.has(id) && selection.size > 1 ? [...selection] : [id];

/** The rows from one place to another, or the snippets among them, when all of them are here; undefined when some are not. */
export function idsBetween(
  from: number,
  to: number,
  at: (index: number) => { id: number; kind: string } | undefined,
  all: boolean,
): number[] | undefined {
  const ids: number[] = [];
  for (let index = Math.min(from, to); index <= Math.max(from, to); index++) {
    const row = at(index);
    if (!row) return undefined;
    if (all || row.kind === "snippet") ids.push(row.id);
  }
  return ids;
}

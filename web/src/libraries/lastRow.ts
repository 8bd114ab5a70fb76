let last: number | undefined;

/** Remembers which row one left the table for. */
export function rememberRow(id: number): void {
  last = id;
}

/** The row one comes back to; asked once. */
export function takeLastRow(): number | undefined {
  const row = last;
  last = undefined;
  return row;
}

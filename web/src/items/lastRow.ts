let last: number | undefined;

/** Remembers which row one left the table for. */
export function rememberRow(id: number): void {
  last = id;
}

/** The row one comes back to. */
export const lastRow = (): number | undefined => last;

/** One has come back. */
export function forgetRow(): void {
  last = undefined;
}

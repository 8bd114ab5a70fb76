/** How many rows are asked for at once. */
export const pageSize = 80;

/** The pages that hold the rows from one place to another; the first one at least. */
export function pagesOf(first: number, last: number): number[] {
  const from = Math.floor(Math.max(first, 0) / pageSize);
  const to = Math.floor(Math.max(last, first, 0) / pageSize);
  return Array.from({ length: to - from + 1 }, (_, place) => from + place);
}

/** The first and the last row in sight of a list that is scrolled, all rows being of one height. */
export const rowsInSight = (scrolled: number, height: number, rowHeight: number): { first: number; last: number } => ({
  first: Math.max(0, Math.floor(scrolled / rowHeight)),
  last: Math.max(0, Math.ceil((scrolled + height) / rowHeight) - 1),
});

import { useQuery } from "@tanstack/react-query";
import { readClosedRows } from "./closedRows";
import { rowsQuery } from "./rowsQuery";

/** Whether there is no snippet at all; not before that is known. */
export function useIsEmpty(): boolean {
  const { data } = useQuery(rowsQuery(readClosedRows(), 0));
  return (
    data !== undefined &&
    data.rows.length === data.total &&
    data.rows.every((row) => row.snippets === 0 && row.kind !== "snippet")
  );
}

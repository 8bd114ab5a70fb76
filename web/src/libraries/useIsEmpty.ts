import { useQuery } from "@tanstack/react-query";
import { readClosedRows } from "./closedRows";
import { rowsQuery } from "./rowsQuery";
import { treeOrder, viewOf } from "./tableView";

/** Whether there is no snippet at all; not before that is known. */
export function useIsEmpty(): boolean {
  const { data } = useQuery(rowsQuery(viewOf(readClosedRows(), "", treeOrder), 0));
  return data?.snippets === 0;
}

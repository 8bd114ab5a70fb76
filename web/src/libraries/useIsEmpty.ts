import { useQuery } from "@tanstack/react-query";
import { readClosedRows } from "./closedRows";
import { rowsQuery } from "./rowsQuery";
import { treeOrder, viewOf } from "./tableView";

/** Whether there is no snippet at all; undefined before that is known. */
export function useIsEmpty(): boolean | undefined {
  const { data } = useQuery(rowsQuery(viewOf(readClosedRows(), "", treeOrder), 0));
  return data && data.snippets === 0;
}

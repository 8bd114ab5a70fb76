import { api, unwrap, type Rows, type TableView } from "../api/client";
import { keys, queryClient } from "../api/queries";
import { readClosedRows } from "./closedRows";
import { pageSize } from "../ui/pages";
import { treeOrder, viewOf } from "./tableView";

export const fetchRows = (view: TableView, from: number, count: number, find: number | null): Promise<Rows> =>
  unwrap(api.POST("/api/libraries/rows", { body: { view, from, count, find } }));

/** The ids of the rows from one place to another, for those that are not here. */
export const fetchIds = (view: TableView, from: number, to: number, onlySnippets: boolean): Promise<number[]> =>
  unwrap(api.POST("/api/libraries/rows/ids", { body: { view, from, to, onlySnippets } }));

/** One page of rows as it is asked for and kept. */
export const rowsQuery = (view: TableView, page: number) => ({
  queryKey: [...keys.rows, view, page],
  queryFn: () => fetchRows(view, page * pageSize, pageSize, null),
});

/** Asks for the first rows while the table's own code is still being loaded. */
export const askForFirstRows = (): Promise<void> =>
  queryClient.prefetchQuery(rowsQuery(viewOf(readClosedRows(), "", treeOrder), 0));

import { api, unwrap, type Rows } from "../api/client";
import { keys, queryClient } from "../api/queries";
import { readClosedRows } from "./closedRows";
import { pageSize } from "./pages";

export const fetchRows = (closed: readonly number[], from: number, count: number, find: number | null): Promise<Rows> =>
  unwrap(api.POST("/api/libraries/rows", { body: { closed: [...closed], from, count, find } }));

/** One page of rows as it is asked for and kept. */
export const rowsQuery = (closed: readonly number[], page: number) => ({
  queryKey: [...keys.rows, closed, page],
  queryFn: () => fetchRows(closed, page * pageSize, pageSize, null),
});

/** Asks for the first rows while the table's own code is still being loaded. */
export const askForFirstRows = (): Promise<void> => queryClient.prefetchQuery(rowsQuery(readClosedRows(), 0));

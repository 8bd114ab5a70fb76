/** What was changed, deleted and kept. */
export const loadHistory = () => import("./HistoryView");

/** What snippets save. */
export const loadSavings = () => import("./SavingsView");

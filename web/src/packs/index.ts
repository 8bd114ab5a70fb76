/** Libraries that come with the program. */
export const loadPacks = () => import("./PacksView");

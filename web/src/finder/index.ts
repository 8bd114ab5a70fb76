/** Finds a snippet wherever one types. */
export { finderOrigin, type FinderOrigin } from "./finderOrigin";
export const loadFinder = () => import("./Finder");

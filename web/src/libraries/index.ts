/** The table of libraries, folders and snippets. */
export { askForFirstRows } from "./rowsQuery";
export const loadLibraries = () => import("./LibrariesView");

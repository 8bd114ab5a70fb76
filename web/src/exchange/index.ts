/** Files in and out. */
export { acceptedFiles } from "./importing";

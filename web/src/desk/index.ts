/** The stand-in applications to try snippets in. */
export { addOpened } from "./openedThings";
export { toggleRecording } from "./recording";
export const loadDesk = () => import("./DeskView");

/** What others build in. */
export { MirrorSection } from "./MirrorSection";

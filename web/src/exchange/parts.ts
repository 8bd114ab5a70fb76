/** What others build in. */
export { ExportDialog } from "./ExportDialog";
export { ImportDialog } from "./ImportDialog";
export { LookDialog } from "./LookDialog";

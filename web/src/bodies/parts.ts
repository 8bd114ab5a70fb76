/** What others build in. */
export { BodyEditor } from "./BodyEditor";
export { BodyRehearsal } from "./BodyRehearsal";

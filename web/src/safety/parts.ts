/** What others build in. */
export { Keys } from "./Keys";
export { OverlapSentence, Shown } from "./OverlapSentence";
export { Suggestions } from "./Suggestions";

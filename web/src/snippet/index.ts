/** One snippet: its page, and saving what is typed there. */
export { answerFor, forgetUnsaved, letGo, saverOf, saversAtWork, withUnsavedWork } from "./SnippetSaver";
export { told } from "./useSaving";
export const loadSnippet = () => import("./SnippetView");

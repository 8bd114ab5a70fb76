/** What a snippet puts in: its editor, and what is read from it. */
export { bodyWords, wordsOf } from "./bodyWords";
export { paragraphsOf } from "./markup";

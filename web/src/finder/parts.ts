/** What others build in. */
export { FinderBox } from "./Finder";

/** What others build in. */
export { GatherForm } from "./Gather";

/** A new snippet of what stands there. */
export { nameOf, onGather, openGather, recordedName, type GatherStart } from "./gathering";
export const loadGather = () => import("./Gather");

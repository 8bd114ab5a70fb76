/** Practice with abbreviations. */
export const loadDrill = () => import("./DrillView");

/** What goes off by accident, and what answers to the same keys. */
export const loadSafety = () => import("./SafetyView");

/** Asks for what a snippet needs before it goes in. */
export const loadFillSlip = () => import("./FillSlip");
export const loadOpenQuestions = () => import("./OpenQuestions");

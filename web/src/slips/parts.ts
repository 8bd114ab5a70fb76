/** What others build in. */
export { FillSlip } from "./FillSlip";
export { OpenTargets } from "./OpenQuestions";

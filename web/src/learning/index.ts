/** What is learned of what one types. */
export const loadSprouts = () => import("./SproutsView");

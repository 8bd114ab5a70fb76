/** What stands over other applications. */
export const loadCompanion = () => import("./CompanionPage");

/** How the program behaves. */
export const loadSettings = () => import("./SettingsView");

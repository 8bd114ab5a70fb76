import { createContext, useEffect, useState, useSyncExternalStore } from "react";
import type { ThemeName as Name } from "./theme";

const storageKey = "dash-sprout.theme";

/** Changes between the light and the dark theme. */
export const ToggleTheme = createContext<() => void>(() => undefined);

/** The name of the theme in use. */
export const ThemeName = createContext<Name>("light");

/** The theme in use: the user's choice, else the desktop's, also when that one changes. */
export function useTheme(): [Name, () => void] {
  const [chosen, setChosen] = useState(readChosen);
  const desktop = useSyncExternalStore(watchDesktop, desktopTheme);
  const name = chosen ?? desktop;
  useEffect(() => {
    document.documentElement.dataset["theme"] = name;
  }, [name]);
  const toggle = () => {
    const next = name === "dark" ? "light" : "dark";
    localStorage.setItem(storageKey, next);
    setChosen(next);
  };
  return [name, toggle];
}

function readChosen(): Name | undefined {
  const chosen = localStorage.getItem(storageKey);
  return chosen === "light" || chosen === "dark" ? chosen : undefined;
}

const desktopIsDark = () => matchMedia("(prefers-color-scheme: dark)");

const desktopTheme = (): Name => (desktopIsDark().matches ? "dark" : "light");

function watchDesktop(changed: () => void): () => void {
  const watched = desktopIsDark();
  watched.addEventListener("change", changed);
  return () => watched.removeEventListener("change", changed);
}

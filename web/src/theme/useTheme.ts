import { createContext, useEffect, useState } from "react";
import type { ThemeName as Name } from "./theme";

const storageKey = "dash-sprout.theme";

/** Changes between the light and the dark theme. */
export const ToggleTheme = createContext<() => void>(() => undefined);

/** The name of the theme in use. */
export const ThemeName = createContext<Name>("light");

/** The theme in use: the user's choice, else the desktop's. */
export function useTheme(): [Name, () => void] {
  const [name, setName] = useState<Name>(() => {
    const chosen = localStorage.getItem(storageKey);
    if (chosen === "light" || chosen === "dark") return chosen;
    return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
  });
  useEffect(() => {
    document.documentElement.dataset["theme"] = name;
  }, [name]);
  const toggle = () => {
    const next = name === "dark" ? "light" : "dark";
    localStorage.setItem(storageKey, next);
    setName(next);
  };
  return [name, toggle];
}

import { createContext, use } from "react";

/** The stand-in applications, by the ids that scopes see. */
export const deskApps = [
  { id: "post", name: "Post" },
  { id: "log-book", name: "Log book" },
  { id: "radio-chat", name: "Radio chat" },
  { id: "fee-sheet", name: "Fee sheet" },
  { id: "console", name: "Console" },
  { id: "permit-portal", name: "Permit portal" },
  { id: "web-tabs", name: "Web tabs" },
  { id: "files", name: "Files" },
] as const;

/** What can stand on the desk: the applications, and a phone to look at. */
export const deskWindows = [...deskApps, { id: "phone", name: "Phone" }] as const;

export type DeskAppId = (typeof deskWindows)[number]["id"];

export const isDeskApp = (id: string): id is DeskAppId => deskWindows.some((app) => app.id === id);

/** Web and mail addresses open in the tabs; documents, folders and applications among the files. */
export const isAddress = (target: string): boolean => /^(https?|mailto):/i.test(target);

/** The place whose engine decides on the desk: all its fields share what was typed last. */
export const deskPlace = "desk";

/** Which windows are open, in their order, and which of them fills the desk. */
export interface Arrangement {
  open: DeskAppId[];
  filled: DeskAppId | null;
}

export const firstArrangement: Arrangement = { open: ["post", "log-book", "radio-chat", "console"], filled: null };

export interface WindowActions {
  arrangement: Arrangement;
  close: (app: DeskAppId) => void;
  fill: (app: DeskAppId) => void;
  move: (app: DeskAppId, by: number) => void;
}

export const Windows = createContext<WindowActions | undefined>(undefined);

export const useWindows = (): WindowActions => {
  const windows = use(Windows);
  if (!windows) throw new Error("A window stands outside the desk.");
  return windows;
};

export const opened = (before: Arrangement, app: DeskAppId): Arrangement => ({
  open: before.open.includes(app) ? before.open : [...before.open, app],
  filled: before.filled === null ? null : app,
});

export const closed = (before: Arrangement, app: DeskAppId): Arrangement => ({
  open: before.open.filter((other) => other !== app),
  filled: before.filled === app ? null : before.filled,
});

export function moved(before: Arrangement, app: DeskAppId, by: number): Arrangement {
  const from = before.open.indexOf(app);
  const to = from + by;
  if (from < 0 || to < 0 || to >= before.open.length) return before;
  const rest = before.open.filter((other) => other !== app);
  return { ...before, open: [...rest.slice(0, to), app, ...rest.slice(to)] };
}

/** What an opened thing is called; whatever stands in its address, it has a name. */
export function titleOf(target: string): string {
  if (/^https?:/i.test(target)) return URL.parse(target)?.hostname ?? target;
  if (target.startsWith("mailto:")) return `Letter to ${target.slice(7).split("?")[0]}`;
  if (target.startsWith("app:")) return `Application ${target.slice(4)}`;
  const name = target.replace(/\/$/, "").split("/").at(-1) ?? target;
  try {
    return decodeURIComponent(name);
  } catch {
    // A percent sign of its own: the name is meant as it is written.
    return name;
  }
}

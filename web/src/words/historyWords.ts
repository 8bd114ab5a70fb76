import { partTitles } from "./snippetParts";

/** Which parts changed, as one phrase. */
export const partWords = (names: readonly string[]): string =>
  names.map((name) => (partTitles as Record<string, string>)[name] ?? name).join(", ");

/** A moment as people say it: today by its time, else with its day. */
export function moment(at: string, now = new Date()): string {
  const then = new Date(at);
  const time = then.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  if (then.toDateString() === now.toDateString()) return `today, ${time}`;
  const day = then.toLocaleDateString("en-GB", {
    day: "numeric",
    month: "long",
    ...(then.getFullYear() === now.getFullYear() ? {} : { year: "numeric" }),
  });
  return `${day}, ${time}`;
}

/** A size in the unit that fits. */
export const size = (bytes: number): string =>
  bytes < 1024 * 1024 ? `${Math.ceil(bytes / 1024)} KiB` : `${(bytes / 1024 / 1024).toFixed(1)} MiB`;

export const reasons: Record<string, string> = {
  daily: "once a day",
  "before-import": "before libraries were brought in",
  "before-restore": "before a backup was restored",
  "before-update": "before the program was updated",
  asked: "asked for",
  "brought-in": "brought in as a file",
};

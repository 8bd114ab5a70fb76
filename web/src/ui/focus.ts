import { tabbable } from "tabbable";

/** The control in an area that the focus goes to first: the one marked for it, else the first one that Tab reaches. */
export function firstControl(area: HTMLElement | null): HTMLElement | undefined {
  if (!area) return undefined;
  const marked = area.querySelector<HTMLElement>("[data-first]");
  return marked ?? (tabbable(area, { displayCheck: "none" })[0] as HTMLElement | undefined);
}

/** Gives the focus to the first control of an area, its text selected; whether it has it now. */
export function focusFirst(area: HTMLElement | null): boolean {
  const control = firstControl(area);
  control?.focus({ preventScroll: true });
  if (control instanceof HTMLInputElement && control.type !== "checkbox" && control.type !== "radio") control.select();
  return control !== undefined && control === document.activeElement;
}

/** The place Tab goes to from the last control of an area, and Shift+Tab from its first: the focus stays in it. */
export function keepInside(
  area: HTMLElement,
  event: { key: string; shiftKey: boolean; preventDefault: () => void },
): void {
  if (event.key !== "Tab") return;
  const all = tabbable(area, { displayCheck: "none" });
  const at = all.indexOf(document.activeElement as HTMLElement);
  const leaves = event.shiftKey ? at <= 0 : at === all.length - 1;
  if (!leaves) return;
  event.preventDefault();
  (event.shiftKey ? all.at(-1) : all[0])?.focus();
}

/**
 * Gives the focus back to who had it, once what lay over it is gone: a dialog that still closes takes it again for some frames. When
 * who had it is gone too, the view has it.
 */
export function giveBack(to: Element | null, from: Element | null, frames = 12): void {
  requestAnimationFrame(() => {
    const active = document.activeElement;
    if (isSomewhere() && active?.id !== "view" && !from?.contains(active)) return;
    if (to instanceof HTMLElement && to.isConnected && to !== document.body) to.focus({ preventScroll: true });
    if (frames > 0 && document.activeElement !== to) giveBack(to, from, frames - 1);
    else if (!isSomewhere()) document.getElementById("view")?.focus({ preventScroll: true });
  });
}

/** Whether anything has the focus that keys can act on. */
export const isSomewhere = (): boolean =>
  document.activeElement !== null &&
  document.activeElement !== document.body &&
  document.activeElement !== document.documentElement;

/** Whether a finger points here, for whom a focused field would bring up a keyboard. */
export const byTouch = (): boolean => matchMedia("(pointer: coarse)").matches;

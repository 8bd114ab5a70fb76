import { useSyncExternalStore } from "react";
import type { Flow } from "../api/client";

/** Something that is or was on the clipboard. */
export interface Clip {
  id: number;
  plain: string;
  /** With its formatting, as it was copied. */
  html?: string | undefined;
  /** With its formatting, as a snippet has it. */
  flow?: Flow | undefined;
  /** Whether a snippet put it there on its way into a field, or somebody copied it. */
  from: "copied" | "snippet";
}

const most = 12;
const nothing: Clip = { id: 0, plain: "", from: "copied" };

/**
 * The clipboard as the page knows it. A text that goes in through the clipboard is on it for a moment and what was there before
 * comes back; every change stays visible as an entry. What is pasted from the system's clipboard is taken up when it is seen.
 */
class PageClipboard {
  private count = 0;
  private system = "";
  private remembered: Clip | undefined;
  private state: { current: Clip; entries: readonly Clip[] } = { current: nothing, entries: [] };
  private readonly watchers = new Set<(clip: Clip) => void>();

  get current(): Clip {
    return this.state.current;
  }

  readonly snapshot = () => this.state;

  readonly watch = (watcher: (clip: Clip) => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  copied(plain: string, html?: string): void {
    if (plain === "") return;
    this.system = plain;
    this.change({ id: ++this.count, plain, html, from: "copied" });
  }

  /** Makes an earlier entry the current one again. */
  use(clip: Clip): void {
    this.change(clip);
  }

  setForDelivery(plain: string, flow?: Flow): void {
    this.remembered ??= this.state.current;
    this.change({ id: ++this.count, plain, flow, from: "snippet" });
  }

  /** Something that is no text is on the system's clipboard: what is here is older. */
  superseded(): void {
    this.system = "";
    this.change(nothing);
  }

  /** After a delivery: what was there before comes back, or the text is left. */
  endDelivery(restore: boolean): void {
    if (restore && this.remembered) this.change(this.remembered);
    this.remembered = undefined;
  }

  /** A paste brings this from the system; true when the page's own clipboard holds something newer. */
  differsFrom(plain: string, html?: string): boolean {
    if (plain !== "" && plain !== this.system) this.copied(plain, html);
    return this.state.current.plain !== plain;
  }

  private change(current: Clip): void {
    const others = this.state.entries.filter((clip) => clip.id !== current.id);
    this.state = { current, entries: current.id === 0 ? others : [current, ...others].slice(0, most) };
    for (const watcher of this.watchers) watcher(current);
  }
}

export const pageClipboard = new PageClipboard();

export const usePageClipboard = () => useSyncExternalStore(pageClipboard.watch, pageClipboard.snapshot);

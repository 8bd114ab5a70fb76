import { useEffect, useSyncExternalStore } from "react";
import { api, unwrap } from "../api/client";

/** What a live part comes to now, or what is wrong with it. */
export interface PartValue {
  text: string;
  problem: string | null;
}

type Ask = (parts: string[]) => Promise<PartValue[]>;

/** As many as one request may ask for. */
const mostAtOnce = 200;

/** Values older than this are asked for again when they are looked at: a date is another one tomorrow. */
const freshMs = 60_000;

const soonMs = 60;
const againMs = 2000;

/** The values of live parts that are shown: asked for together, kept for a while, and asked for again when that failed. */
export class PartValues {
  private readonly values = new Map<string, { value: PartValue; at: number }>();
  private readonly shown = new Map<string, number>();
  private readonly wanted = new Set<string>();
  private readonly listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private asking = false;

  constructor(
    private readonly ask: Ask,
    private readonly now: () => number = Date.now,
  ) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  get(part: string): PartValue | undefined {
    return this.values.get(part)?.value;
  }

  /** Whether some part that is shown says itself what is wrong with it. */
  anyWrong(): boolean {
    return [...this.shown.keys()].some((part) => this.values.get(part)?.value.problem != null);
  }

  /** A part is shown from now on, until what is given is called. */
  show(part: string): () => void {
    this.shown.set(part, (this.shown.get(part) ?? 0) + 1);
    const known = this.values.get(part);
    if (!known || this.now() - known.at >= freshMs) this.want([part]);
    return () => {
      const left = (this.shown.get(part) ?? 1) - 1;
      if (left > 0) this.shown.set(part, left);
      else {
        this.shown.delete(part);
        this.wanted.delete(part);
      }
    };
  }

  /** Asks anew for everything that is shown, because what it depends on has changed. */
  refresh(): void {
    this.want([...this.shown.keys()]);
  }

  private want(parts: Iterable<string>): void {
    for (const part of parts) this.wanted.add(part);
    this.schedule(soonMs);
  }

  private schedule(ms: number): void {
    if (this.asking || this.wanted.size === 0) return;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.askNow(), ms);
  }

  private async askNow(): Promise<void> {
    const parts = [...this.wanted].slice(0, mostAtOnce);
    if (parts.length === 0) return;
    for (const part of parts) this.wanted.delete(part);
    this.asking = true;
    let wait = 0;
    try {
      const answers = await this.ask(parts);
      const at = this.now();
      for (const [index, part] of parts.entries()) this.values.set(part, { value: answers[index]!, at });
      for (const listener of this.listeners) listener();
    } catch {
      // The program is away, which the frame says; a part is not wrong because of that.
      for (const part of parts) if (this.shown.has(part)) this.wanted.add(part);
      wait = againMs;
    }
    this.asking = false;
    this.schedule(wait);
  }
}

const values = new PartValues((parts) => unwrap(api.POST("/api/preview/parts", { body: { parts } })));
setInterval(() => values.refresh(), freshMs);

/** Asks anew for the parts that are shown. */
export const refreshParts = (): void => values.refresh();

/** Whether some live part on the page says itself what is wrong with it. */
export const useWrongPart = (): boolean => useSyncExternalStore(values.subscribe, () => values.anyWrong());

/** What a live part comes to now; undefined until it is known. */
export function usePartValue(html: string): PartValue | undefined {
  const value = useSyncExternalStore(values.subscribe, () => values.get(html));
  useEffect(() => values.show(html), [html]);
  return value;
}

import {
  ApiError,
  api,
  unwrap,
  type SnippetAnswer,
  type SnippetDocument,
  type SnippetEdit,
  type SnippetSaved,
} from "../api/client";
import {
  arrived,
  begin,
  keptMine,
  saved,
  takenUp,
  toSend,
  tookTheirs,
  unsavedParts,
  unsavedWork,
  type Saving,
  type Sent,
  type Unsaved,
} from "./saving";
import { keepUnsaved, takeOverUnsaved, unsavedIds, unsavedOf } from "./unsavedWork";

/** How saving stands: nothing to do, under way, some parts refused or changed on both sides, or nothing can be saved now. */
export type SaveState = "saved" | "saving" | "refused" | "conflict" | "away";

const delayMs = 400;
const againMs = 2000;

/** What a saver needs from outside; tests give their own. */
export interface SaverServices {
  send: (id: number, sent: Sent) => Promise<SnippetSaved>;
  /** Keeps unsaved work, or forgets it; false when it cannot be kept. */
  keep: (id: number, work: Unsaved | undefined) => boolean;
  kept: (id: number) => Unsaved | undefined;
  /** Asks for the snippet as it is kept now. */
  look: (id: number) => Promise<SnippetAnswer>;
  told: (id: number, answer: SnippetAnswer, said: string | undefined) => void;
  /** A new snippet was made, and has another id from now on. */
  made?: (before: number, id: number) => void;
}

/**
 * Keeps one snippet saved while it is edited. It belongs to no page: unsaved work is kept in the browser and sent as soon as the
 * program answers, whatever happened to the page meanwhile.
 */
export class SnippetSaver {
  private saving: Saving;
  private running = false;
  private problem: string | undefined;
  private safe = true;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly watchers = new Set<() => void>();

  /** @param id The snippet's; a number below 0 for one that is made when there is something to save. */
  constructor(
    public id: number,
    answer: SnippetAnswer,
    private readonly around: SaverServices,
  ) {
    const work = around.kept(id);
    this.saving = work ? takenUp(answer, work) : begin(answer, id < 0);
    if (work) this.later(0);
  }

  get current(): Saving {
    return this.saving;
  }

  get state(): SaveState {
    const unsaved = unsavedParts(this.saving);
    const faults = unsaved.map((part) => this.saving.faults[part]).filter((fault) => fault !== undefined);
    if (this.problem !== undefined && unsaved.length > 0) return "away";
    if (faults.some((fault) => fault.conflict)) return "conflict";
    if (this.running || unsaved.length > faults.length) return "saving";
    return faults.length > 0 ? "refused" : "saved";
  }

  /** Why nothing can be saved at the moment; undefined when it can. */
  get why(): string | undefined {
    return this.problem;
  }

  /** Whether leaving the browser would lose something: it is neither saved nor kept here. */
  get wouldLose(): boolean {
    return !this.safe && unsavedParts(this.saving).length > 0;
  }

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  /** Changes what stands on the page; it is saved a moment later. */
  change = (change: (saving: Saving) => Saving): void => {
    this.set(change(this.saving));
    this.later(delayMs);
  };

  /** The snippet has become known anew. */
  arrive(answer: SnippetAnswer): void {
    // What is under way answers itself; what was known of a snippet before it was made is old.
    if (this.running || answer.id !== this.saving.answer.id) return;
    if (answer.version < this.saving.answer.version) return void this.doubt();
    this.set(arrived(this.saving, answer));
    this.later(0);
  }

  /** An answer that is older than what is known was asked for before the last save, or a backup was restored: it is asked again. */
  private async doubt(): Promise<void> {
    const before = this.saving.answer;
    try {
      const answer = await this.around.look(this.id);
      if (this.running || this.saving.answer !== before) return;
      this.set(arrived(this.saving, answer));
      this.later(0);
    } catch (error) {
      // Whoever shows the snippet is told why it cannot be had.
      if (!(error instanceof ApiError)) throw error;
    }
  }

  /** Goes on with unsaved work of a tab that was closed; false while there is some here. */
  takeUp(work: Unsaved): boolean {
    if (this.running || unsavedParts(this.saving).length > 0) return false;
    const taken = takenUp(this.saving.answer, work);
    this.set({ ...taken, generation: this.saving.generation + 1 });
    this.later(0);
    return true;
  }

  keepMine = (part: string): void => {
    this.set(keptMine(this.saving, part));
    this.later(0);
  };

  takeTheirs = (part: string): void => {
    this.set(tookTheirs(this.saving, part));
    this.later(0);
  };

  /** Sends what is unsaved now instead of a moment later. */
  flush = (): Promise<void> => {
    clearTimeout(this.timer);
    this.timer = undefined;
    return this.save();
  };

  private later(ms: number): void {
    clearTimeout(this.timer);
    this.timer = toSend(this.saving) ? setTimeout(() => void this.flush(), ms) : undefined;
  }

  private async save(): Promise<void> {
    if (this.running) return;
    const sent = toSend(this.saving);
    if (!sent) return;
    this.running = true;
    this.tell();
    try {
      const answer = await this.around.send(this.id, sent);
      this.problem = undefined;
      this.running = false;
      this.isNow(answer.now.id);
      this.set(saved(this.saving, sent, answer));
      this.around.told(this.id, answer.now, answer.said ?? undefined);
      // What was typed during one save goes with the next.
      this.later(0);
    } catch (error) {
      this.running = false;
      if (!(error instanceof ApiError)) throw error;
      this.problem = error.message;
      this.tell();
      // What was deleted elsewhere may come back from the bin; asking again and again does not bring it.
      if (error.problem.status !== 404) this.timer = setTimeout(() => void this.flush(), againMs);
    }
  }

  /** A new snippet has been made. */
  private isNow(id: number): void {
    if (id === this.id) return;
    this.around.keep(this.id, undefined);
    this.around.made?.(this.id, id);
    this.id = id;
  }

  private set(saving: Saving): void {
    this.saving = saving;
    // What is private is nobody's business in the browser's store either: leaving asks while it is unsaved.
    const isPrivate = [saving.kept, saving.draft, saving.answer.snippet].some((snippet) => snippet.private);
    this.safe = this.around.keep(this.id, isPrivate ? undefined : unsavedWork(saving)) && !isPrivate;
    this.tell();
  }

  private tell(): void {
    for (const watcher of this.watchers) watcher();
  }
}

const inBrowser: Pick<SaverServices, "keep" | "kept"> = { keep: keepUnsaved, kept: unsavedOf };

const look = (id: number): Promise<SnippetAnswer> =>
  unwrap(api.GET("/api/snippets/{id}", { params: { path: { id } } }));

const savers = new Map<number, SnippetSaver>();

/** The saver of a snippet: the one that is at work already, or a new one for what is kept. */
export function saverOf(id: number, answer: SnippetAnswer, told: SaverServices["told"]): SnippetSaver {
  const known = savers.get(id);
  if (known) return known;
  let made: SnippetAnswer | undefined;
  const send = async (wanted: number, { edit }: Sent) => {
    if (wanted < 0 && made === undefined) {
      const body = { parentId: answer.parentId || null, snippet: { text: "" } };
      made = await unwrap(api.POST("/api/snippets", { body }));
    }
    const path = { id: wanted < 0 && made ? made.id : wanted };
    const body = wanted < 0 && made ? basedOn(edit, made.snippet) : edit;
    return await unwrap(api.PATCH("/api/snippets/{id}", { params: { path }, body }));
  };
  const saver = new SnippetSaver(id, answer, {
    ...inBrowser,
    look,
    send,
    told,
    made: (before, now) => {
      savers.delete(before);
      savers.set(now, saver);
    },
  });
  savers.set(id, saver);
  return saver;
}

/** A new snippet has the name that the server gave it; what changes is based on that. */
export function basedOn(edit: SnippetEdit, made: SnippetDocument): SnippetEdit {
  if (edit.before.name === undefined) return edit;
  return { ...edit, before: { ...edit.before, name: made.name ?? null } };
}

/** An id for a snippet that is not made yet. */
export const idOfNew = (): number => -Date.now();

/** A snippet that is not made yet, in a library or folder or beside a snippet. */
export const newSnippet = (place: number | undefined): Promise<SnippetAnswer> =>
  unwrap(api.GET("/api/snippets/new", { params: { query: place === undefined ? {} : { parentId: place } } }));

/** What is known of the snippet of unsaved work; of one that was never made, what its place is. */
export async function answerFor(id: number): Promise<SnippetAnswer> {
  if (id > 0) return await look(id);
  const place = inBrowser.kept(id)?.place;
  try {
    return await newSnippet(place ?? undefined);
  } catch (error) {
    // Its place is gone: it is made in the first library.
    if (place == null || !(error instanceof ApiError) || error.problem.status !== 404) throw error;
    return await newSnippet(undefined);
  }
}

/** Savers that are at work, told that something was changed elsewhere. */
export const saversAtWork = (): readonly SnippetSaver[] => [...savers.values()];

/** A saver that has nothing left to do is let go when its page is. */
export function letGo(saver: SnippetSaver): void {
  void saver.flush().then(() => saver.state === "saved" && savers.delete(saver.id));
}

/** Ids of the snippets with unsaved work of an earlier visit. */
export async function withUnsavedWork(): Promise<number[]> {
  // A snippet that is open here goes on with it, unless it has unsaved work of its own.
  await takeOverUnsaved((id, work) => savers.get(id)?.takeUp(work) ?? true);
  return unsavedIds().filter((id) => !savers.has(id));
}

/** Forgets unsaved work that has no snippet any more. */
export const forgetUnsaved = (id: number): void => void keepUnsaved(id, undefined);

addEventListener("beforeunload", (event) => {
  for (const saver of savers.values()) void saver.flush();
  if (saversAtWork().some((saver) => saver.wouldLose)) event.preventDefault();
});

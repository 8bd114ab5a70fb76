import type { HostAnswer, RecalledKey, Step } from "../api/client";
import { DeliveryRun, paste } from "./DeliveryRun";
import { HostLink } from "./HostLink";
import { idle, step, type Effect, type Happening, type Hosting, type Question, type Work } from "./hosting";
import { isText, keyName } from "../ui/keys";
import { Listeners } from "./Listeners";
import { pageClipboard } from "./pageClipboard";
import type { Field, Told } from "./told";
import { typeIntoSlip } from "./typeIntoSlip";

const now = () => Math.round(performance.now());
const noAnswer = "The program does not answer. Typing goes on, but nothing goes off until it is back.";

/**
 * Ties the page's fields to the host: browser events go into the reducer of `hosting.ts`, and what it wants done is done here. It
 * has no rules of its own.
 */
export class TypingSession {
  private readonly link: HostLink;
  private state: Hosting<Field> = idle;
  private readonly effects: Effect<Field>[] = [];
  private acting = false;
  private readonly listeners = new Listeners<Told>();
  private readonly delivery: DeliveryRun;
  private readonly settleListeners = new Set<() => void>();
  private readonly fields = new Map<Element, Field>();
  private readonly lookers = new Map<string, number>();
  private lastFocused: Field | undefined;
  private slips = 0;
  /** The key whose text the browser is about to put in. */
  private typedKey: string | undefined;
  private refocusing = false;
  private closing: Promise<void> = Promise.resolve();
  private readonly timers = new Map<string, ReturnType<typeof setTimeout>>();

  constructor() {
    this.link = new HostLink({
      connected: () => this.connected(),
      lost: () => {
        this.happen({ type: "lost" });
        this.tell("offer", null);
      },
      changed: () => this.tell("changed", undefined),
      keyboard: () => this.tell("keyboard", undefined),
      engine: (state) => {
        this.tell("engine", state);
        // Resting or listening, other chords are the engine's: the answer says which.
        if (this.lastField) this.happen({ type: "changed", field: this.lastField });
      },
    });
    this.delivery = new DeliveryRun(this.fields, (name, told) => this.tell(name, told));
    pageClipboard.watch(() => this.tellClipboard());
    document.addEventListener("keydown", (event) => this.keyWhileOpening(event), { capture: true });
  }

  /** The field that had the focus last and is still there. */
  get lastField(): Field | undefined {
    return this.lastFocused && this.fields.has(this.lastFocused.driver.element) ? this.lastFocused : undefined;
  }

  /** Tells a listener; returns the way to stop it. */
  on<Name extends keyof Told>(name: Name, listener: (told: Told[Name]) => void): () => void {
    return this.listeners.on(name, listener);
  }

  /** Begins to record what is typed in a place, or ends it; then gives the body that does it again, null when nothing was typed. */
  async record(place: string, on: boolean): Promise<string | null> {
    await this.settled();
    return await this.link.record(place, on);
  }

  /** Waits until nothing is being decided or put in any more; not for an answer to a slip or question. */
  settled(): Promise<void> {
    if (this.isSettled) return Promise.resolve();
    return new Promise((resolve) => this.settleListeners.add(resolve));
  }

  /** Gives the focus back to the field that had it last, once a dialog over it is gone; not while a question is open. */
  returnFocus(): void {
    if (this.state.busy !== "asking") this.lastField?.driver.focus();
  }

  /** Puts a snippet in that was chosen by hand. */
  choose(field: Field, snippetId: number, selection: string): void {
    this.happen({ type: "choose", field, snippetId, selection });
  }

  /** Has the reasons made for what is typed in a place, until the returned function is called. */
  look(place: string): () => void {
    this.setLookers(place, 1);
    return () => this.setLookers(place, -1);
  }

  /** What was done with the last keys in the place where one types, and why. */
  async explain(): Promise<readonly RecalledKey[]> {
    const place = this.lastField?.place;
    return place === undefined || !this.link.connected ? [] : this.link.explain(place);
  }

  /** Listens to a field until the returned function is called. */
  attach(field: Field): () => void {
    const { element } = field.driver;
    this.fields.set(element, field);
    this.delivery.attached();
    const stop = new AbortController();
    const options = { capture: true, signal: stop.signal };
    element.addEventListener("keydown", (event) => this.keyDown(field, event), options);
    element.addEventListener("focus", () => this.focused(field), options);
    element.addEventListener("paste", (event) => this.pasted(field, event), options);
    element.addEventListener("mousedown", () => this.happen({ type: "changed", field }), options);
    element.addEventListener("compositionstart", () => this.happen({ type: "composing", field }), options);
    // Behind the editor's own listener, so that the text is in its document by then.
    element.addEventListener(
      "compositionend",
      (event) => this.happen({ type: "composed", field, text: event.data, atMs: now() }),
      { signal: stop.signal },
    );
    // What comes in past the keyboard (paste, drop, undo) starts the tail anew.
    element.addEventListener(
      "beforeinput",
      ({ inputType }) => {
        const typed = /^(insertText|insertLineBreak|insertParagraph|deleteContent|deleteWord|insertComposition)/;
        if (!this.delivery.applying && !typed.test(inputType)) this.happen({ type: "changed", field });
      },
      options,
    );
    // Text that no key has typed (a palette of signs, a pen) counts like a composed one.
    element.addEventListener(
      "input",
      (event) => {
        const { inputType, data, isComposing } = event;
        const byKey = this.typedKey !== undefined;
        this.typedKey = undefined;
        if (this.delivery.applying || isComposing || byKey || inputType !== "insertText" || !data) return;
        this.happen({ type: "composed", field, text: data, atMs: now() });
      },
      { signal: stop.signal },
    );
    if (document.activeElement === element) this.focused(field);
    return () => {
      this.fields.delete(element);
      stop.abort();
    };
  }

  // ---- what happens --------------------------------------------------------------------------------------------

  private happen(what: Happening<Field>): boolean {
    const next = step(this.state, what);
    this.state = next.state;
    this.effects.push(...next.effects);
    this.act();
    return next.hold;
  }

  private connected(): void {
    for (const [place, count] of this.lookers) if (count > 0) this.send(this.link.look(place, true));
    this.tellClipboard();
    const last = this.lastField;
    this.happen({ type: "connected", focused: last ? [last] : [] });
    this.tell("connected", undefined);
  }

  private focused(field: Field): void {
    this.lastFocused = field;
    this.link.open();
    if (!this.refocusing) this.happen({ type: "focus", field, byKey: this.delivery.moving });
  }

  private keyDown(field: Field, event: KeyboardEvent): void {
    if (!event.isTrusted && this.delivery.applying) return;
    const key = keyName(event);
    if (key === undefined) return;
    const capsLock = event.getModifierState("CapsLock");
    const held = this.happen({ type: "key", field, key, capsLock, atMs: now() });
    this.typedKey = held || !isText(key) ? undefined : key;
    if (held) withhold(event);
  }

  /** A slip that is opening does not have the focus yet: what is typed already is meant for it. */
  private keyWhileOpening(event: KeyboardEvent): void {
    if (!this.state.slipOpening || !event.isTrusted || this.fields.has(event.target as Element)) return;
    const field = this.state.question?.field;
    const key = keyName(event);
    if (!field || key === undefined) return;
    if (this.happen({ type: "key", field, key, capsLock: false, atMs: now() })) withhold(event);
  }

  /** What is pasted is the page's clipboard, which may hold something newer than the system's. */
  private pasted(field: Field, event: ClipboardEvent): void {
    if (field.kind === "secret") {
      withhold(event);
      this.tell("refused", field);
      return;
    }
    const plain = event.clipboardData?.getData("text/plain") ?? "";
    const html = event.clipboardData?.getData("text/html");
    if (plain === "" && (event.clipboardData?.files.length ?? 0) > 0) {
      // A picture: what the page had on its clipboard before is older, and the field takes the picture itself.
      pageClipboard.superseded();
      this.happen({ type: "changed", field });
      return;
    }
    const newer = pageClipboard.differsFrom(plain, html === "" ? undefined : html);
    // While something is pending, a paste waits its turn.
    if (!newer && this.isSettled) return;
    withhold(event);
    this.happen({ type: "paste", field });
  }

  // ---- what is to be done --------------------------------------------------------------------------------------

  /** Does what is to be done in order, also what comes while something is being done. */
  private act(): void {
    if (this.acting) return;
    this.acting = true;
    try {
      for (let effect = this.effects.shift(); effect; effect = this.effects.shift()) this.one(effect);
    } finally {
      this.acting = false;
    }
    if (!this.isSettled) return;
    const waiting = Array.from(this.settleListeners);
    this.settleListeners.clear();
    for (const resolve of waiting) resolve();
  }

  private one(effect: Effect<Field>): void {
    switch (effect.do) {
      case "send":
        void this.ask(effect.works);
        return;
      case "carry":
        void this.carry(effect.field, effect.steps);
        return;
      case "stop":
        this.delivery.stop();
        return;
      case "paste":
        this.delivery.applied(() => paste(effect.field));
        return;
      case "take-out":
        this.delivery.applied(() => effect.field.driver.deleteBack(effect.count));
        return;
      case "ask":
        this.askUser(effect.field, effect.question);
        return;
      case "close-question":
        this.tell("slip", undefined);
        this.tell("question", undefined);
        if (this.lastFocused) this.closing = this.refocus(this.lastFocused);
        return;
      case "type-into-slip":
        this.delivery.applied(() => typeIntoSlip(effect.keys));
        return;
      case "wake":
        this.wake(effect.field, effect.atMs);
        return;
      case "tell":
        this.tellDecided(effect.work, effect.answer);
        return;
      case "say":
        this.tell("fault", effect.text);
    }
  }

  private async ask(works: readonly Work<Field>[]): Promise<void> {
    if (works[0]?.kind === "focus") this.tell("focused", works[0].field);
    try {
      this.happen({ type: "answered", answers: await this.link.ask(works) });
    } catch (error) {
      this.happen({ type: "failed", text: this.link.connected ? (error as Error).message : noAnswer });
    }
  }

  private async carry(field: Field, steps: readonly Step[]): Promise<void> {
    let stopped = true;
    try {
      await this.closing;
      stopped = await this.delivery.carry(field, steps);
    } catch (error) {
      // A field that cannot take a step ends the delivery, and not all typing.
      this.closing = Promise.resolve();
      this.tell("fault", `The text did not go in as a whole: ${(error as Error).message}`);
    }
    this.happen({ type: "carried", stopped });
  }

  private askUser(field: Field, question: Question): void {
    const { place } = field;
    const { number } = question;
    const reply = (answer: Promise<HostAnswer>) =>
      void answer.then(
        (told) => this.happen({ type: "replied", answer: told }),
        (error: unknown) => this.happen({ type: "failed", text: this.link.connected ? String(error) : noAnswer }),
      );
    if (question.kind === "open") {
      const answer = (yes: boolean) =>
        reply(yes ? this.link.confirmOpen(place, number) : this.link.leave(place, number));
      this.tell("question", { targets: question.targets, answer });
      return;
    }
    this.tell("slip", {
      id: ++this.slips,
      message: question.slip,
      preview: (given) => this.link.previewSlip(place, number, given),
      ready: () => this.happen({ type: "slip-ready" }),
      fill: (given) => reply(this.link.fillSlip(place, number, given)),
      leave: () => reply(this.link.leave(place, number)),
    });
  }

  /** Gives the focus back to a field once what lay over it is gone; a dialog that still closes takes it again. */
  private async refocus(field: Field): Promise<void> {
    const { element } = field.driver;
    for (let frames = 0; frames < 60; frames += 2) {
      await twoFrames();
      if (!this.fields.has(element)) return;
      this.refocusing = true;
      field.driver.focus();
      this.refocusing = false;
      if (element.contains(document.activeElement)) return;
    }
  }

  private wake(field: Field, atMs: number | null): void {
    clearTimeout(this.timers.get(field.place));
    this.timers.delete(field.place);
    if (atMs === null) return;
    const timer = setTimeout(() => this.happen({ type: "time", field, atMs: now() }), Math.max(atMs - now(), 0) + 1);
    this.timers.set(field.place, timer);
  }

  private tellDecided(work: Work<Field>, answer: HostAnswer): void {
    this.tell("offer", answer.offer);
    if (answer.missed) this.tell("missed", answer.missed);
    if (work.kind === "click" || work.kind === "focus") return;
    const { place, app, kind } = work.field;
    const key = work.kind === "key" ? work.key : "";
    const held = work.kind === "key" && work.held;
    this.tell("decided", { place, app, secret: kind === "secret", key, held, answer });
  }

  private tell<Name extends keyof Told>(name: Name, told: Told[Name]): void {
    this.listeners.tell(name, told);
  }

  /** A snippet may hold what is on the clipboard, so every place is told. */
  private tellClipboard(): void {
    if (!this.link.connected) return;
    for (const place of new Set(Array.from(this.fields.values(), (field) => field.place)))
      this.send(this.link.tellClipboard(place, pageClipboard.current.plain));
  }

  private setLookers(place: string, more: number): void {
    const before = this.lookers.get(place) ?? 0;
    this.lookers.set(place, before + more);
    if (this.link.connected && before > 0 !== before + more > 0) this.send(this.link.look(place, before + more > 0));
  }

  private send(message: Promise<unknown>): void {
    message.catch((error: unknown) => {
      // A link that was lost meanwhile tells all this again when it is found.
      if (this.link.connected) this.tell("fault", (error as Error).message);
    });
  }

  private get isSettled(): boolean {
    const { busy, queue, connected } = this.state;
    return busy === "asking" || (busy === "no" && (queue.length === 0 || !connected));
  }
}

const twoFrames = () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));

function withhold(event: Event): void {
  event.preventDefault();
  event.stopImmediatePropagation();
}

/** The page's one session. */
export const typingSession = new TypingSession();

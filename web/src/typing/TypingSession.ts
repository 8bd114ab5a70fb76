import { HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from "@microsoft/signalr";
import type { Decision, EngineState, Preview, SlipMessage, Step } from "../api/client";
import { focusNext, type FieldDriver } from "./FieldDriver";
import { isTyped, keyName } from "./keys";
import { pageClipboard } from "./pageClipboard";

/** A field that the engine listens to. */
export interface Field {
  /** The place whose engine decides: fields of one place share what was typed last. */
  place: string;
  app: string;
  /** What the field is called in its application. */
  name: string;
  kind: "rich" | "plain" | "markdown" | "single-line" | "secret";
  driver: FieldDriver;
}

export interface Decided {
  place: string;
  app: string;
  /** Whether the field hides what is typed; such keys are not to be shown or kept. */
  secret: boolean;
  key: string;
  decision: Decision;
}

/** A slip that waits to be filled in or left. */
export interface OpenSlip {
  id: number;
  message: SlipMessage;
  /** What the snippet comes to with some answers. */
  preview: (answers: Record<string, string>) => Promise<Preview>;
  fill: (answers: Record<string, string>) => void;
  leave: () => void;
}

/** Something that is to be opened for the first time; it waits for a yes or no. */
export interface OpenQuestion {
  snippet: string;
  targets: readonly string[];
  answer: (yes: boolean) => void;
}

/** Something a delivery does beside the field. */
export type Aside = { kind: "open" | "notice"; text: string };

type Work =
  | { kind: "key"; field: Field; key: string; held: boolean; capsLock: boolean; atMs: number }
  | { kind: "focus"; field: Field }
  | { kind: "choose"; field: Field; snippetId: number; selection: string }
  | { kind: "click"; field: Field }
  | { kind: "paste"; field: Field }
  | { kind: "tick"; field: Field; atMs: number };

const pauseMs = 700;
const goToMs = 2000;
const longestClipboard = 60_000;
/** Keys and chords that edit the field; while a decision is pending they wait their turn like any key. */
const edits = new Set(["Delete", "Ctrl+A", "Ctrl+C", "Ctrl+X", "Ctrl+Z", "Ctrl+Y", "Ctrl+B", "Ctrl+I", "Ctrl+U"]);
/** What the browser itself does on these; it does it where the focus is. */
const commands: Record<string, string> = {
  "Ctrl+C": "copy",
  "Ctrl+X": "cut",
  "Ctrl+Z": "undo",
  "Ctrl+Y": "redo",
};
const movesCaret = new Set(["ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown", "Home", "End", "PageUp", "PageDown"]);

/**
 * Carries keys to the engine and its decisions to the fields. While nothing is being decided, a typed key goes into its
 * field as the browser does it and the engine is asked at the same time. While a decision is pending, keys are held back and
 * come in behind it, in order; none is lost.
 */
export class TypingSession {
  private readonly connection: HubConnection;
  private readonly queue: Work[] = [];
  private readonly listeners = new Set<(decided: Decided) => void>();
  private readonly stateListeners = new Set<(state: EngineState) => void>();
  private readonly slipListeners = new Set<(slip: OpenSlip | undefined) => void>();
  private readonly asideListeners = new Set<(aside: Aside) => void>();
  private readonly questionListeners = new Set<(question: OpenQuestion | undefined) => void>();
  private readonly focusListeners = new Set<(field: Field) => void>();
  private readonly goToListeners = new Set<(app: string) => void>();
  private readonly refusedListeners = new Set<(field: Field) => void>();
  private readonly attachListeners = new Set<() => void>();
  private readonly fields = new Map<Element, Field>();
  private lastFocused: Field | undefined;
  private slips = 0;
  private chords = new Set<string>();
  private busy = false;
  private applying = false;
  private refocusing = false;
  /** Whether a key is being carried out that may move the focus. */
  private moving = false;
  /** Whether a slip or a question is open. */
  private asking = false;
  private hint = false;
  private waiting = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    this.connection = new HubConnectionBuilder()
      .withUrl("/hub/typing")
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: () => 1000 })
      .configureLogging(LogLevel.None)
      .build();
    this.connection.on("engine", (state: EngineState) => {
      this.setChords(state.chords);
      for (const listener of this.stateListeners) listener(state);
    });
    pageClipboard.watch(() => this.tellClipboard());
    void this.start();
  }

  /** The field that had the focus last and is still there. */
  get lastField(): Field | undefined {
    return this.lastFocused && this.fields.has(this.lastFocused.driver.element) ? this.lastFocused : undefined;
  }

  /** Waits until nothing is being decided or put in any more; not for an answer to a slip or question. */
  async settled(): Promise<void> {
    while (this.busy && !this.asking) await new Promise((resolve) => setTimeout(resolve, 4));
  }

  /** Gives the focus back to the field that had it last, once a dialog over it is gone; not while a question is open. */
  returnFocus(): void {
    if (!this.asking) this.lastField?.driver.element.focus();
  }

  /** Puts a snippet in that was chosen by hand, in the field that had the focus last. */
  choose(field: Field, snippetId: number, selection: string): void {
    this.add({ kind: "choose", field, snippetId, selection });
  }

  /** Tells a listener what waits for a yes before it is opened; undefined when nothing does any more. */
  onQuestion(listener: (question: OpenQuestion | undefined) => void): () => void {
    this.questionListeners.add(listener);
    return () => this.questionListeners.delete(listener);
  }

  /** Tells a listener, in order with the keys, which field got the focus. */
  onFocused(listener: (field: Field) => void): () => void {
    this.focusListeners.add(listener);
    return () => this.focusListeners.delete(listener);
  }

  /** Tells a listener that an application is to come to the front. */
  onGoTo(listener: (app: string) => void): () => void {
    this.goToListeners.add(listener);
    return () => this.goToListeners.delete(listener);
  }

  /** Tells a listener that a field has refused to be pasted into. */
  onRefused(listener: (field: Field) => void): () => void {
    this.refusedListeners.add(listener);
    return () => this.refusedListeners.delete(listener);
  }

  /** Tells a listener of each decision; returns the way to stop it. */
  onDecided(listener: (decided: Decided) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  onEngine(listener: (state: EngineState) => void): () => void {
    this.stateListeners.add(listener);
    return () => this.stateListeners.delete(listener);
  }

  /** Tells a listener which slip is open; undefined when none is any more. */
  onSlip(listener: (slip: OpenSlip | undefined) => void): () => void {
    this.slipListeners.add(listener);
    return () => this.slipListeners.delete(listener);
  }

  onAside(listener: (aside: Aside) => void): () => void {
    this.asideListeners.add(listener);
    return () => this.asideListeners.delete(listener);
  }

  /** The chords that the engine answers to; they are kept from the browser. */
  setChords(chords: readonly string[]): void {
    this.chords = new Set(chords);
  }

  /** Listens to a field until the returned function is called. */
  attach(field: Field): () => void {
    const { element } = field.driver;
    this.fields.set(element, field);
    for (const listener of this.attachListeners) listener();
    const stop = new AbortController();
    const options = { capture: true, signal: stop.signal };
    element.addEventListener("keydown", (event) => this.keyDown(field, event), options);
    element.addEventListener("focus", () => this.focused(field), options);
    element.addEventListener("paste", (event) => this.pasted(field, event), options);
    element.addEventListener("mousedown", () => this.add({ kind: "click", field }), options);
    element.addEventListener(
      "compositionend",
      (event) => {
        // A composed text is in the field already; the engine sees its graphemes one by one.
        for (const key of Array.from(event.data)) this.addKey(field, key, false, false);
      },
      options,
    );
    // What comes in past the keyboard (paste, drop, undo) starts the tail anew.
    element.addEventListener(
      "beforeinput",
      (event) => {
        const { inputType } = event;
        const ours =
          this.applying ||
          /^(insertText|insertLineBreak|insertParagraph|deleteContent|insertComposition)/.test(inputType);
        if (!ours) this.add({ kind: "click", field });
      },
      options,
    );
    if (document.activeElement === element) this.focused(field);
    return () => {
      this.fields.delete(element);
      stop.abort();
    };
  }

  private focused(field: Field): void {
    this.lastFocused = field;
    if (this.refocusing) return;
    if (!this.moving) {
      this.add({ kind: "focus", field });
      return;
    }
    // A key that was carried out late moved the focus: what was typed behind it was meant for the new field.
    for (const work of this.queue) if (work.kind === "key" && work.held) work.field = field;
    this.queue.unshift({ kind: "focus", field });
  }

  /** What is pasted is the page's clipboard, which may hold something newer than the system's. */
  private pasted(field: Field, event: ClipboardEvent): void {
    const plain = event.clipboardData?.getData("text/plain") ?? "";
    const html = event.clipboardData?.getData("text/html");
    const newer = pageClipboard.differsFrom(plain, html === "" ? undefined : html);
    if (field.kind === "secret") {
      event.preventDefault();
      event.stopImmediatePropagation();
      for (const listener of this.refusedListeners) listener(field);
      return;
    }
    // While something is pending, a paste waits its turn.
    if (!newer && !this.busy) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    this.add({ kind: "paste", field });
  }

  private paste(field: Field): void {
    if (field.kind === "secret") return;
    const { plain, html } = pageClipboard.current;
    field.driver.putIn(plain, field.kind === "rich" ? html : undefined);
  }

  /** A snippet may hold what is on the clipboard, so every place is told. */
  private tellClipboard(): void {
    if (!this.connected) return;
    const text = pageClipboard.current.plain.slice(0, longestClipboard);
    for (const place of new Set(Array.from(this.fields.values(), (field) => field.place)))
      void this.connection.invoke("Clipboard", place, text).catch(() => undefined);
  }

  private async start(): Promise<void> {
    try {
      await this.connection.start();
    } catch {
      setTimeout(() => void this.start(), 1000);
    }
  }

  private get connected(): boolean {
    return this.connection.state === HubConnectionState.Connected;
  }

  private keyDown(field: Field, event: KeyboardEvent): void {
    if (!event.isTrusted && this.applying) return;
    const key = keyName(event);
    if (key === undefined) return;
    const pending = this.busy || this.queue.length > 0;
    if (!this.connected && !pending) return;
    const acts = key === "Enter" || key === "Tab" || key === "Escape";
    const hold =
      this.chords.has(key) ||
      (pending && this.canApply(key)) ||
      (acts && this.hint) ||
      (this.waiting && !isTyped(key) && this.canApply(key));
    if (hold) {
      event.preventDefault();
      event.stopImmediatePropagation();
    }
    this.addKey(field, key, hold, event.getModifierState("CapsLock"));
  }

  /** Whether this session can do itself what the key does; other keys stay with the browser. */
  private canApply(key: string): boolean {
    return (
      isTyped(key) ||
      this.chords.has(key) ||
      movesCaret.has(key) ||
      edits.has(key) ||
      ["Enter", "Tab", "Escape", "Backspace", "Shift+Enter", "Shift+Tab"].includes(key)
    );
  }

  private addKey(field: Field, key: string, held: boolean, capsLock: boolean): void {
    this.add({ kind: "key", field, key, held, capsLock, atMs: Math.round(performance.now()) });
  }

  private add(work: Work): void {
    this.queue.push(work);
    if (!this.busy) void this.drain();
  }

  private async drain(): Promise<void> {
    this.busy = true;
    for (let work = this.queue.shift(); work; work = this.queue.shift()) await this.carryOut(work);
    this.busy = false;
  }

  private async carryOut(work: Work): Promise<void> {
    const { field } = work;
    const { place } = field;
    try {
      switch (work.kind) {
        case "focus":
          for (const listener of this.focusListeners) listener(field);
          this.rest();
          await this.connection.invoke("Focus", { place, app: field.app, field: field.kind });
          if (pageClipboard.current.plain !== "")
            await this.connection.invoke("Clipboard", place, pageClipboard.current.plain.slice(0, longestClipboard));
          return;
        case "choose":
          await this.apply(
            field,
            "",
            false,
            await this.connection.invoke<Decision>("Choose", place, work.snippetId, work.selection),
          );
          return;
        case "paste":
          this.applying = true;
          this.paste(field);
          this.applying = false;
          this.rest();
          await this.connection.invoke("Click", place);
          return;
        case "click":
          this.rest();
          await this.connection.invoke("Click", place);
          return;
        case "tick":
          await this.apply(work.field, "", false, await this.connection.invoke<Decision>("Tick", place, work.atMs));
          return;
        case "key":
          await this.press(work);
      }
    } catch {
      // The engine is away: what was held back goes in as typed.
      if (work.kind === "key" && work.held) this.pressInField(field, work.key);
    }
  }

  private async press(work: Extract<Work, { kind: "key" }>): Promise<void> {
    const { field, key, held, capsLock, atMs } = work;
    const selection = this.chords.has(key) ? field.driver.selectedText() : "";
    const message = { place: field.place, key, capsLock, atMs, selection };
    const decision = await this.connection.invoke<Decision>("Press", message);
    await this.apply(field, key, held, decision);
    if (decision.pressAgain && held) await this.press(work);
  }

  private async apply(field: Field, key: string, held: boolean, decision: Decision): Promise<void> {
    this.rest();
    this.hint = decision.hint !== null;
    if (decision.trace)
      for (const listener of this.listeners)
        listener({ place: field.place, app: field.app, secret: field.kind === "secret", key, decision });
    switch (decision.kind) {
      case "deliver":
      case "take-back":
        await this.deliver(field, decision.steps, held ? decision.keyGraphemes : 0);
        return;
      case "slip":
        await this.askSlip(field, key, held, decision);
        return;
      case "confirm-open":
        await this.askToOpen(field, key, held, decision);
        return;
      case "waits":
        this.waiting = true;
        this.timer = setTimeout(
          () => this.add({ kind: "tick", field, atMs: Math.round(performance.now()) }),
          pauseMs + 5,
        );
    }
    if (held && !decision.pressAgain) this.pressInField(field, key);
  }

  /** Shows the slip and waits for it; keys typed elsewhere meanwhile come in behind it. */
  private async askSlip(field: Field, key: string, held: boolean, decision: Decision): Promise<void> {
    const { place } = field;
    const message = decision.slip;
    if (!message) return;
    this.asking = true;
    const answers = await new Promise<Record<string, string> | undefined>((resolve) => {
      const slip: OpenSlip = {
        id: ++this.slips,
        message,
        preview: (given) => this.connection.invoke<Preview>("PreviewSlip", place, given),
        fill: resolve,
        leave: () => resolve(undefined),
      };
      for (const listener of this.slipListeners) listener(slip);
    });
    for (const listener of this.slipListeners) listener(undefined);
    await this.refocus(field);
    if (answers === undefined) {
      await this.leave(field, key, held, decision);
      return;
    }
    const filled = await this.connection.invoke<Decision>("FillSlip", place, answers);
    await this.apply(field, key, held, filled);
  }

  /** Shows what would be opened, and opens it only after a yes. */
  private async askToOpen(field: Field, key: string, held: boolean, decision: Decision): Promise<void> {
    this.asking = true;
    const yes = await new Promise<boolean>((resolve) => {
      const question: OpenQuestion = { snippet: "", targets: decision.opens ?? [], answer: resolve };
      for (const listener of this.questionListeners) listener(question);
    });
    for (const listener of this.questionListeners) listener(undefined);
    await this.refocus(field);
    if (!yes) {
      await this.leave(field, key, held, decision);
      return;
    }
    await this.apply(field, key, held, await this.connection.invoke<Decision>("ConfirmOpen", field.place));
  }

  /** Gives the focus back to a field once what lay over it is gone. */
  private async refocus(field: Field): Promise<void> {
    this.asking = false;
    await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
    this.refocusing = true;
    field.driver.element.focus();
    this.refocusing = false;
  }

  private async leave(field: Field, key: string, held: boolean, decision: Decision): Promise<void> {
    await this.connection.invoke("LeaveSlip", field.place);
    if (held && !decision.pressAgain && !this.chords.has(key)) this.pressInField(field, key);
  }

  private rest(): void {
    this.hint = false;
    this.waiting = false;
    clearTimeout(this.timer);
  }

  /** Carries the steps out; once a key was pressed or another field named, they go on in the field that has the focus then. */
  private async deliver(field: Field, steps: Step[], heldBack: number): Promise<void> {
    let current = field;
    for (const step of steps) {
      await this.carryStep(current, step, heldBack);
      if ((step.kind === "press" || step.kind === "go-to") && document.activeElement)
        current = this.fields.get(document.activeElement) ?? current;
    }
    pageClipboard.endDelivery(steps.some((step) => step.kind === "restore-clipboard"));
  }

  private async carryStep(field: Field, step: Step, heldBack: number): Promise<void> {
    const { driver } = field;
    const count = step.count ?? 0;
    const text = step.plain ?? "";
    this.applying = true;
    if (step.kind === "delete") driver.deleteBack(count - heldBack);
    if (step.kind === "put-in") driver.putIn(text, step.html ?? undefined);
    if (step.kind === "set-clipboard") pageClipboard.setForDelivery(text, step.html ?? undefined);
    if (step.kind === "paste") this.paste(field);
    if (step.kind === "move-back") driver.moveBack(count);
    if (step.kind === "select-back") driver.selectBack(count);
    this.applying = false;
    if (step.kind === "press" && step.key) this.pressInField(field, step.key);
    if (step.kind === "wait") await new Promise((resolve) => setTimeout(resolve, count));
    if (step.kind === "go-to") await this.goTo(text, step.key ?? "");
    if (step.kind === "open" || step.kind === "notice")
      for (const listener of this.asideListeners) listener({ kind: step.kind, text });
  }

  /** Gives the focus to a field by name; its window may have to be opened first. */
  private async goTo(app: string, name: string): Promise<void> {
    const find = () => Array.from(this.fields.values()).find((field) => field.app === app && field.name === name);
    for (const listener of this.goToListeners) listener(app);
    if (!find())
      await new Promise<void>((resolve) => {
        const timer = setTimeout(done, goToMs);
        const look = () => find() && done();
        const { attachListeners } = this;
        attachListeners.add(look);
        function done() {
          clearTimeout(timer);
          attachListeners.delete(look);
          resolve();
        }
      });
    find()?.driver.element.focus();
  }

  /** Does in the field what the browser does on a key that it is not asked about. */
  private pressInField({ driver }: Field, key: string): void {
    const wasApplying = this.applying;
    this.applying = true;
    this.moving = true;
    const shift = key.startsWith("Shift+");
    const ctrl = key.startsWith("Ctrl+") && edits.has(key);
    const name = ctrl ? key.slice("Ctrl+".length).toLowerCase() : shift ? key.slice("Shift+".length) : key;
    if (isTyped(key)) {
      driver.putIn(key, undefined);
    } else {
      const options = { key: name, shiftKey: shift, ctrlKey: ctrl, bubbles: true, cancelable: true };
      const goesOn = driver.element.dispatchEvent(new KeyboardEvent("keydown", options));
      if (goesOn) {
        if (name === "Enter" && driver.element.tagName !== "INPUT") driver.putIn("\n", undefined);
        if (name === "Tab") focusNext(driver.element, shift);
        if (name === "Backspace") driver.deleteBack(1);
        if (movesCaret.has(name)) driver.move(name);
        if (name === "Delete") driver.deleteForward();
        if (key === "Ctrl+A") driver.selectAll();
        const command = commands[key];
        if (command !== undefined && document.activeElement === driver.element) document.execCommand(command);
      }
    }
    this.moving = false;
    this.applying = wasApplying;
  }
}

/** The page's one session. */
export const typingSession = new TypingSession();

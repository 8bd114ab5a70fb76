import type { Step } from "../api/client";
import { pageClipboard } from "./pageClipboard";
import { pressKey } from "./pressKey";
import type { Field, Told } from "./told";

const goToMs = 2000;

/** Carries the steps of a delivery out in the page's fields, one after the other. */
export class DeliveryRun {
  /** Whether a field is being written to from here. */
  applying = false;
  /** Whether a key is being carried out that may move the focus. */
  moving = false;
  private stopping = new AbortController();
  private readonly attachListeners = new Set<() => void>();

  constructor(
    private readonly fields: ReadonlyMap<Element, Field>,
    private readonly tell: <Name extends keyof Told>(name: Name, told: Told[Name]) => void,
  ) {}

  /** A field has come to the page; one that is waited for may be it. */
  attached(): void {
    for (const listener of this.attachListeners) listener();
  }

  /** Stops what is under way; what is in the field by then stays. */
  stop(): void {
    this.stopping.abort();
  }

  /**
   * Carries steps out; once one of them has moved the focus, they go on in the field that has it then. Where the user went meanwhile is
   * of no account: keys belong to the field they were typed in. True when it was stopped before its end.
   */
  async carry(field: Field, steps: readonly Step[]): Promise<boolean> {
    this.stopping = new AbortController();
    const { signal } = this.stopping;
    let current = field;
    for (const step of steps) {
      if (signal.aborted) break;
      const focused = document.activeElement;
      if (step.kind === "wait") await this.wait(step.count ?? 0);
      else if (step.kind === "go-to") await this.goTo(step.plain ?? "", step.key ?? "");
      else this.applied(() => this.one(current, step));
      const now = document.activeElement;
      if ((step.kind === "press" || step.kind === "go-to") && now && now !== focused)
        current = this.fields.get(now) ?? current;
    }
    pageClipboard.endDelivery(steps.some((step) => step.kind === "restore-clipboard"));
    return signal.aborted;
  }

  /** Does something to a field that is not to be taken for the user's doing. */
  applied(act: () => void): void {
    const before = this.applying;
    this.applying = true;
    try {
      act();
    } finally {
      this.applying = before;
    }
  }

  private one(field: Field, { kind, count = 0, plain, flow, key }: Step): void {
    const { driver } = field;
    const text = plain ?? "";
    const rich = flow ?? undefined;
    if (kind === "delete") driver.deleteBack(count);
    if (kind === "remember") driver.remember();
    if (kind === "put-in") driver.putIn(text, rich);
    if (kind === "take-back") driver.takeBack(count);
    if (kind === "set-clipboard") pageClipboard.setForDelivery(text, rich);
    if (kind === "paste") paste(field);
    if (kind === "move-back") driver.moveBack(count);
    if (kind === "select-back") driver.selectBack(count);
    if (kind === "press" && key) this.moved(() => pressKey(driver, key));
    if (kind === "open" || kind === "notice") this.tell("aside", { kind, text });
  }

  private wait(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.stopping.signal.addEventListener("abort", () => {
        clearTimeout(timer);
        resolve();
      });
    });
  }

  /** Gives the focus to a field by name; its window may have to be opened first. */
  private async goTo(app: string, name: string): Promise<void> {
    const find = () => Array.from(this.fields.values()).find((field) => field.app === app && field.name === name);
    this.tell("goTo", app);
    if (!find())
      await new Promise<void>((resolve) => {
        const { attachListeners } = this;
        const done = () => {
          clearTimeout(timer);
          attachListeners.delete(look);
          resolve();
        };
        const look = () => find() && done();
        const timer = setTimeout(done, goToMs);
        attachListeners.add(look);
        this.stopping.signal.addEventListener("abort", done);
      });
    const found = find();
    if (found) this.moved(() => found.driver.focus());
    else this.tell("fault", `There is no field “${name}” to go on in. Open its application, then try again.`);
  }

  private moved(act: () => void): void {
    const before = this.moving;
    this.moving = true;
    try {
      this.applied(act);
    } finally {
      this.moving = before;
    }
  }
}

/** Puts in what is on the page's clipboard. */
export function paste({ driver, kind }: Field): void {
  if (kind === "secret") return;
  const { plain, html, flow } = pageClipboard.current;
  if (kind === "rich" && flow) driver.putIn(plain, flow);
  else driver.paste(plain, kind === "rich" ? html : undefined);
}

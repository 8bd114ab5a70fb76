import type { Step } from "../api/client";
import { isText, isTyped } from "../typing/keys";
import { graphemes } from "../typing/graphemes";

/** One thing that was done while keys were recorded. */
export type RecordedPart =
  { kind: "text"; text: string } | { kind: "key"; key: string } | { kind: "go-to"; app: string; field: string };

const movers = new Set(["Tab", "Shift+Tab", "Enter"]);

/**
 * What was typed on the desk, as a snippet can do it again: text, keys, and fields by their names. What an abbreviation grew into is
 * recorded as its text, since nothing that a snippet puts in sets off another. Nothing of a field that hides what is typed is kept.
 */
export class KeyRecorder {
  readonly parts: RecordedPart[] = [];
  private field = "";
  private moving = false;

  focused(app: string, field: string): void {
    const name = `${app}/${field}`;
    if (name !== this.field && !this.moving) this.parts.push({ kind: "go-to", app, field });
    this.field = name;
    this.moving = false;
  }

  /** A key was decided: one that was not held back is in the field already. */
  decided(key: string, held: boolean, steps: readonly Step[]): void {
    if (!held) for (const one of isText(key) ? graphemes(key) : [key]) this.press(one);
    for (const step of steps) {
      if (step.kind === "delete" || step.kind === "take-back") this.remove(step.count ?? 0);
      if (step.kind === "put-in" || step.kind === "set-clipboard") this.type(step.plain ?? "");
      if (step.kind === "press" && step.key) this.press(step.key);
    }
  }

  get empty(): boolean {
    return this.parts.every((part) => part.kind === "go-to");
  }

  /** The body that does it again. */
  toBody(): string {
    const written = this.parts.map((part) => {
      if (part.kind === "key") return `<kbd>${escape(part.key)}</kbd>`;
      if (part.kind === "text") return escape(part.text).replaceAll("\n", "<br>");
      return `<slot name="go-to" data-app="${escape(part.app)}" data-field="${escape(part.field)}"></slot>`;
    });
    return `<p>${written.join("")}</p>`;
  }

  private press(key: string): void {
    if (key === "") return;
    this.moving = movers.has(key);
    if (isTyped(key)) this.type(key);
    else if (key !== "Backspace" || !this.remove(1)) this.parts.push({ kind: "key", key });
  }

  private type(text: string): void {
    if (text === "") return;
    const last = this.parts.at(-1);
    if (last?.kind === "text") last.text += text;
    else this.parts.push({ kind: "text", text });
  }

  /** Takes graphemes off the end of what was typed; false when there is no text there. */
  private remove(count: number): boolean {
    const last = this.parts.at(-1);
    if (last?.kind !== "text") return false;
    const left = graphemes(last.text);
    last.text = left.slice(0, Math.max(left.length - count, 0)).join("");
    if (last.text === "") this.parts.pop();
    return true;
  }
}

const escape = (text: string): string =>
  text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");

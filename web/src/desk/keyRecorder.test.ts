import { describe, expect, it } from "vitest";
import type { Decision, Step } from "../api/client";
import { KeyRecorder } from "./keyRecorder";

const decision = (kind: string, steps: Step[] = [], keyGraphemes = 0): Decision =>
  ({ kind, steps, keyGraphemes, pressAgain: false }) as unknown as Decision;

const type = (recorder: KeyRecorder, keys: string[]) => {
  for (const key of keys) recorder.decided(key, decision("pass-on"));
};

describe("the key recorder", () => {
  it("keeps text, keys and fields by name", () => {
    const recorder = new KeyRecorder();
    recorder.focused("permit-portal", "Name");
    type(recorder, ["M", "a", "x", "Backspace", "r", "Tab"]);
    recorder.focused("permit-portal", "Address");
    type(recorder, ["<", "Ctrl+B"]);
    recorder.focused("log-book", "Log");
    expect(recorder.toBody()).toBe(
      '<p><slot name="go-to" data-app="permit-portal" data-field="Name"></slot>Mar<kbd>Tab</kbd>&lt;<kbd>Ctrl+B</kbd>' +
        '<slot name="go-to" data-app="log-book" data-field="Log"></slot></p>',
    );
  });

  it("keeps what an abbreviation grew into, not the abbreviation", () => {
    const recorder = new KeyRecorder();
    recorder.focused("post", "Letter");
    type(recorder, Array.from("Hi kr"));
    const grown = decision("deliver", [
      { kind: "delete", count: 3, plain: null, html: null, key: null },
      { kind: "put-in", count: 0, plain: "Kind regards ", html: null, key: null },
    ]);
    recorder.decided(" ", { ...grown, keyGraphemes: 1 });
    expect(recorder.parts.at(-1)).toEqual({ kind: "text", text: "Hi Kind regards " });
  });

  it("is empty when nothing but fields was visited", () => {
    const recorder = new KeyRecorder();
    recorder.focused("post", "To");
    expect(recorder.empty).toBe(true);
  });
});

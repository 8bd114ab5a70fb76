import { describe, expect, it } from "vitest";
import { KeyRecorder } from "./keyRecorder";

const type = (recorder: KeyRecorder, keys: string[]) => {
  for (const key of keys) recorder.decided(key, false, []);
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
    recorder.decided(" ", true, [
      { kind: "delete", count: 2 },
      { kind: "put-in", plain: "Kind regards " },
    ]);
    expect(recorder.parts.at(-1)).toEqual({ kind: "text", text: "Hi Kind regards " });
  });

  it("keeps held keys once, and what was taken back as it was typed", () => {
    const recorder = new KeyRecorder();
    recorder.decided("a", true, [{ kind: "press", key: "a" }]);
    recorder.decided("br", false, []);
    recorder.decided("c", true, [
      { kind: "delete", count: 2 },
      { kind: "put-in", plain: "berth" },
    ]);
    recorder.decided("Ctrl+Alt+Z", true, [
      { kind: "take-back", count: 5 },
      { kind: "put-in", plain: "brc" },
    ]);
    expect(recorder.parts).toEqual([{ kind: "text", text: "abrc" }]);
  });

  it("is empty when nothing but fields was visited", () => {
    const recorder = new KeyRecorder();
    recorder.focused("post", "To");
    expect(recorder.empty).toBe(true);
  });
});

// @vitest-environment jsdom
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { ApiError, type SnippetAnswer, type SnippetSaved } from "../api/client";
import { changed, type Sent, type Unsaved } from "./saving";
import { basedOn, SnippetSaver, type SaverServices } from "./SnippetSaver";

const answer = (text: string): SnippetAnswer =>
  ({
    id: 7,
    version: 1,
    snippet: { name: "Deposit", enabled: true, text, body: null, triggers: [] },
  }) as unknown as SnippetAnswer;

/** A server that keeps what it is sent, refuses, is away or hangs, as the test says. */
class TestServer implements SaverServices {
  text = "first";
  mode: "saves" | "refuses" | "away" | "gone" | "hangs" = "saves";
  full = false;
  asked = 0;
  version = 1;
  work: Unsaved | undefined;
  private release: (() => void) | undefined;

  send = async (_: number, { edit }: Sent): Promise<SnippetSaved> => {
    this.asked++;
    if (this.mode === "hangs") await new Promise<void>((resolve) => (this.release = resolve));
    if (this.mode === "away") throw new ApiError({ detail: "The program does not answer." });
    if (this.mode === "gone") throw new ApiError({ detail: "There is no snippet 7.", status: 404 });
    if (this.mode === "refuses")
      return { now: answer(this.text), unsaved: [{ part: "body", why: "Too long.", conflict: false }] };
    this.text = edit.after.text ?? this.text;
    return { now: answer(this.text), unsaved: [] };
  };

  keep = (_: number, work: Unsaved | undefined): boolean => {
    if (!this.full) this.work = work;
    return !this.full;
  };

  kept = (): Unsaved | undefined => this.work;

  told = (): void => undefined;

  look = async (): Promise<SnippetAnswer> => ({ ...answer(this.text), version: this.version });

  answerNow(): void {
    this.release?.();
  }
}

let server: TestServer;
let saver: SnippetSaver;
const type = (text: string) => saver.change((saving) => changed(saving, { text }));

beforeEach(() => {
  vi.useFakeTimers();
  server = new TestServer();
  saver = new SnippetSaver(7, answer("first"), server);
});

afterEach(() => vi.useRealTimers());

test("what is typed is saved a moment after the last key, once", async () => {
  type("s");
  await vi.advanceTimersByTimeAsync(300);
  type("se");
  expect(saver.state).toBe("saving");
  await vi.advanceTimersByTimeAsync(300);
  expect(server.asked).toBe(0);
  await vi.advanceTimersByTimeAsync(200);
  expect([server.asked, server.text, saver.state, server.work]).toEqual([1, "se", "saved", undefined]);
});

test("a refused part is not sent again until it is another one", async () => {
  server.mode = "refuses";
  type("too long");
  await vi.advanceTimersByTimeAsync(10_000);
  expect([server.asked, saver.state]).toEqual([1, "refused"]);
  expect(server.work?.draft.text).toBe("too long");
  server.mode = "saves";
  type("short");
  await vi.advanceTimersByTimeAsync(1000);
  expect([server.text, saver.state]).toEqual(["short", "saved"]);
});

test("while the program is away work is kept in the browser, and goes as soon as it answers", async () => {
  server.mode = "away";
  type("second");
  await vi.advanceTimersByTimeAsync(1000);
  expect([saver.state, saver.why]).toEqual(["away", "The program does not answer."]);
  type("third");
  await vi.advanceTimersByTimeAsync(5000);
  expect(server.work?.draft.text).toBe("third");
  expect(saver.wouldLose).toBe(false);
  server.mode = "saves";
  await vi.advanceTimersByTimeAsync(3000);
  expect([server.text, saver.state, server.work]).toEqual(["third", "saved", undefined]);
});

test("a program that hangs is asked once, and what is typed meanwhile goes afterwards", async () => {
  server.mode = "hangs";
  type("second");
  await vi.advanceTimersByTimeAsync(20_000);
  type("third");
  await vi.advanceTimersByTimeAsync(20_000);
  expect([server.asked, saver.state]).toEqual([1, "saving"]);
  expect(server.work?.draft.text).toBe("third");
  server.mode = "saves";
  server.answerNow();
  await vi.advanceTimersByTimeAsync(1000);
  expect([server.asked, server.text, saver.state]).toEqual([2, "third", "saved"]);
});

test("a snippet that was deleted elsewhere is not asked for again and again, and the work stays", async () => {
  server.mode = "gone";
  type("second");
  await vi.advanceTimersByTimeAsync(60_000);
  expect([server.asked, saver.state]).toEqual([1, "away"]);
  expect(server.work?.draft.text).toBe("second");
});

test("work of an earlier visit is taken up and sent", async () => {
  server.mode = "away";
  type("second");
  await vi.advanceTimersByTimeAsync(500);
  server.mode = "saves";
  const later = new SnippetSaver(7, answer("first"), server);
  await vi.advanceTimersByTimeAsync(10);
  expect([server.text, later.state, server.work]).toEqual(["second", "saved", undefined]);
});

test("leaving asks only when the browser could not keep the work either", async () => {
  server.mode = "away";
  server.full = true;
  type("second");
  expect(saver.wouldLose).toBe(true);
  server.mode = "saves";
  await vi.advanceTimersByTimeAsync(1000);
  expect(saver.wouldLose).toBe(false);
});

test("what arrives while a save is under way does not overtake it", async () => {
  server.mode = "hangs";
  type("second");
  await vi.advanceTimersByTimeAsync(1000);
  saver.arrive(answer("from elsewhere"));
  expect(saver.current.draft.text).toBe("second");
  server.mode = "saves";
  server.answerNow();
  await vi.advanceTimersByTimeAsync(1000);
  expect(saver.current.draft.text).toBe("second");
});

test("a new snippet has its id once it is made, and its unsaved work moves on with it", async () => {
  const made: number[][] = [];
  const fresh = new SnippetSaver(
    -1,
    { ...answer(""), id: 0 },
    {
      send: server.send,
      keep: server.keep,
      kept: server.kept,
      told: server.told,
      look: server.look,
      made: (...ids) => made.push(ids),
    },
  );
  await vi.advanceTimersByTimeAsync(1000);
  expect(server.asked).toBe(0);
  fresh.change((saving) => changed(saving, { text: "on my way" }));
  await vi.advanceTimersByTimeAsync(1000);
  expect([fresh.id, fresh.state, fresh.current.answer.id]).toEqual([7, "saved", 7]);
  expect(made).toEqual([[-1, 7]]);
  // What was known before it was made does not undo what was typed.
  fresh.arrive({ ...answer(""), id: 0 });
  expect(fresh.current.draft.text).toBe("on my way");
});

test("what is private is not kept in the browser, and leaving asks as long as it is unsaved", async () => {
  server.mode = "away";
  type("second");
  expect(server.work).toBeDefined();
  saver.change((saving) => changed(saving, { private: true }));
  await saver.flush();
  expect(server.work).toBeUndefined();
  expect(saver.wouldLose).toBe(true);
});

test("a new snippet's changes are based on the name that the server gave it", () => {
  const edit = { before: { name: "New snippet", text: "" }, after: { name: "see you at noon", text: "x" } };
  expect(basedOn(edit, { name: "New snippet 2" }).before).toEqual({ name: "New snippet 2", text: "" });
  expect(basedOn({ before: { text: "" }, after: { text: "x" } }, { name: "New snippet 2" }).before).toEqual({
    text: "",
  });
});

test("an answer from before the last save is asked again, and one after a restored backup is taken", async () => {
  server.version = 5;
  saver.arrive({ ...answer("fifth"), version: 5 });
  server.text = "fifth";
  saver.arrive({ ...answer("fourth"), version: 4 });
  await vi.runAllTimersAsync();
  expect(saver.current.draft.text).toBe("fifth");
  [server.text, server.version] = ["restored", 2];
  saver.arrive({ ...answer("restored"), version: 2 });
  await vi.runAllTimersAsync();
  expect(saver.current.draft.text).toBe("restored");
});

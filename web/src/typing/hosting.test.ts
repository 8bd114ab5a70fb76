import { describe, expect, test } from "vitest";
import type { HostAnswer, Step } from "../api/client";
import { idle, mostAtOnce, step, type Effect, type Happening, type Hosting, type FieldDescription } from "./hosting";

const post: FieldDescription = { place: "desk", app: "post", name: "Letter", kind: "rich" };
const chat: FieldDescription = { place: "desk", app: "radio-chat", name: "Message", kind: "single-line" };

const answer = (more: Partial<HostAnswer> = {}): HostAnswer => ({
  steps: [],
  next: "nothing",
  askAt: null,
  question: null,
  slip: null,
  opens: null,
  hint: null,
  offer: null,
  missed: null,
  fired: [],
  problem: null,
  trace: null,
  chords: null,
  ...more,
});

const press = (key: string): Step => ({ kind: "press", key });
const putIn = (plain: string): Step => ({ kind: "put-in", plain });
const slip = { snippetId: 1, snippet: "Fee", fields: [], recent: {} };

/** A page around the reducer that writes down what it is told to do. */
class Page {
  state: Hosting<FieldDescription> = idle;
  effects: Effect<FieldDescription>[] = [];
  held: boolean[] = [];

  constructor() {
    this.happen({ type: "connected", focused: [post] }).answered(answer({ chords: ["Ctrl+Alt+B"] }));
  }

  happen(what: Happening<FieldDescription>): this {
    const next = step(this.state, what);
    this.state = next.state;
    this.effects.push(...next.effects);
    if (what.type === "key") this.held.push(next.hold);
    return this;
  }

  keys(keys: string, field = post): this {
    for (const key of keys.split(" ")) this.happen({ type: "key", field, key, capsLock: false, atMs: 0 });
    return this;
  }

  answered(...answers: HostAnswer[]): this {
    return this.happen({ type: "answered", answers });
  }

  carried(stopped = false): this {
    return this.happen({ type: "carried", stopped });
  }

  /** What was done since this was asked last, in short. */
  get done(): string[] {
    const short = this.effects.flatMap((effect): string[] => {
      switch (effect.do) {
        case "send":
          return [
            `send ${effect.works.map((work) => (work.kind === "key" ? `${work.key}${work.held ? "" : "°"}${work.composed ? "~" : ""}` : work.kind)).join(" ")}`,
          ];
        case "carry":
          return [
            `carry ${effect.steps.map((one) => [one.kind, one.plain ?? one.key].filter(Boolean).join(" ")).join(", ")} in ${effect.field.name}`,
          ];
        case "ask":
          return [`ask ${effect.question.kind}`];
        case "type-into-slip":
          return [`into the slip: ${effect.keys.join(" ")}`];
        case "take-out":
          return [`take out ${effect.count}`];
        case "wake":
          return effect.atMs === null ? [] : [`wake at ${effect.atMs}`];
        case "say":
          return [`say ${effect.text}`];
        case "tell":
          return [];
        default:
          return [effect.do];
      }
    });
    this.effects = [];
    return short;
  }
}

const fresh = () => {
  const page = new Page();
  void page.done;
  return page;
};

describe("which keys are held back", () => {
  test("the key that takes an offer, as long as one is there, and never otherwise", () => {
    const page = new Page();
    page
      .keys("y")
      .answered(
        answer({ chords: ["ArrowRight"], offer: { rest: "ou", snippet: null, key: "ArrowRight", at: 1, of: 1 } }),
      );
    page
      .keys("ArrowRight")
      .answered(answer({ chords: [], steps: [putIn("ou")] }))
      .carried();
    page.keys("ArrowRight");
    expect(page.held).toEqual([false, true, false]);
  });

  test("none while nothing is under way, but the chords that set something off", () => {
    const page = fresh()
      .keys("a")
      .answered(answer())
      .keys("Enter")
      .answered(answer())
      .keys("Ctrl+K")
      .answered(answer());
    page.keys("Ctrl+Alt+B");
    expect(page.held).toEqual([false, false, false, true]);
  });

  test("the keys that act, and no letter, when the host says so", () => {
    const page = fresh()
      .keys("a")
      .answered(answer({ next: "acting-keys" }));
    for (const key of [
      "Enter",
      "Tab",
      "Backspace",
      "Escape",
      "ArrowUp",
      "Shift+ArrowLeft",
      "Ctrl+Backspace",
      "Ctrl+Z",
    ]) {
      const before = page.state;
      page.keys(key);
      page.state = before;
    }
    page.keys("b");
    expect(page.held.slice(1)).toEqual([true, true, true, true, true, true, true, true, false]);
  });

  test("every key that can be typed later while one is being decided", () => {
    const page = fresh().keys("a b Enter Ctrl+P c");
    expect(page.held).toEqual([false, true, true, false, true]);
  });

  test("a chord that only the browser can do is never held back, and what gives way is settled before it is told", () => {
    const page = fresh()
      .keys("a")
      .answered(answer({ next: "acting-keys", askAt: 700 }));
    void page.done;
    page.keys("Ctrl+P");
    expect(page.held.at(-1)).toBe(false);
    expect(page.done).toEqual(["send settle"]);
    page.answered(answer({ steps: [putIn("berth")] })).carried();
    expect(page.done).toEqual(["carry put-in berth in Letter", "send Ctrl+P°"]);
  });

  test("no key while there is no link", () => {
    const page = fresh().happen({ type: "lost" }).keys("a Enter");
    expect(page.held).toEqual([false, false]);
    expect(page.done).toEqual([]);
  });
});

describe("order", () => {
  test("keys that came while one was decided go in one message, and those not decided are sent again", () => {
    const page = fresh().keys("a b c d");
    expect(page.done).toEqual(["send a°"]);
    page.answered(answer());
    expect(page.done).toEqual(["send b c d"]);
    page.answered(answer({ steps: [press("b")] }), answer({ steps: [putIn("berth")] }));
    expect(page.done).toEqual(["carry press b, put-in berth in Letter"]);
    page.carried();
    expect(page.done).toEqual(["send d"]);
  });

  test("keys of another field wait for a message of their own", () => {
    const page = fresh().keys("a b").keys("c", chat);
    page.answered(answer());
    expect(page.done).toEqual(["send a°", "send b"]);
    page.answered(answer({ steps: [press("b")] })).carried();
    expect(page.done).toEqual(["carry press b in Letter", "send c"]);
  });

  test("a message holds a bounded number of keys", () => {
    const page = fresh().keys("a");
    for (let count = 0; count < mostAtOnce + 5; count++) page.keys("b");
    page.answered(answer());
    const sent = page.effects.findLast((effect) => effect.do === "send");
    expect(sent?.works).toHaveLength(mostAtOnce);
    expect(page.state.queue).toHaveLength(5);
  });

  test("a key that moves the focus takes the keys behind it along", () => {
    const page = fresh().keys("a Tab x y");
    page.answered(answer()).answered(answer({ steps: [press("Tab")] }));
    page.happen({ type: "focus", field: chat, byKey: true }).carried();
    void page.done;
    page.answered(answer());
    expect(page.effects.findLast((effect) => effect.do === "send")?.works.map((work) => work.field)).toEqual([
      chat,
      chat,
    ]);
  });

  test("a click comes in its turn", () => {
    const page = fresh().keys("a").happen({ type: "changed", field: post }).keys("b");
    page.answered(answer()).answered(answer());
    expect(page.done).toEqual(["send a°", "send click", "send b"]);
  });

  test("a paste is put in in its turn", () => {
    const page = fresh().keys("a b").happen({ type: "paste", field: post });
    page
      .answered(answer())
      .answered(answer({ steps: [press("b")] }))
      .carried();
    expect(page.done).toEqual(["send a°", "send b", "carry press b in Letter", "paste", "send paste"]);
  });
});

describe("compositions", () => {
  const compose = (page: Page, text: string) => page.happen({ type: "composed", field: post, text, atMs: 5 });

  test("a composed text is told when it ends", () => {
    const page = compose(fresh().happen({ type: "composing", field: post }), "né");
    expect(page.done).toEqual(["send né°~"]);
  });

  test("nothing is carried out meanwhile, and the text is typed behind it", () => {
    const page = fresh().keys("a").happen({ type: "composing", field: post });
    page.answered(answer({ steps: [putIn("berth")] }));
    expect(page.done).toEqual(["send a°"]);
    compose(page, "né");
    expect(page.done).toEqual(["take out 2", "carry put-in berth in Letter"]);
    page.carried();
    expect(page.done).toEqual(["send n é"]);
  });

  test("it comes behind keys that wait", () => {
    const page = fresh().keys("a b").happen({ type: "composing", field: post });
    compose(page, "é");
    page.answered(answer());
    expect(page.done).toEqual(["send a°", "take out 1", "send b é"]);
  });

  test("an abandoned one is nothing", () => {
    const page = compose(fresh().happen({ type: "composing", field: post }), "");
    expect(page.done).toEqual([]);
    expect(page.state.composing).toBe(false);
  });
});

describe("questions", () => {
  test("what is typed while a slip opens is typed into it", () => {
    const page = fresh().keys("a");
    page.answered(answer({ slip, next: "everything" })).keys("M a");
    expect(page.done).toEqual(["send a°", "ask slip"]);
    page.happen({ type: "slip-ready" });
    expect(page.done).toEqual(["into the slip: M a"]);
    expect(page.held.slice(1)).toEqual([true, true]);
  });

  test("what was typed before it was asked for is its own too", () => {
    const page = fresh()
      .keys("a b c")
      .answered(answer({ slip, next: "everything" }))
      .happen({ type: "slip-ready" });
    expect(page.done).toEqual(["send a°", "ask slip", "into the slip: b c"]);
  });

  test("what is typed in a field while a slip is open comes behind its text", () => {
    const page = fresh()
      .keys("a")
      .answered(answer({ slip, next: "everything" }))
      .happen({ type: "slip-ready" })
      .keys("x");
    page.happen({ type: "replied", answer: answer({ steps: [putIn("Dear Marram")] }) }).carried();
    expect(page.done).toEqual([
      "send a°",
      "ask slip",
      "close-question",
      "carry put-in Dear Marram in Letter",
      "send x",
    ]);
  });

  test("a slip may be followed by a question", () => {
    const page = fresh()
      .keys("a")
      .answered(answer({ slip }))
      .happen({ type: "replied", answer: answer({ opens: ["https://example.org"] }) });
    expect(page.done).toEqual(["send a°", "ask slip", "close-question", "ask open"]);
  });

  test("a link that is lost closes the slip and types the held key", () => {
    const page = fresh().keys("a b").answered(answer()).answered(answer({ slip }));
    void page.done;
    page.happen({ type: "lost" });
    expect(page.done).toEqual([
      "say The program does not answer. What you typed stays as it is.",
      "close-question",
      "carry press b in Letter",
    ]);
  });
});

describe("faults", () => {
  test("an answer that does not come loses no key", () => {
    const page = fresh().keys("a b Enter").answered(answer()).happen({ type: "lost" });
    void page.done;
    page.happen({ type: "failed", text: "no answer" });
    expect(page.done).toEqual(["say no answer", "carry press b, press Enter in Letter"]);
  });

  test("keys that wait when the link is lost are typed as they are", () => {
    const page = fresh().keys("a b").happen({ type: "lost" }).happen({ type: "failed", text: "no answer" });
    expect(page.done).toEqual(["send a°", "say no answer", "carry press b in Letter"]);
    page.carried();
    expect(page.state).toMatchObject({ busy: "no", queue: [] });
  });

  test("a link that is found again is told first where the focus is", () => {
    const page = fresh()
      .happen({ type: "lost" })
      .happen({ type: "connected", focused: [chat] })
      .keys("a", chat);
    expect(page.done).toEqual(["send focus"]);
    expect(page.held).toEqual([true]);
  });

  test("why a snippet was not put in is said", () => {
    expect(
      fresh()
        .keys("a")
        .answered(answer({ problem: "It was not put in." })).done,
    ).toContain("say It was not put in.");
  });
});

describe("deliveries", () => {
  test("Escape stops one, and the host is told that nothing is known of it", () => {
    const page = fresh()
      .keys("a")
      .answered(answer({ steps: [putIn("x"), { kind: "wait", count: 5000 }] }))
      .keys("b Escape");
    expect(page.done).toEqual(["send a°", "carry put-in x, wait in Letter", "stop"]);
    page.carried(true);
    expect(page.done).toEqual(["send stopped"]);
    page.answered(answer());
    expect(page.done).toEqual(["send b"]);
  });

  test("one that is stopped with nothing behind it is told too", () => {
    const page = fresh()
      .keys("a")
      .answered(answer({ steps: [{ kind: "wait", count: 5000 }] }))
      .keys("Escape");
    void page.done;
    page.carried(true);
    expect(page.done).toEqual(["send stopped"]);
  });

  test("the pause of what gives way is asked for again with every answer", () => {
    const page = fresh()
      .keys("a")
      .answered(answer({ askAt: 750 }));
    expect(page.done).toEqual(["send a°", "wake at 750"]);
    page.keys("b").answered(answer({ askAt: 900 }));
    expect(page.done).toEqual(["send b°", "wake at 900"]);
    page.happen({ type: "time", field: post, atMs: 901 });
    expect(page.done).toEqual(["send pause"]);
  });
});

/** Whatever happens in whatever order, every key that was held back is typed or decided, once and in order. */
test("no held key is lost or doubled", () => {
  let seed = 7;
  const random = (most: number) => {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    return Math.floor((seed / 2147483648) * most);
  };
  for (let round = 0; round < 3000; round++) {
    const page = new Page();
    const typed: string[] = [];
    const out: string[] = [];
    let composing = false;
    const take = () => {
      for (const effect of page.effects) {
        if (effect.do === "carry") out.push(...effect.steps.flatMap((one) => (one.key ? [one.key] : [])));
        if (effect.do === "type-into-slip") out.push(...effect.keys);
      }
      page.effects = [];
    };
    const settle = () => {
      if (page.state.sent.length > 0) {
        const failed = random(12) === 0;
        const count = 1 + random(page.state.sent.length);
        if (failed) page.happen({ type: "failed", text: "" });
        else
          page.answered(
            ...page.state.sent
              .slice(0, count)
              .map((work) => answer({ steps: work.kind === "key" && work.held ? [press(work.key)] : [], slip: null })),
          );
      } else if (page.state.busy === "carrying") page.carried();
      take();
    };
    for (let at = 0; at < 30; at++) {
      const what = random(10);
      if (what < 5 && !composing) {
        const key = String.fromCodePoint(0x4e00 + at);
        page.keys(key);
        if (page.held.at(-1)) typed.push(key);
      } else if (what === 5)
        page.happen(page.state.connected ? { type: "lost" } : { type: "connected", focused: [post] });
      else if (what === 6 && !composing) {
        composing = true;
        page.happen({ type: "composing", field: post });
      } else if (composing) {
        composing = false;
        page.happen({ type: "composed", field: post, text: "", atMs: 0 });
      } else settle();
      take();
    }
    if (composing) page.happen({ type: "composed", field: post, text: "", atMs: 0 });
    for (let at = 0; at < 200 && (page.state.busy !== "no" || page.state.queue.length > 0); at++) settle();
    expect(out).toEqual(typed);
  }
});

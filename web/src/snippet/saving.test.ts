import { describe, expect, test } from "vitest";
import type { SnippetAnswer, SnippetDocument, SnippetSaved, TriggerDocument } from "../api/client";
import {
  arrived,
  begin,
  bodyExchanged,
  changed,
  keptMine,
  onPage,
  saved,
  slotPart,
  takenUp,
  toSend,
  tookTheirs,
  triggerAdded,
  triggerChanged,
  unsavedParts,
  unsavedWork,
  type Saving,
  type Sent,
} from "./saving";

const trigger = (text: string): TriggerDocument => ({ kind: "abbreviation", text, timing: "closing-key" });

const snippet = (part: Partial<SnippetDocument> = {}): SnippetDocument => ({
  name: "Deposit",
  enabled: true,
  note: "",
  private: false,
  delivery: "automatic",
  leaveOnClipboard: false,
  body: null,
  text: "first",
  triggers: [trigger("dep"), trigger("dps")],
  ...part,
});

const answer = (part: Partial<SnippetDocument> = {}): SnippetAnswer =>
  ({ id: 7, version: 1, snippet: snippet(part) }) as SnippetAnswer;

/** What a server without faults makes of what it was sent. */
function serverSaves(kept: SnippetDocument, { edit }: Sent): SnippetSaved {
  const now = { ...kept };
  for (const key of Object.keys(edit.after) as (keyof SnippetDocument)[])
    if (JSON.stringify(edit.before[key]) !== JSON.stringify(edit.after[key]))
      Object.assign(now, { [key]: edit.after[key] });
  const triggers = [...(kept.triggers ?? [])];
  for (const { before, after } of edit.triggers ?? []) {
    const at = triggers.findIndex((other) => JSON.stringify(other) === JSON.stringify(before));
    if (at >= 0 && after) triggers[at] = after;
    else if (at >= 0) triggers.splice(at, 1);
    else if (after) triggers.push(after);
  }
  return { now: answer({ ...now, triggers }), unsaved: [] };
}

const round = (saving: Saving, refuse: Partial<SnippetSaved> = {}): Saving => {
  const sent = toSend(saving)!;
  return saved(saving, sent, { ...serverSaves(saving.answer.snippet, sent), ...refuse });
};

describe("what is sent", () => {
  test("nothing while nothing was changed", () => {
    expect(toSend(begin(answer()))).toBeUndefined();
    expect(toSend(changed(begin(answer()), { name: "Deposit" }))).toBeUndefined();
  });

  test("only the parts that changed, each as it was known and as it is to be", () => {
    const sent = toSend(changed(begin(answer()), { note: "for a night", text: "second" }))!;
    expect(sent.edit.before).toEqual({
      enabled: true,
      private: false,
      leaveOnClipboard: false,
      note: "",
      body: null,
      text: "first",
    });
    expect(sent.edit.after).toMatchObject({ note: "for a night", text: "second" });
    expect(sent.edit.after).not.toHaveProperty("name");
    expect(sent.edit.triggers).toEqual([]);
  });

  test("triggers one by one: changed, added and taken away", () => {
    let saving = triggerChanged(begin(answer()), 0, trigger("dpt"));
    saving = triggerChanged(saving, 1, null);
    saving = triggerAdded(saving, trigger("new"));
    expect(toSend(saving)!.edit.triggers).toEqual([
      { before: trigger("dep"), after: trigger("dpt") },
      { before: trigger("dps"), after: null },
      { before: null, after: trigger("new") },
    ]);
    expect(onPage(saving).triggers).toEqual([trigger("dpt"), trigger("new")]);
    expect(onPage(round(saving)).triggers).toEqual([trigger("dpt"), trigger("new")]);
    expect(unsavedParts(round(saving))).toEqual([]);
  });

  test("a trigger that was added and taken away again is never sent", () => {
    const added = triggerAdded(begin(answer()), trigger(""));
    expect(toSend(triggerChanged(added, 2, null))).toBeUndefined();
  });

  test("a trigger that was just added asks for nothing until something is typed into it", () => {
    const added = triggerAdded(begin(answer()), trigger(""));
    expect(toSend(added)).toBeUndefined();
    expect(unsavedParts(added)).toEqual([]);
    expect(unsavedWork(added)).toBeUndefined();
    expect(toSend(triggerChanged(added, 2, trigger("n")))!.edit.triggers).toEqual([
      { before: null, after: trigger("n") },
    ]);
    // One that is kept and was emptied is something else.
    expect(toSend(triggerChanged(begin(answer()), 0, trigger("")))!.edit.triggers).toHaveLength(1);
  });

  test("a plain twin and how links are written are parts like others", () => {
    const twin = changed(begin(answer()), { twin: { text: "plain" } });
    expect(toSend(twin)!.edit.after.twin).toEqual({ text: "plain" });
    expect(toSend(twin)!.edit.after.text).toBeUndefined();
    expect(unsavedParts(twin)).toEqual(["twin"]);
    expect(unsavedParts(changed(begin(answer()), { links: "words-only" }))).toEqual(["delivery"]);
  });
});

describe("a new snippet", () => {
  const fresh = begin({ ...answer({ name: "New snippet", text: "", triggers: [] }), id: 0, parentId: 3 }, true);

  test("is called as it begins until somebody names it", () => {
    const typed = changed(fresh, { text: "On my way to the quay, back soon" });
    expect(typed.draft.name).toBe("On my way to the");
    expect(toSend(typed)!.edit.freeName).toBe(true);
    expect(changed(typed, { text: null, body: "<p>Back <strong>soon</strong></p>" }).draft.name).toBe("Back soon");
    expect(changed(typed, { text: "" }).draft.name).toBe("New snippet");
    const named = changed(typed, { name: "Way" });
    expect(changed(named, { text: "Something else" }).draft.name).toBe("Way");
    expect(toSend(named)!.edit.freeName).toBe(false);
  });

  test("takes the free name that it was given, and keeps it while it begins alike", () => {
    const typed = changed(fresh, { text: "on my way" });
    const sent = toSend(typed)!;
    const now = { ...answer({ name: "on my way 2", text: "on my way", triggers: [] }), id: 9 };
    const made = saved(typed, sent, { now, unsaved: [] });
    expect(made.draft.name).toBe("on my way 2");
    expect(unsavedParts(made)).toEqual([]);
    const more = changed(made, { text: "on my way to the quay today" });
    expect(more.draft.name).toBe("on my way to the");
    expect(changed(more, { text: "on my way to the quay tomorrow" }).draft.name).toBe("on my way to the");
  });

  test("keeps where it is to be made with what was not saved yet", () => {
    const work = unsavedWork(changed(fresh, { text: "kept" }))!;
    expect(work.place).toBe(3);
    expect(takenUp(fresh.answer, work).draft.text).toBe("kept");
    expect(unsavedWork(changed(begin(answer()), { text: "kept" }))!.place).toBeUndefined();
  });

  test("exchanging its body begins the editor anew", () => {
    expect(bodyExchanged(fresh, { body: "<p>b</p>", text: null }).generation).toBe(fresh.generation + 1);
  });
});

describe("what comes of it", () => {
  test("a refused part stays as it stands, with its reason, and holds nothing else back", () => {
    const edited = triggerAdded(changed(begin(answer()), { text: "second" }), trigger("b c"));
    const sent = toSend(edited)!;
    const now = answer({ text: "second" });
    const saving = saved(edited, sent, {
      now,
      unsaved: [{ part: "triggers[0]", why: "An abbreviation is one word.", conflict: false }],
    });
    expect(unsavedParts(saving)).toEqual(["trigger 2"]);
    expect(saving.faults["trigger 2"]?.why).toBe("An abbreviation is one word.");
    expect(onPage(saving).triggers).toHaveLength(3);
    // The same is not sent again and again; something else is.
    expect(toSend(saving)).toBeUndefined();
    expect(toSend(triggerChanged(saving, 2, trigger("new")))!.edit.triggers).toEqual([
      { before: null, after: trigger("new") },
    ]);
  });

  test("what is typed while a save is under way goes with the next", () => {
    const first = changed(begin(answer()), { text: "second" });
    const sent = toSend(first)!;
    const saving = saved(changed(first, { text: "second, and more" }), sent, serverSaves(snippet(), sent));
    expect(onPage(saving).text).toBe("second, and more");
    expect(toSend(saving)!.edit).toMatchObject({ before: { text: "second" }, after: { text: "second, and more" } });
  });

  test("a body that is kept in other words than it was sent in is not sent again, and its editor goes on", () => {
    const edited = changed(begin(answer()), { text: null, body: "<p onclick=x>second" });
    const now = answer({ text: null, body: "<p>second</p>" });
    const saving = saved(edited, toSend(edited)!, { now, unsaved: [] });
    expect(toSend(saving)).toBeUndefined();
    expect(saving.generation).toBe(0);
    expect(toSend(changed(saving, { body: "<p>third</p>" }))!.edit.before.body).toBe("<p>second</p>");
  });

  test("what was changed elsewhere arrives where nothing was touched here", () => {
    const edited = changed(begin(answer()), { note: "mine" });
    const saving = arrived(edited, answer({ name: "Down payment", note: "theirs", text: "theirs" }));
    expect(onPage(saving)).toMatchObject({ name: "Down payment", note: "mine", text: "theirs" });
    expect(saving.generation).toBe(1);
    expect(toSend(saving)!.edit).toMatchObject({ before: { note: "" }, after: { note: "mine" } });
  });

  test("triggers follow what was changed elsewhere, and those in hand stay", () => {
    const edited = triggerChanged(begin(answer()), 1, trigger("mine"));
    const saving = arrived(edited, answer({ triggers: [trigger("theirs"), trigger("dps"), trigger("more")] }));
    expect(onPage(saving).triggers?.map((other) => other.text)).toEqual(["theirs", "more", "mine"]);
    expect(toSend(saving)!.edit.triggers).toEqual([{ before: trigger("dps"), after: trigger("mine") }]);
  });
});

describe("a part that was changed on both sides", () => {
  const edited = changed(begin(answer()), { text: "mine", note: "mine too" });
  const conflict = (): Saving =>
    saved(edited, toSend(edited)!, {
      now: answer({ text: "theirs", note: "mine too" }),
      unsaved: [{ part: "body", why: "It was changed elsewhere.", conflict: true }],
    });

  test("stands here as it was typed until one is chosen; the rest is saved", () => {
    const saving = conflict();
    expect(onPage(saving).text).toBe("mine");
    expect(saving.answer.snippet.text).toBe("theirs");
    expect(unsavedParts(saving)).toEqual(["body"]);
    expect(toSend(saving)).toBeUndefined();
  });

  test("keeping this one is a change of the other one", () => {
    const saving = keptMine(conflict(), "body");
    expect(toSend(saving)!.edit).toMatchObject({ before: { text: "theirs" }, after: { text: "mine" } });
    expect(unsavedParts(round(saving))).toEqual([]);
  });

  test("taking the other one puts it here, in an editor that begins anew", () => {
    const saving = tookTheirs(conflict(), "body");
    expect(onPage(saving).text).toBe("theirs");
    expect(saving.generation).toBe(1);
    expect(toSend(saving)).toBeUndefined();
  });

  test("of a trigger that is another one elsewhere, this one is added or let go", () => {
    const mine = triggerChanged(begin(answer()), 0, trigger("mine"));
    const saving = saved(mine, toSend(mine)!, {
      now: answer({ triggers: [trigger("theirs"), trigger("dps")] }),
      unsaved: [{ part: "triggers[0]", why: "It was changed elsewhere.", conflict: true }],
    });
    const part = slotPart({ key: 0 });
    expect(saving.faults[part]?.conflict).toBe(true);
    expect(toSend(keptMine(saving, part))!.edit.triggers).toEqual([{ before: null, after: trigger("mine") }]);
    expect(onPage(tookTheirs(saving, part)).triggers?.map((other) => other.text)).toEqual(["theirs", "dps"]);
  });
});

describe("unsaved work of an earlier visit", () => {
  test("is what differs, and is taken up on what is kept by now", () => {
    let edited = changed(begin(answer()), { text: "mine" });
    edited = triggerChanged(triggerAdded(edited, trigger("new")), 0, trigger("dpt"));
    const work = JSON.parse(JSON.stringify(unsavedWork(edited))) as NonNullable<ReturnType<typeof unsavedWork>>;
    const saving = takenUp(answer({ name: "Renamed" }), work);
    expect(onPage(saving)).toMatchObject({ name: "Renamed", text: "mine" });
    expect(onPage(saving).triggers?.map((other) => other.text)).toEqual(["dpt", "dps", "new"]);
    expect(toSend(saving)!.edit).toMatchObject({ before: { text: "first" }, after: { text: "mine" } });
  });

  test("is nothing when all is saved, or was saved by another page", () => {
    expect(unsavedWork(begin(answer()))).toBeUndefined();
    const work = unsavedWork(triggerAdded(changed(begin(answer()), { text: "mine" }), trigger("new")))!;
    const saving = takenUp(answer({ text: "mine", triggers: [trigger("dep"), trigger("dps"), trigger("new")] }), work);
    expect(unsavedParts(saving)).toEqual([]);
  });

  test("is found to be in conflict when the same part was changed elsewhere", () => {
    const work = unsavedWork(changed(begin(answer()), { text: "mine" }))!;
    const sent = toSend(takenUp(answer({ text: "theirs" }), work))!;
    expect(sent.edit).toMatchObject({ before: { text: "first" }, after: { text: "mine" } });
  });
});

describe("a strip that is added while a save is under way", () => {
  const typed = changed(begin(answer()), { text: "second" });

  test("is there when the answer comes, for an abbreviation and for a hotkey", () => {
    for (const kind of ["abbreviation", "hotkey"]) {
      const sent = toSend(typed)!;
      const added = triggerAdded(typed, { kind, text: "" });
      const after = saved(added, sent, serverSaves(typed.answer.snippet, sent));
      expect(after.slots.at(-1)).toMatchObject({ kept: null, now: { kind, text: "" } });
      // Also when the snippet becomes known anew, with a trigger of somebody else's.
      const known = arrived(
        after,
        answer({ text: "second", triggers: [trigger("dep"), trigger("dps"), trigger("new")] }),
      );
      expect(known.slots.map((slot) => slot.now?.text)).toEqual(["dep", "dps", "new", ""]);
    }
  });

  test("keeps what is typed into it during the save of its first letter", () => {
    let saving = triggerAdded(begin(answer()), { kind: "abbreviation", text: "" });
    const key = saving.slots.at(-1)!.key;
    saving = triggerChanged(saving, key, trigger("t"));
    const sent = toSend(saving)!;
    saving = triggerChanged(saving, key, trigger("txx"));
    saving = saved(saving, sent, serverSaves(saving.answer.snippet, sent));
    expect(saving.slots.at(-1)).toMatchObject({ kept: trigger("t"), now: trigger("txx") });
    saving = round(saving);
    expect(saving.answer.snippet.triggers?.at(-1)).toEqual(trigger("txx"));
    expect(toSend(saving)).toBeUndefined();
  });
});

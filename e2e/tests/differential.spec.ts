import type { Locator, Page } from "@playwright/test";
import { linesOf, stateOf, type FieldState } from "./fieldState";
import { expect, test } from "./program";
import { OwnServer } from "./server";

/**
 * The same keys through two hosts: the rehearsal, and the page with its real fields. Random sequences must come to the same text,
 * the same caret and the same selection. How many are typed can be set; what was found once is kept below.
 */
const sequences = Number(process.env["DASH_SPROUT_SEQUENCES"] ?? 15);
const seed = Number(process.env["DASH_SPROUT_SEED"] ?? 1);

const bodies: Record<string, string> = {
  plain: "tide",
  "space first": " tide",
  "space last": "tide ",
  "only spaces": "  ",
  nothing: "",
  "two lines": "one\ntwo",
  bold: "<p>a <strong>bold</strong> b</p>",
  "all bold": "<p><strong>bold</strong></p>",
  "led by a space": "<p> <em>x</em> y</p>",
  paragraphs: "<p>one</p><p>two</p>",
  list: "<ul><li>one</li><li>two</li></ul>",
  numbers: "<ol><li>one</li><li>two</li></ol>",
  heading: "<h2>head</h2>",
  centred: '<p style="text-align: center">mid</p>',
  rule: "<p>up</p><hr><p>down</p>",
  "rule alone": "<hr>",
  code: "<pre>a  b</pre>",
  quote: "<blockquote><p>said</p></blockquote>",
  "line break": "<p>a<br>b</p>",
  caret: "<p>left<wbr data-caret>right</p>",
  "caret in lines": "<p>one<wbr data-caret></p><p>two</p>",
  selected: "<p>a<mark data-select>bc</mark>d</p>",
  emoji: "é👩‍👩‍👧",
};

const timings = ["at-once", "closing-key", "closing-key", "double-closing-key"];

const isLines = (body: string): boolean => !/^<(?!p>)|<hr>/.test(body);

/** Abbreviations of few letters, so that random keys meet them often; each body stands behind one. */
function library(random: (most: number) => number, wanted: (body: string) => boolean) {
  const signs = ["a", "b", ";", "é"];
  const some = Object.entries(bodies).filter(([, body]) => wanted(body));
  return some.map(([name, body], at) => {
    const text = [signs[at % 4], signs[Math.floor(at / 4) % 4], at >= 16 ? "b" : ""].join("");
    return {
      name,
      ...(body.startsWith("<") ? { body } : { text: body }),
      triggers: [
        {
          kind: "abbreviation",
          text,
          timing: timings[random(4)],
          leftEdge: ["space", "word", "any"][random(3)],
          case: ["either", "exact", "mirror"][random(3)],
          givesWay: random(3) > 0,
          ...(random(3) === 0 && { keepClosingKey: random(2) === 0 }),
        },
        ...(at % 6 === 0 ? [{ kind: "hotkey", text: `Ctrl+Alt+${"JKLMU"[Math.floor(at / 6) % 5]}` }] : []),
      ],
    };
  });
}

const letters = ["a", "b", ";", "é", "A", "B", "u", "a", "b", ";"];
const closing = [" ", ".", " "];
const acting = [
  "Backspace",
  "Backspace",
  "Ctrl+Alt+Z",
  "Escape",
  "ArrowLeft",
  "ArrowRight",
  "Home",
  "End",
  "Delete",
  "Shift+ArrowLeft",
];
/** What an editor does on other keys inside lists, headings and quotations is its own manner. */
const actingInBlocks = ["Ctrl+Alt+Z", "Ctrl+Alt+Z", "Escape", "ArrowLeft"];
/** An editor deletes an empty paragraph whole, as it likes. */
const actingInLines = acting.filter((key) => key !== "Delete");
const hotkeys = ["Ctrl+Alt+J", "Ctrl+Alt+K", "Ctrl+Alt+L", "Ctrl+Alt+M"];

function randomKeys(random: (most: number) => number, { ownLine, blocks, kind }: (typeof fields)[number]): string[] {
  const one = <T>(choices: readonly T[]): T => choices[random(choices.length)] as T;
  return Array.from({ length: 3 + random(10) }, () => {
    const what = random(20);
    if (what < 11) return one(letters);
    if (what < 15) return one(closing);
    if (what < 16 && ownLine) return "Enter";
    return what < 19 ? one(blocks ? actingInBlocks : kind === "rich" ? actingInLines : acting) : one(hotkeys);
  });
}

/** A small generator with a seed, so that what was found is found again. */
function generator(start: number): (most: number) => number {
  let state = start >>> 0;
  return (most) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * most);
  };
}

const fields = [
  { app: "post", name: "Letter", kind: "rich", ownLine: true, blocks: false },
  { app: "post", name: "Letter", kind: "rich", ownLine: false, blocks: true },
  { app: "log-book", name: "Log", kind: "markdown", ownLine: true, blocks: false },
  { app: "radio-chat", name: "Message", kind: "single-line", ownLine: false, blocks: false },
  { app: "permit-portal", name: "Pass-phrase", kind: "secret", ownLine: false, blocks: false },
];

let ofLines: OwnServer;
let ofBlocks: OwnServer;
test.beforeAll(async () => {
  ofLines = await OwnServer.start();
  ofBlocks = await OwnServer.start();
  await ofLines.addLibrary("Lines", library(generator(seed), isLines), { backspaceTakesBack: true });
  await ofBlocks.addLibrary(
    "Blocks",
    library(generator(seed + 1), () => true),
  );
});
test.afterAll(async () => {
  await ofLines.end();
  await ofBlocks.end();
});

/** What was found by random keys once, made as short as it goes. */
const found: Record<string, string[][]> = {
  rich: [
    ["a", "é", "ArrowLeft"],
    ["b", "é", "Enter"],
    [";", ";", "Ctrl+Alt+L"],
  ],
  secret: [["Ctrl+Alt+M", "Home"]],
};

for (const field of fields)
  test(`the rehearsal and the ${field.name.toLowerCase()} field come to the same${field.blocks ? ", blocks included" : ""}`, async ({
    page,
  }) => {
    test.setTimeout(120_000 + sequences * 1_500);
    const control = await open(page, field);
    const random = generator(seed * 7919 + field.name.length);
    const sets = [...(found[field.kind] ?? []), ...Array.from({ length: sequences }, () => randomKeys(random, field))];
    const different: string[] = [];
    for (const keys of sets) {
      const wrong = await difference(page, control, field, keys);
      if (wrong === undefined) continue;
      const short = await shortest(page, control, field, keys);
      const again = await difference(page, control, field, short);
      different.push(`${JSON.stringify(short)}\n${again ?? `only sometimes: ${wrong}`}`);
      if (different.length > 2) break;
    }
    expect(different.join("\n\n")).toBe("");
  });

const serverOf = (field: (typeof fields)[number]): OwnServer => (field.blocks ? ofBlocks : ofLines);

/** Opens the desk with one application filling it, so that no line is wrapped. */
async function open(page: Page, field: (typeof fields)[number]): Promise<Locator> {
  await page.addInitScript((app) => {
    localStorage.setItem("dash-sprout.desk.arrangement", JSON.stringify({ open: [app], filled: app }));
  }, field.app);
  await page.goto(`${serverOf(field).url}/desk`);
  const control = page.getByLabel(field.name, { exact: true });
  await control.focus();
  // The editor settles its selection some time after it got the focus.
  await expect.poll(() => control.evaluate((element) => document.activeElement === element)).toBe(true);
  await page.waitForTimeout(300);
  return control;
}

async function difference(
  page: Page,
  control: Locator,
  field: (typeof fields)[number],
  keys: readonly string[],
  patience = 40,
) {
  const wanted = await rehearsed(page, field, keys);
  await typed(page, control, keys);
  // What is typed is there as soon as the last key was decided.
  let state = await stateOf(control);
  for (let round = 0; round < patience && !same(state, wanted); round++) {
    await page.evaluate(() => new Promise(requestAnimationFrame));
    if (round > 10) await page.waitForTimeout(25);
    state = await stateOf(control);
  }
  return same(state, wanted) ? undefined : `rehearsal ${shown(wanted)}\npage      ${shown(state)}`;
}

const shown = (state: FieldState) => JSON.stringify(state);

/** The editor keeps an empty paragraph behind a last block that is none, so that one can go on typing there. */
const same = (page: FieldState, wanted: FieldState): boolean =>
  shown(page) === shown(wanted) ||
  (page.lines.at(-1)?.text === "" && shown({ ...page, lines: page.lines.slice(0, -1) }) === shown(wanted));

async function typed(page: Page, control: Locator, keys: readonly string[]): Promise<void> {
  await control.evaluate((element) => {
    // As after an undo by mouse: nobody knows what stands there now, and the focus stays.
    element.dispatchEvent(new InputEvent("beforeinput", { inputType: "historyUndo" }));
    if (element instanceof HTMLTextAreaElement || element instanceof HTMLInputElement) {
      element.value = "";
      return;
    }
    const { editor } = element as unknown as { editor: { commands: { setContent(html: string): void } } };
    editor.commands.setContent("<p></p>");
  });
  for (const key of keys) {
    if (key.startsWith("pause ")) await page.waitForTimeout(Number(key.slice(6)));
    // No key of this keyboard types it: it comes in as from an input method.
    else if (key === "é") await page.keyboard.insertText(key);
    else await page.keyboard.press(pressed(key));
  }
}

const pressed = (key: string): string =>
  key === " "
    ? "Space"
    : key.replaceAll("Ctrl+", "Control+").replace(/\+([A-Z])$/, (_, letter: string) => `+${letter.toLowerCase()}`);

async function rehearsed(page: Page, field: (typeof fields)[number], keys: readonly string[]): Promise<FieldState> {
  const answer = (await serverOf(field).send("POST", "/api/rehearsal", {
    keys: keys.map((key) => (key.startsWith("pause ") ? { pause: Number(key.slice(6)) } : key)),
    app: field.app,
    field: field.kind,
  })) as { text: string; html: string | null; steps: { anchor: number; caret: number } };
  const lines =
    answer.html === null
      ? answer.text.split("\n").map((text) => ({ blocks: "P", text }))
      : await page.evaluate(linesOf, answer.html);
  return { lines, ...answer.steps };
}

/** Takes keys away as long as the difference stays. */
async function shortest(
  page: Page,
  control: Locator,
  field: (typeof fields)[number],
  keys: readonly string[],
): Promise<string[]> {
  let left = [...keys];
  for (let at = 0; at < left.length;) {
    const fewer = left.filter((_, other) => other !== at);
    if (fewer.length > 0 && (await difference(page, control, field, fewer, 14)) !== undefined) left = fewer;
    else at++;
  }
  return left;
}

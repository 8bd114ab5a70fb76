import { deskApps } from "../words/deskApps";
import { readSeconds, readShift, writeSeconds, writeShift, type ShiftUnit } from "./shift";

/** The live parts of a body: how each is written as HTML, what it is called, and what of it can be changed. */

export interface PartField {
  label: string;
  kind:
    | "text"
    | "number"
    | "check"
    | "lines"
    | "choice"
    | "pattern"
    | "snippet"
    | "zone"
    | "locale"
    | "snap"
    | "shift"
    | "key"
    | "source";
  choices?: readonly (readonly [value: string, label: string])[];
  hint?: string;
  read: (part: Element) => string;
  write: (part: Element, value: string) => void;
}

export interface PartKind {
  id: string;
  /** In the insert menu and on the popover. */
  name: string;
  /** More words to find it by. */
  words: string;
  /** What is put in from the menu. */
  html: string;
  matches: (part: Element) => boolean;
  fields: PartField[];
}

const attribute = (
  name: string,
  label: string,
  kind: PartField["kind"] = "text",
  more: Partial<PartField> = {},
): PartField => ({
  label,
  kind,
  read: (part) => part.getAttribute(name) ?? "",
  write: (part, value) => {
    if (value === "") part.removeAttribute(name);
    else part.setAttribute(name, value);
  },
  ...more,
});

const flag = (name: string, label: string, on = ""): PartField => ({
  label,
  kind: "check",
  read: (part) => (part.hasAttribute(name) ? "true" : ""),
  write: (part, value) => (value === "" ? part.removeAttribute(name) : part.setAttribute(name, on)),
});

const content = (label: string, kind: PartField["kind"], hint?: string): PartField => ({
  label,
  kind,
  ...(hint === undefined ? {} : { hint }),
  read: (part) => part.textContent ?? "",
  write: (part, value) => {
    part.textContent = value;
  },
});

/** One entry a line: the texts of one-of-several. */
const entries = (label: string, tag: "li"): PartField => ({
  label,
  kind: "lines",
  hint: "One a line",
  read: (part) => Array.from(part.querySelectorAll(tag), (entry) => entry.textContent ?? "").join("\n"),
  write: (part, value) => {
    part.replaceChildren(
      ...value.split("\n").map((line) => {
        const entry = document.createElement(tag);
        entry.textContent = line;
        return entry;
      }),
    );
  },
});

/** The choices of a field, each with what it counts for in formulas where that is another text. */
const choices: PartField = {
  label: "Choices",
  kind: "lines",
  hint: "One a line; “Quay A = 12.50” shows Quay A and counts for 12.50 in formulas",
  read: (part) =>
    Array.from(part.querySelectorAll("option"), (option) => {
      const label = option.textContent ?? "";
      const value = option.getAttribute("value");
      return value === null || value === label ? label : `${label} = ${value}`;
    }).join("\n"),
  write: (part, text) => {
    part.replaceChildren(
      ...text.split("\n").map((line) => {
        const [, label, value] = /^(.*\S)\s+=\s+(\S.*)$/.exec(line) ?? [line, line];
        const option = document.createElement("option");
        option.textContent = label ?? "";
        if (value !== undefined) option.setAttribute("value", value);
        return option;
      }),
    );
  },
};

/** How far a date is moved: a number and a unit, working days among them; other durations as they are written. */
const moveBy: PartField = {
  label: "Move by",
  kind: "shift",
  read: (part) => {
    const duration = part.getAttribute("data-shift") ?? "";
    const shift = readShift(duration, part.getAttribute("data-days") === "working");
    return shift ? `${shift.amount} ${shift.unit}` : duration;
  },
  write: (part, value) => {
    const [, amount, unit] = /^(-?\d+) ([a-z-]+)$/.exec(value) ?? [];
    const shift = amount === undefined ? undefined : { amount: Number(amount), unit: unit as ShiftUnit };
    const duration = shift ? writeShift(shift) : value.trim();
    if (duration === "") part.removeAttribute("data-shift");
    else part.setAttribute("data-shift", duration);
    if (shift?.unit === "working-days") part.setAttribute("data-days", "working");
    else if (shift) part.removeAttribute("data-days");
  },
};

const name = attribute("name", "Name", "text", { hint: "Letters, digits, _; the same name means the same answer" });
const title = attribute("title", "Asks for");
const worked = attribute("data-default", "Answer in place, worked out", "text", {
  hint: "A formula over other fields, such as nights * rate",
});
const required = flag("required", "Must be answered");
const isInput = (type: string | null) => (part: Element) =>
  part.localName === "input" && (part.getAttribute("type") ?? "text") === (type ?? "text");
const isSlot = (slot: string) => (part: Element) => part.localName === "slot" && part.getAttribute("name") === slot;

export const partKinds: PartKind[] = [
  {
    id: "date",
    name: "Date or time",
    words: "today now clock week month stamp",
    html: '<time data-pattern="d MMMM y"></time>',
    matches: (part) => part.localName === "time",
    fields: [
      attribute("data-pattern", "Pattern", "pattern", {
        hint: "d day, MMMM month, y year, HH:mm time; words between apostrophes",
      }),
      moveBy,
      attribute("data-snap", "Move to", "snap"),
      attribute("data-from", "Start from the date field", "text", { hint: "Empty: now" }),
      attribute("data-zone", "Time zone", "zone"),
      attribute("data-locale", "Language", "locale"),
    ],
  },
  {
    id: "text-field",
    name: "Field: text",
    words: "ask fill slip answer input",
    html: '<input name="text" title="Text">',
    matches: isInput(null),
    fields: [
      name,
      title,
      attribute("value", "Answer in place"),
      worked,
      attribute("size", "Width in characters", "number"),
      attribute("pattern", "Must be like", "text", {
        hint: "A regular expression for the whole answer, such as [A-Z]{2}\\d+",
      }),
      required,
    ],
  },
  {
    id: "number-field",
    name: "Field: number",
    words: "ask fill slip amount count",
    html: '<input name="number" title="Number" type="number">',
    matches: isInput("number"),
    fields: [
      name,
      title,
      attribute("value", "Answer in place"),
      worked,
      attribute("min", "Least"),
      attribute("max", "Most"),
      attribute("step", "Step"),
      required,
    ],
  },
  {
    id: "date-field",
    name: "Field: date",
    words: "ask fill slip day",
    html: '<input name="day" title="Day" type="date">',
    matches: isInput("date"),
    fields: [
      name,
      title,
      attribute("value", "Answer in place"),
      worked,
      attribute("min", "Earliest"),
      attribute("max", "Latest"),
      required,
    ],
  },
  {
    id: "checkbox",
    name: "Field: yes or no",
    words: "ask fill slip checkbox tick option",
    html: '<input name="yes" title="Yes" type="checkbox">',
    matches: isInput("checkbox"),
    fields: [name, title, flag("checked", "Ticked to begin with")],
  },
  {
    id: "long-field",
    name: "Field: long text",
    words: "ask fill slip lines paragraph textarea",
    html: '<textarea name="details" title="Details" rows="4"></textarea>',
    matches: (part) => part.localName === "textarea",
    fields: [name, title, content("Text in place", "lines"), attribute("rows", "Lines shown", "number"), required],
  },
  {
    id: "choice",
    name: "Field: choice",
    words: "ask fill slip select list",
    html: '<select name="choice" title="Choice"><option selected>First</option><option>Second</option></select>',
    matches: (part) => part.localName === "select",
    fields: [name, title, choices, worked],
  },
  {
    id: "calculation",
    name: "Calculation, or an answer again",
    words: "formula sum amount repeat",
    html: '<output data-formula="1 + 1" data-pattern="0.00"></output>',
    matches: (part) => part.localName === "output",
    fields: [
      attribute("data-formula", "Formula", "text", {
        hint: "Field names, + - * /, round min max if days, sum over rows",
      }),
      attribute("data-pattern", "Number pattern", "text", { hint: "#,##0.00" }),
    ],
  },
  {
    id: "clipboard",
    name: "What is on the clipboard",
    words: "paste copy",
    html: '<slot name="clipboard"></slot>',
    matches: isSlot("clipboard"),
    fields: [flag("data-trim", "Without white space at its ends")],
  },
  {
    id: "selection",
    name: "What is selected",
    words: "wrap marked",
    html: '<slot name="selection"></slot>',
    matches: isSlot("selection"),
    fields: [content("Text if nothing is selected", "text")],
  },
  {
    id: "group",
    name: "A pattern’s group",
    words: "match regular expression",
    html: '<slot name="match" data-group="1"></slot>',
    matches: isSlot("match"),
    fields: [attribute("data-group", "Group", "number", { hint: "0 is the whole match" })],
  },
  {
    id: "snippet",
    name: "Another snippet",
    words: "include reuse inside",
    html: '<slot name="snippet" data-ref="Library/Name"></slot>',
    matches: isSlot("snippet"),
    fields: [attribute("data-ref", "Snippet", "snippet")],
  },
  {
    id: "pick",
    name: "One of several",
    words: "random cycle vary",
    html: '<menu data-pick="random"><li>one</li><li>another</li></menu>',
    matches: (part) => part.localName === "menu",
    fields: [
      attribute("data-pick", "Chosen", "choice", {
        choices: [
          ["random", "by chance"],
          ["cycle", "one after the other"],
        ],
      }),
      entries("Texts", "li"),
    ],
  },
  {
    id: "uuid",
    name: "Unique id",
    words: "uuid random identifier",
    html: '<slot name="uuid"></slot>',
    matches: isSlot("uuid"),
    fields: [],
  },
  {
    id: "caret",
    name: "Caret stands here",
    words: "cursor position",
    html: '<wbr data-caret="">',
    matches: (part) => part.localName === "wbr",
    fields: [],
  },
  {
    id: "key",
    name: "Key press",
    words: "tab enter chord",
    html: "<kbd>Tab</kbd>",
    matches: (part) => part.localName === "kbd" && !part.hasAttribute("data-run"),
    fields: [content("Key", "text", "Tab, Enter, Ctrl+B …"), attribute("data-times", "Times", "number")],
  },
  {
    id: "run",
    name: "Run of keys",
    words: "press tab enter chord sequence",
    html: '<kbd data-run="">Tab Tab Enter</kbd>',
    matches: (part) => part.localName === "kbd" && part.hasAttribute("data-run"),
    fields: [content("Keys", "text", "With blanks between: Tab Tab Shift+Tab Space Enter")],
  },
  {
    id: "live",
    name: "Live value",
    words: "json address file web data number",
    html: '<slot name="live" data-url="/harbour/tides.json" data-path="/high/0/height"></slot>',
    matches: isSlot("live"),
    fields: [
      attribute("data-url", "Read from", "source", { hint: "The address of a JSON document, or a file" }),
      attribute("data-path", "Value at", "text", { hint: "A JSON Pointer such as /high/0/height" }),
    ],
  },
  {
    id: "wait",
    name: "Pause",
    words: "wait delay",
    html: '<slot name="wait" data-for="PT0.3S"></slot>',
    matches: isSlot("wait"),
    fields: [
      {
        label: "Seconds",
        kind: "text",
        hint: "Such as 0.3",
        read: (part) => readSeconds(part.getAttribute("data-for") ?? "") ?? part.getAttribute("data-for") ?? "",
        write: (part, value) => part.setAttribute("data-for", value.startsWith("P") ? value : writeSeconds(value)),
      },
    ],
  },
  {
    id: "go-to",
    name: "Go to a field",
    words: "application window focus switch",
    html: '<slot name="go-to" data-app="log-book" data-field="Log"></slot>',
    matches: isSlot("go-to"),
    fields: [
      attribute("data-app", "Application", "choice", {
        choices: deskApps.map(({ id, name: label }) => [id, label] as const),
      }),
      attribute("data-field", "Field", "text", { hint: "Its name, as it stands beside it" }),
    ],
  },
  {
    id: "open",
    name: "Open something",
    words: "address web file application link",
    html: '<a data-open="" href="https://example.org"></a>',
    matches: (part) => part.localName === "a" && part.hasAttribute("data-open"),
    fields: [attribute("href", "Address", "text", { hint: "https:, mailto:, file: or app:" })],
  },
];

/** The element a live part's HTML stands for. */
export function partElement(html: string): Element {
  const template = document.createElement("template");
  template.innerHTML = html;
  return template.content.firstElementChild ?? document.createElement("span");
}

export const kindOf = (part: Element): PartKind | undefined => partKinds.find((kind) => kind.matches(part));

/** Names of the fields in a body's HTML, in order. */
export function fieldNames(html: string): string[] {
  const template = document.createElement("template");
  template.innerHTML = html;
  return [
    ...new Set(
      Array.from(
        template.content.querySelectorAll("input, textarea, select"),
        (field) => field.getAttribute("name") ?? "",
      ),
    ),
  ];
}

/** A name for a new field that is not taken yet. */
export function freeName(wanted: string, taken: string[]): string {
  let free = wanted;
  for (let count = 2; taken.includes(free); count++) free = `${wanted}${count}`;
  return free;
}

// @vitest-environment jsdom
import { beforeEach, expect, test } from "vitest";
import type { Step } from "../api/client";
import { DeliveryRun } from "./DeliveryRun";
import type { FieldDriver } from "./FieldDriver";
import type { Field } from "./told";

const step = (part: Partial<Step>): Step =>
  ({ kind: "press", count: null, plain: null, flow: null, key: null, ...part }) as Step;

let fields: Map<Element, Field>;
let run: DeliveryRun;
let letter: HTMLTextAreaElement;
let log: HTMLTextAreaElement;

beforeEach(() => {
  document.body.replaceChildren();
  fields = new Map();
  const add = (app: string) => {
    const element = document.body.appendChild(document.createElement("textarea"));
    // Without a layout nothing has a place; Tab goes to what has one.
    element.getClientRects = () => [{}] as unknown as DOMRectList;
    const driver = {
      element,
      focus: () => element.focus(),
      putIn: (text: string) => (element.value += text),
    } as unknown as FieldDriver;
    fields.set(element, { place: "desk", app, name: app, kind: "plain", driver });
    return element;
  };
  letter = add("post");
  log = add("log-book");
  run = new DeliveryRun(fields, () => undefined);
  letter.focus();
});

const press = (key: string) => step({ key });

test("keys go into the field they were typed in, wherever the user went meanwhile", async () => {
  log.focus();
  await run.carry(fields.get(letter)!, [press("a"), press("b"), press("c")]);
  expect([letter.value, log.value]).toEqual(["abc", ""]);
});

test("behind a key that moves the focus they go into the next field", async () => {
  await run.carry(fields.get(letter)!, [press("a"), press("Tab"), press("b")]);
  expect([letter.value, log.value]).toEqual(["a", "b"]);
});

test("a field that is named has what comes behind", async () => {
  await run.carry(fields.get(letter)!, [
    press("a"),
    step({ kind: "go-to", plain: "log-book", key: "log-book" }),
    step({ kind: "put-in", plain: "text" }),
  ]);
  expect([letter.value, log.value]).toEqual(["a", "text"]);
});

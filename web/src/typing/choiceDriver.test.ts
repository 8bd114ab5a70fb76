// @vitest-environment jsdom
import { expect, it, vi } from "vitest";
import { choiceDriver } from "./choiceDriver";

const box = document.createElement("input");
box.type = "checkbox";

function select(...options: string[]): HTMLSelectElement {
  const element = document.createElement("select");
  element.append(...options.map((text) => new Option(text)));
  return element;
}

it("a space ticks a box, and no other key or text does", () => {
  const driver = choiceDriver(box);
  driver.putIn(" ", undefined);
  expect(box.checked).toBe(true);
  for (const text of ["x", "a b", ""]) driver.putIn(text, undefined);
  expect(box.checked).toBe(true);
  driver.putIn(" ", undefined);
  expect(box.checked).toBe(false);
});

it("a letter goes to the next option that begins with it, round and round", () => {
  const element = select("Quay A", "Quay B", "Lock", "quay C");
  const changed = vi.fn();
  element.addEventListener("change", changed);
  const driver = choiceDriver(element);
  const seen = ["q", "q", "q", "l", "x", "phn"].map((key) => {
    driver.putIn(key, undefined);
    return element.value;
  });
  expect(seen).toEqual(["Quay B", "quay C", "Quay A", "Lock", "Lock", "Lock"]);
  expect(changed).toHaveBeenCalledTimes(4);
});

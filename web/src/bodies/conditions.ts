import { freeName } from "./liveParts";

/** A condition of an optional passage, as it can be chosen. */
export interface ConditionChoice {
  formula: string;
  label: string;
}

const quoted = (text: string) => (text.includes('"') ? `'${text}'` : `"${text}"`);

/** The conditions that the fields of a body offer, the most likely first. */
export function conditionChoices(html: string): ConditionChoice[] {
  const template = document.createElement("template");
  template.innerHTML = html;
  const choices: ConditionChoice[] = [];
  const seen = new Set<string>();
  const fields = Array.from(template.content.querySelectorAll("input, textarea, select"));
  const byType = (type: string) => fields.filter((field) => typeOf(field) === type);
  for (const type of ["checkbox", "choice", "number", "date", "text"])
    for (const field of byType(type)) {
      const name = field.getAttribute("name") ?? "";
      if (name === "" || seen.has(name)) continue;
      seen.add(name);
      const label = field.getAttribute("title") || name;
      choices.push(...ofField(type, name, label, field));
    }
  return choices;
}

function ofField(type: string, name: string, label: string, field: Element): ConditionChoice[] {
  switch (type) {
    case "checkbox":
      return [
        { formula: name, label: `${label}: yes` },
        { formula: `not ${name}`, label: `${label}: no` },
      ];
    case "choice":
      return Array.from(field.querySelectorAll("option"), (option) => {
        const shown = option.textContent ?? "";
        const value = option.getAttribute("value") ?? shown;
        return { formula: `${name} = ${quoted(value)}`, label: `${label} is ${shown}` };
      });
    case "number":
      return [
        { formula: `${name} > 0`, label: `${label} is more than 0` },
        { formula: `${name} > 1`, label: `${label} is more than 1` },
      ];
    default:
      return [
        { formula: `${name} <> ""`, label: `${label} is answered` },
        { formula: `${name} = ""`, label: `${label} is empty` },
      ];
  }
}

function typeOf(field: Element): string {
  if (field.localName === "select") return "choice";
  const type = field.getAttribute("type") ?? "text";
  return field.localName === "input" && ["checkbox", "number", "date"].includes(type) ? type : "text";
}

/** A new yes/no question that asks whether a passage goes in. */
export function questionFor(passage: string, taken: string[]): { name: string; html: string } {
  const name = freeName("wanted", taken);
  const words = passage.trim().split(/\s+/).slice(0, 4).join(" ");
  const field = document.createElement("input");
  field.setAttribute("name", name);
  field.setAttribute(
    "title",
    words === "" ? "Put this in?" : `“${words}${words.length < passage.trim().length ? " …" : ""}”?`,
  );
  field.setAttribute("type", "checkbox");
  return { name, html: field.outerHTML };
}

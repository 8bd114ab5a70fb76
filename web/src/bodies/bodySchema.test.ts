// @vitest-environment jsdom
import { getSchema } from "@tiptap/core";
import { EditorState } from "@tiptap/pm/state";
import { describe, expect, it } from "vitest";
import { bodyDocument, bodyExtensions, bodyHtml } from "./bodySchema";
import { cleanMarkup, markupOf } from "./markup";
import bodies from "./testing/bodies.json";

const schema = getSchema(bodyExtensions);

const parsed = (html: string): DocumentFragment => {
  const template = document.createElement("template");
  template.innerHTML = html;
  return template.content;
};

/** Whether two fragments are read as the same elements, attributes and texts. */
const same = (a: string, b: string) => parsed(a).isEqualNode(parsed(b));

const through = (html: string): string => bodyHtml(bodyDocument(schema, html));

describe("the editor's document", () => {
  it("gives every body back as it was", () => {
    const changed = bodies.filter((body) => !same(body, through(body)));
    expect(changed.slice(0, 3).map((body) => ({ body, came: through(body) }))).toEqual([]);
    expect(bodies.length).toBeGreaterThan(200);
  });

  it("changes one letter when one letter is typed", () => {
    let tried = 0;
    for (const body of bodies) {
      const before = bodyDocument(schema, body);
      let place = -1;
      before.descendants((node, at) => {
        if (place < 0 && node.isText && node.text?.includes("Berth")) place = at + (node.text.indexOf("Berth") + 1);
      });
      if (place < 0) continue;
      const state = EditorState.create({ doc: before });
      const after = bodyHtml(state.apply(state.tr.insertText("Q", place)).doc);
      expect(after.replace("BQerth", "Berth")).toBe(bodyHtml(before));
      tried++;
    }
    expect(tried).toBeGreaterThan(50);
  });

  it.each([
    ["white space", "<p>  two  spaces  </p><p> </p><p>a&nbsp;b</p>"],
    ["a rule in an item", "<ul><li><hr></li><li><p>b</p></li></ul>"],
    ["a heading in an item", "<ol><li><h2>a</h2><p>b</p></li></ol>"],
    ["code that is bold", "<p><strong><code>a</code></strong></p>"],
    ["a field in text as typed", '<pre>\n  Dear <input name="skipper">,\n\n  bye</pre>'],
    ["passages in passages", '<p><span data-when="a"><span data-when="b">x</span>y</span></p>'],
    ["colours as they are written", '<p><span style="color: #FFAA00; font-size: 12pt">a</span></p>'],
    ["one of several, centred", '<div style="text-align: center">a <menu data-pick="cycle"><li>b</li></menu></div>'],
    [
      "a link around one of several",
      '<div><a href="https://example.org/"><menu data-pick="random"><li>b</li></menu></a></div>',
    ],
    ["an empty line at the end", "<p>a</p><p></p>"],
    ["a list at the end", "<p>a</p><ul><li><p>b</p></li></ul>"],
    ["a text with an empty first line", '<p><textarea name="a">\n\nx</textarea></p>'],
    [
      "what is left selected, around a link",
      '<p><mark data-select="">a<a href="https://example.org/">b</a></mark></p>',
    ],
    ["a table", "<table><tr><th><p>a</p></th></tr><tr><td><p>b</p><ul><li><p>c</p></li></ul></td></tr></table>"],
  ])("keeps %s", (_, html) => {
    expect(same(html, through(html)), through(html)).toBe(true);
  });

  it("gives what HTML ends early its own form", () => {
    expect(through("<p>a</p>\n<p>b</p>")).toBe("<p>a</p><p>b</p>");
    expect(through("plain words")).toBe("<p>plain words</p>");
  });
});

describe("the markup of a live part", () => {
  const element = (html: string): Element => parsed(html).firstElementChild!;

  it("keeps no handler, whoever wrote it", () => {
    const pasted = '<time data-pattern="d" onclick="steal()" class="x" id="y" datetime="2026"></time>';
    expect(cleanMarkup(element(pasted))).toBe('<time data-pattern="d"></time>');
    const menu =
      '<menu data-pick="random" onload="x()"><li onmouseover="x()"><img src="media:ab" onerror="x()"><script>x()</script>a</li></menu>';
    expect(cleanMarkup(element(menu))).toBe('<menu data-pick="random"><li><img src="media:ab">a</li></menu>');
    expect(through(`<p>${pasted}</p>`)).not.toContain("onclick");
  });

  it("writes a first line end that HTML would forget", () => {
    expect(markupOf(element("<textarea>\n\nx</textarea>"))).toBe("<textarea>\n\nx</textarea>");
    expect(markupOf(element("<textarea>\nx</textarea>"))).toBe("<textarea>x</textarea>");
  });
});

import { Mark } from "@tiptap/core";
import Image from "@tiptap/extension-image";

/** Text that goes in when a condition holds. */
export const InlinePassage = Mark.create({
  name: "passage",
  inclusive: true,
  addAttributes() {
    return {
      when: {
        default: "",
        parseHTML: (element) => element.getAttribute("data-when"),
        renderHTML: (attributes) => ({ "data-when": attributes["when"] as string, title: null }),
      },
    };
  },
  parseHTML() {
    return [{ tag: "span[data-when]", priority: 90 }];
  },
  renderHTML({ HTMLAttributes }) {
    return ["span", HTMLAttributes, 0];
  },
});

/** Text that is left selected. */
export const LeftSelected = Mark.create({
  name: "leftSelected",
  parseHTML() {
    return [{ tag: "mark[data-select]", priority: 90 }];
  },
  renderHTML() {
    return ["mark", { "data-select": "" }, 0];
  },
});

const toShown = (source: string) => source.replace(/^media:/, "/api/media/");

/** A picture kept by the server: written as media:ID, shown from its address. */
export const Picture = Image.extend({
  inline: true,
  group: "inline",
  addNodeView() {
    return ({ node }) => {
      const dom = document.createElement("img");
      dom.src = toShown(node.attrs["src"] as string);
      dom.alt = (node.attrs["alt"] as string | null) ?? "";
      if (node.attrs["width"]) dom.width = Number(node.attrs["width"]);
      return { dom };
    };
  },
});

/** HTML of a body as a page can show it. */
export const shownHtml = (html: string): string => html.replaceAll('src="media:', 'src="/api/media/');

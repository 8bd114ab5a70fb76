/** Keys of the views that are always the same; those of the whole program are chosen in the settings. */
export const pageKeys: readonly { title: string; keys: readonly (readonly [keys: string, does: string])[] }[] = [
  {
    title: "While you type",
    keys: [
      ["Escape", "leave a waiting abbreviation as it is; stop a text that is still going in"],
      ["→", "at the end of a line, take what is offered; another key can be chosen under Sprouts"],
      ["Alt+↑ Alt+↓", "walk through several offers"],
    ],
  },
  {
    title: "Libraries",
    keys: [
      ["↑ ↓", "go from row to row"],
      ["→ ←", "open and close a library or folder"],
      ["Enter", "open the snippet"],
      ["N", "new snippet here"],
      ["A", "add one by typing: abbreviation, Tab, text, Enter"],
      ["F2", "rename"],
      ["Space", "switch on or off"],
      ["/", "filter the table"],
      ["Shift+↑ Shift+↓", "choose several rows; Ctrl+A all, Ctrl+Space one more, Escape none"],
      ["M", "move to another place"],
      ["R", "change rules and tags"],
      ["D", "duplicate"],
      ["Alt+↑ Alt+↓", "move up or down"],
      ["Delete", "put into the bin"],
      ["Shift+F10", "everything that can be done with a row"],
      ["Ctrl+Z Ctrl+Shift+Z", "undo the last change, do it again"],
    ],
  },
  {
    title: "Sprouts",
    keys: [["Enter", "in the abbreviation of a sprout, grow it into a snippet"]],
  },
  {
    title: "Snippet",
    keys: [
      ["Alt+I", "put in a live part"],
      ["← → Enter", "go over live parts, and open one"],
      ["Ctrl+B Ctrl+I Ctrl+U", "bold, italic, underlined"],
      ["Ctrl+Z Ctrl+Shift+Z", "undo and do again: in a field its typing, elsewhere the last change"],
    ],
  },
  {
    title: "Desk",
    keys: [
      ["Alt+1 … Alt+8", "open an application or go to it"],
      ["Alt+9", "let its window fill the desk, or not"],
      ["Alt+0", "close its window"],
      ["Alt+Shift+← →", "move its window"],
    ],
  },
  {
    title: "Fill slip",
    keys: [
      ["Enter", "go on; on the last field, put in"],
      ["Ctrl+Enter", "put in from any field"],
      ["Shift+Enter", "a new line in a long text"],
      ["F4", "take the last answers again"],
      ["Escape", "leave everything as typed"],
    ],
  },
];

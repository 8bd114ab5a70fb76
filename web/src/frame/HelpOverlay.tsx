import { Modal } from "antd";

const groups: { title: string; keys: [string, string][] }[] = [
  {
    title: "Everywhere",
    keys: [
      ["F1", "this overview"],
      ["Ctrl+Alt+Space", "find a snippet and put it in"],
      ["Ctrl+Alt+N", "make a snippet of what is selected or on the clipboard"],
      ["Ctrl+Alt+R", "let the engine rest, or listen again"],
      ["Ctrl+Alt+Shift+R", "record keys on the desk or in any linked application, and make a snippet of them"],
      ["Ctrl+Alt+P", "go to the proof line"],
      ["Ctrl+Alt+W", "why did nothing happen?"],
      ["Ctrl+Alt+Z", "take back what just went in"],
      ["Escape", "leave a waiting abbreviation as it is; stop a text that is still going in"],
    ],
  },
  {
    title: "Libraries",
    keys: [
      ["↑ ↓", "go from row to row"],
      ["→ ←", "open and close a library or folder"],
      ["Enter", "open the snippet"],
      ["N", "new snippet here"],
      ["F2", "rename"],
      ["Space", "switch on or off"],
      ["Alt+↑ Alt+↓", "move up or down"],
      ["Delete", "put into the bin"],
      ["Ctrl+Z Ctrl+Shift+Z", "undo the last change, do it again"],
    ],
  },
  {
    title: "Snippet",
    keys: [
      ["Alt+I", "put in a live part"],
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

/** The keys of this program. */
export default function HelpOverlay({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Keys" width={560}>
      {groups.map((group) => (
        <section key={group.title} style={{ marginTop: 14 }}>
          <h2>{group.title}</h2>
          <table className="keys-table">
            <tbody>
              {group.keys.map(([key, what]) => (
                <tr key={key}>
                  <td style={{ width: 150 }}>
                    <kbd>{key}</kbd>
                  </td>
                  <td>{what}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </Modal>
  );
}

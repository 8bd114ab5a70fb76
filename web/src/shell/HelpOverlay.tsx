import { Link } from "react-router";
import { useChords } from "../api/queries";
import { keyLabel } from "../words/ruleWords";
import { Dialog } from "../ui/Dialog";
import { pageKeys } from "./pageKeys";

/** The keys of this program. */
export default function HelpOverlay({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { data: chords } = useChords();
  return (
    <Dialog open={open} onCancel={onClose} footer={null} title="Keys" width={900}>
      <div className="keys-groups">
        <KeyGroup title="Everywhere" keys={(chords ?? []).map(({ chord, does }) => [keyLabel(chord), does])} />
        {pageKeys.map(({ title, keys }) => (
          <KeyGroup key={title} title={title} keys={keys} />
        ))}
      </div>
      <p className="soft">
        The keys under “Everywhere” can be changed in the{" "}
        <Link to="/settings#chords" onClick={onClose} data-first>
          settings
        </Link>
        .
      </p>
    </Dialog>
  );
}

function KeyGroup({ title, keys }: { title: string; keys: readonly (readonly [keys: string, does: string])[] }) {
  return (
    <section>
      <h2>{title}</h2>
      <table className="keys-table">
        <tbody>
          {keys.map(([key, does]) => (
            <tr key={does}>
              <th scope="row">
                <kbd>{key}</kbd>
              </th>
              <td>{does}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

import type { ImportPreview } from "../api/client";
import { Grade } from "../words/Grade";
import { overlapVerbs } from "../words/safetyWords";
import { fates } from "./importing";
import "../ui/listPreview.css";

const some = (count: number, words: string) => (count === 0 ? [] : [`${count} ${words}`]);

/** What bringing a file in would do: counts, the lines, and what would get in each other's way. */
export function ImportFindings({ preview }: { preview: ImportPreview }) {
  const all = [
    ...some(preview.adds, "new"),
    ...some(preview.changes, "changed"),
    ...some(preview.same, "the same as here"),
    ...some(preview.left, "passed over"),
    ...some(preview.gone, "into the bin"),
  ];
  const told = preview.lines.length;
  const numbered = preview.lines.some(({ line }) => line > 0);
  const count = preview.adds + preview.changes + preview.same + preview.left + preview.wrong;
  return (
    <>
      <p className="import-counts" role="status">
        <strong>{all.length === 0 ? "Nothing would change." : all.join(" · ")}</strong>
        {preview.wrong > 0 && (
          <span className="fault">
            {preview.wrong === 1 ? "1 line cannot be used" : `${preview.wrong} lines cannot be used`}
          </span>
        )}
        {preview.overlaps > 0 && (
          <span className="caution">{preview.overlaps === 1 ? "1 overlap" : `${preview.overlaps} overlaps`}</span>
        )}
        {preview.misfires.length > 0 && <span className="caution">some go off by accident</span>}
      </p>
      {preview.notes.map((note) => (
        <p key={note} className="caution">
          {note}
        </p>
      ))}
      {told > 0 && (
        // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- what is longer than its place is scrolled by keys
        <div className="list-preview import-lines" tabIndex={0} role="region" aria-label="What comes of each line">
          <table>
            <thead>
              <tr>
                {numbered && <th scope="col">Line</th>}
                <th scope="col">Becomes</th>
                <th scope="col">Set off by</th>
                <th scope="col">Name</th>
                <th scope="col">What goes in</th>
              </tr>
            </thead>
            <tbody>
              {preview.lines.map((line, at) => (
                <tr key={at}>
                  {numbered && <td className="soft">{line.line > 0 && line.line}</td>}
                  <td className={line.fate === "wrong" ? "fault" : ""}>{fates[line.fate] ?? line.fate}</td>
                  <td>
                    {line.triggers.map((trigger, place) => (
                      <span key={place} className="tag">
                        {trigger}
                      </span>
                    ))}
                  </td>
                  <td>{line.name}</td>
                  <td>
                    {line.problem === null ? (
                      <span className="soft">{line.preview}</span>
                    ) : (
                      <span className="fault">{line.problem}</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {told < count && <p className="soft">… and {count - told} more.</p>}
        </div>
      )}
      {preview.misfires.length > 0 && (
        <ul className="import-cautions">
          {preview.misfires.slice(0, 5).map((misfire) => (
            <li key={misfire.trigger}>
              <span className="tag">{misfire.trigger}</span> <Grade grade={misfire.grade} />{" "}
              <span className="soft">{misfire.words.map((word) => word.word).join(", ")}</span>
            </li>
          ))}
        </ul>
      )}
      {preview.someOverlaps.length > 0 && (
        <ul className="import-cautions">
          {preview.someOverlaps.slice(0, 5).map((overlap, at) => (
            <li key={at}>
              <span className="tag">{overlap.winner.trigger}</span> of {overlap.winner.snippet}{" "}
              {overlapVerbs[overlap.kind] ?? overlap.kind} <span className="tag">{overlap.loser.trigger}</span> of{" "}
              {overlap.loser.snippet}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

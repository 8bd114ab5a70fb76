import { pageClipboard, usePageClipboard } from "../typing/pageClipboard";
import { shortened } from "../words/graphemes";

/** What is on the clipboard and what was before, so that one can see what a delivery did with it. */
export function ClipboardPanel() {
  const { current, entries } = usePageClipboard();
  return (
    <section className="side-panel clipboard-panel" aria-label="Clipboard">
      <h2>Clipboard</h2>
      {entries.length === 0 ? (
        <p className="soft">Empty. What is copied, and what goes in through the clipboard, shows here.</p>
      ) : (
        <ol aria-label="Clipboard, latest first">
          {entries.map((clip) => (
            <li key={clip.id}>
              <button
                type="button"
                aria-pressed={clip.id === current.id}
                title="Make it the clipboard's content"
                onClick={() => pageClipboard.use(clip)}
              >
                <span className="clip-text">{shortened(clip.plain.replaceAll("\n", " ⏎ "), 80)}</span>
                <span className="soft">
                  {clip.id === current.id ? "on the clipboard" : clip.from === "snippet" ? "passed through" : "copied"}
                </span>
              </button>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

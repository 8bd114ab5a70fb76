import type { SaveState } from "./SnippetSaver";

const words: Record<SaveState, string> = {
  saved: "Saved",
  saving: "Saving …",
  refused: "A part is not saved",
  conflict: "Two versions of a part",
  away: "Kept in this browser, not saved yet",
};

/**
 * Whether what stands here is saved, always in sight.
 * @param kept Whether unsaved work outlives the page: what is private does not.
 */
export function SaveMark({ state, why, kept }: { state: SaveState; why: string | undefined; kept: boolean }) {
  return (
    <span className={`save-mark ${state}`} role="status" title={state === "away" ? why : undefined}>
      {state === "away" && !kept ? "Not saved yet; leave this page open" : words[state]}
      {state === "away" && why && <span className="save-why soft"> {why}</span>}
    </span>
  );
}

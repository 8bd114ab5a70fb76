import type { SaveState } from "./SnippetSaver";

const words: Record<SaveState, string> = {
  saved: "Saved",
  saving: "Saving …",
  refused: "A part is not saved",
  conflict: "Two versions of a part",
  away: "Kept in this browser, not saved yet",
};

/** Whether what stands here is saved, always in sight. */
export function SaveMark({ state, why }: { state: SaveState; why: string | undefined }) {
  return (
    <span className={`save-mark ${state}`} role="status" title={state === "away" ? why : undefined}>
      {words[state]}
      {state === "away" && why && <span className="save-why soft"> {why}</span>}
    </span>
  );
}

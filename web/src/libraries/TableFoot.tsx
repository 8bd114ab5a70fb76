import type { Selection } from "./selection";

interface Props {
  snippets: number;
  filtered: boolean;
  problem: string | null;
  selection: Selection;
  onMove: () => void;
  onEdit: () => void;
  onSwitch: (on: boolean) => void;
  onDuplicate: () => void;
  onSave: () => void;
  onRemove: () => void;
  onLetGo: () => void;
}

/** Beneath the table: how many there are, or what can be done with those that are chosen. */
export function TableFoot(props: Props) {
  const { snippets, filtered, problem, selection } = props;
  if (selection.size > 0) {
    return (
      <div className="table-foot" role="group" aria-label="What is chosen">
        <strong role="status">{selection.size === 1 ? "1 row chosen" : `${selection.size} rows chosen`}</strong>
        <button type="button" className="plain-button" onClick={props.onMove}>
          Move to … <kbd>M</kbd>
        </button>
        <button type="button" className="plain-button" onClick={props.onEdit}>
          Rules and tags … <kbd>R</kbd>
        </button>
        <button type="button" className="plain-button" onClick={() => props.onSwitch(true)}>
          On
        </button>
        <button type="button" className="plain-button" onClick={() => props.onSwitch(false)}>
          Off
        </button>
        <button type="button" className="plain-button" onClick={props.onDuplicate}>
          Duplicate <kbd>D</kbd>
        </button>
        <button type="button" className="plain-button" onClick={props.onSave}>
          Save to a file
        </button>
        <button type="button" className="plain-button" onClick={props.onRemove}>
          Bin <kbd>Delete</kbd>
        </button>
        <span className="spacer" />
        <button type="button" className="plain-button" onClick={props.onLetGo}>
          Let go <kbd>Escape</kbd>
        </button>
      </div>
    );
  }
  return (
    <div className="table-foot">
      <span role="status">
        {filtered
          ? snippets === 0
            ? "No snippet is left by the filter."
            : `The filter leaves ${snippets === 1 ? "1 snippet" : `${snippets} snippets`}.`
          : snippets === 1
            ? "1 snippet"
            : `${snippets} snippets`}
      </span>
      {problem !== null ? (
        <span className="caution">{problem}</span>
      ) : (
        !filtered && (
          <span className="soft">Higher wins: when two triggers answer to the same keys, the upper one goes off.</span>
        )
      )}
    </div>
  );
}

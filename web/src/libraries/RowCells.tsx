import type { MouseEvent } from "react";
import type { TableRow, TriggerSketch } from "../api/client";
import { Grade } from "../safety/Grade";
import { caseWords, scopeWords, timingWords } from "../snippet/ruleWords";
import { Tags } from "../snippet/Tags";

interface Props {
  row: TableRow;
  renaming: boolean;
  onOpen: (open: boolean) => void;
  onToggle: () => void;
  onVisit: () => void;
  onRenamed: (name: string | undefined) => void;
  onMenu: (event: MouseEvent<HTMLElement>) => void;
}

/** The cells of a library, folder or snippet. */
export function RowCells({ row, renaming, onOpen, onToggle, onVisit, onRenamed, onMenu }: Props) {
  const isSnippet = row.kind === "snippet";
  const typed = row.triggers.some((trigger) => trigger.kind !== "hotkey");
  return (
    <>
      <span role="gridcell" className="name-cell" style={{ paddingLeft: 10 + row.depth * 18 }}>
        {!isSnippet && (
          <button
            type="button"
            className="opener"
            tabIndex={-1}
            aria-label={row.open ? `Close ${row.name}` : `Open ${row.name}`}
            onClick={() => onOpen(!row.open)}
          >
            {row.open ? "▾" : "▸"}
          </button>
        )}
        {renaming ? (
          <input
            className="rename"
            autoFocus
            defaultValue={row.name}
            aria-label="Name"
            onFocus={(event) => event.target.select()}
            onBlur={(event) => onRenamed(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter") onRenamed(event.currentTarget.value);
              if (event.key === "Escape") onRenamed(undefined);
              event.stopPropagation();
            }}
          />
        ) : isSnippet ? (
          <button type="button" className="name-link" tabIndex={-1} onClick={onVisit}>
            {row.name}
          </button>
        ) : (
          <>
            <span className="holder-name">{row.name}</span>
            <span className="soft count">{row.snippets}</span>
          </>
        )}
      </span>
      <span role="gridcell">{isSnippet && <Tags triggers={row.triggers} />}</span>
      <span role="gridcell" className="first-words">
        {row.firstWords}
      </span>
      <span role="gridcell" className="rules-cell">
        {[
          ...told(row.triggers, timingWords, "closing key"),
          ...told(row.triggers, caseWords, "either case"),
          ...told(row.triggers, scopeWords, "everywhere"),
        ].join(" · ")}
      </span>
      <span role="gridcell">{typed && row.grade !== null && row.grade !== "quiet" && <Grade grade={row.grade} />}</span>
      <span role="gridcell">
        {row.overlaps > 0 && (
          <span className={row.beaten ? "caution" : "soft"}>
            {row.beaten ? `beaten ${row.overlaps}` : `wins ${row.overlaps}`}
          </span>
        )}
      </span>
      <span role="gridcell">
        <button
          type="button"
          role="switch"
          tabIndex={-1}
          className="small-switch"
          aria-checked={row.enabled}
          aria-label={`${row.name} is on`}
          onClick={onToggle}
        >
          <span />
        </button>
      </span>
      <span role="gridcell" className="row-more">
        <button
          type="button"
          tabIndex={-1}
          aria-label={`What can be done with ${row.name}`}
          aria-haspopup="menu"
          onClick={onMenu}
        >
          ⋯
        </button>
      </span>
    </>
  );
}

/** What a rule says of some triggers, where it is not what it would be without a word: only what differs is told. */
function told(triggers: readonly TriggerSketch[], words: (trigger: TriggerSketch) => string, usual: string): string[] {
  return [...new Set(triggers.map(words))].filter((said) => said !== usual && said !== "");
}

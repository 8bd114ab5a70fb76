import type { MouseEvent, ReactNode } from "react";
import type { TableRow, TriggerSketch } from "../api/client";
import { moment } from "../words/historyWords";
import { Grade } from "../words/Grade";
import { caseWords, scopeWords, timingWords } from "../words/ruleWords";
import { TriggerTags } from "../rules/TriggerTags";
import type { Column } from "./columns";

interface Props {
  row: TableRow;
  columns: readonly Column[];
  renaming: boolean;
  onOpen: (open: boolean) => void;
  onToggle: () => void;
  onVisit: () => void;
  onRenamed: (name: string | undefined) => void;
  onMenu: (event: MouseEvent<HTMLElement>) => void;
}

/** The cells of a library, folder or snippet. */
export function RowCells(props: Props) {
  const { row, onMenu } = props;
  return (
    <>
      {props.columns.map(({ id }) => (
        <span
          key={id}
          role="gridcell"
          className={`c-${id}`}
          style={id === "name" ? { paddingLeft: 10 + row.depth * 18 } : undefined}
        >
          {cells[id]?.(props)}
        </span>
      ))}
      <span role="gridcell" className="c-more">
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

const cells: Record<string, (props: Props) => ReactNode> = {
  name: (props) => <NameCell {...props} />,
  "set-off": ({ row }) => row.kind === "snippet" && <TriggerTags triggers={row.triggers} />,
  text: ({ row }) => (row.private ? <em>private</em> : row.preview),
  rules: ({ row }) =>
    [
      ...told(row.triggers, timingWords, "closing key"),
      ...told(row.triggers, caseWords, "either case"),
      ...told(row.triggers, scopeWords, "everywhere"),
    ].join(" · "),
  misfires: ({ row }) =>
    row.triggers.some((trigger) => trigger.kind !== "hotkey") &&
    row.grade !== null &&
    row.grade !== "quiet" && <Grade grade={row.grade} />,
  overlaps: ({ row }) =>
    row.overlaps > 0 && (
      <span className={row.beaten ? "caution" : "soft"}>
        {row.beaten ? `beaten ${row.overlaps}` : `wins ${row.overlaps}`}
      </span>
    ),
  changed: ({ row }) => row.kind === "snippet" && row.changed && <Moment at={row.changed} />,
  "last-used": ({ row }) => row.lastUsed && <Moment at={row.lastUsed} />,
  uses: ({ row }) => row.uses > 0 && row.uses,
  on: ({ row, onToggle }) => (
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
  ),
};

function NameCell({ row, renaming, onOpen, onVisit, onRenamed }: Props) {
  if (renaming) {
    return (
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
    );
  }
  if (row.kind === "snippet") {
    return (
      <>
        <button type="button" className="name-link" tabIndex={-1} onClick={onVisit}>
          {row.name}
        </button>
        {row.where !== "" && <span className="soft beside-name">{row.where}</span>}
        {row.tags.length > 0 && <span className="own-tags beside-name">{row.tags.join(", ")}</span>}
      </>
    );
  }
  return (
    <>
      <button
        type="button"
        className="opener"
        tabIndex={-1}
        aria-label={row.open ? `Close ${row.name}` : `Open ${row.name}`}
        onClick={() => onOpen(!row.open)}
      >
        {row.open ? "▾" : "▸"}
      </button>
      <span className="holder-name">{row.name}</span>
      <span className="soft count">{row.snippets}</span>
    </>
  );
}

const Moment = ({ at }: { at: string }) => (
  <time dateTime={at} title={moment(at)} className="soft">
    {moment(at)
      .replace(/^today, /, "")
      .replace(/, .*$/, "")}
  </time>
);

/** What a rule says of some triggers, where it is not what it would be without a word: only what differs is told. */
function told(triggers: readonly TriggerSketch[], words: (trigger: TriggerSketch) => string, usual: string): string[] {
  return [...new Set(triggers.map(words))].filter((said) => said !== usual && said !== "");
}

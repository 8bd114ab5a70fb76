import { useVirtualizer } from "@tanstack/react-virtual";
import { Button, Dropdown, Input, Modal } from "antd";
import { useEffect, useMemo, useRef, useState, type DragEvent, type KeyboardEvent } from "react";
import { useNavigate } from "react-router";
import { useBoard, useLibraries } from "../api/queries";
import type { Board, LibraryNode, SnippetNode } from "../api/client";
import { Grade } from "../safety/Grade";
import "../safety/safety.css";
import { LibraryRules } from "./LibraryRules";
import { countSnippets, rowKey, visibleRows, type Row } from "./rows";
import { scopeWords, timingWords, caseWords } from "../snippet/ruleWords";
import { Tags } from "../snippet/Tags";
import { useLibraryActions } from "./useLibraryActions";
import "./libraries.css";

const rowHeight = 38;
const closedKey = "dash-sprout.closed-rows";

/** All libraries in one table: the tree, what sets each snippet off, and what goes in. */
export default function LibrariesView() {
  const { data, error } = useLibraries();
  const actions = useLibraryActions();
  const navigate = useNavigate();
  const [closed, setClosed] = useState<Set<string>>(
    () => new Set(JSON.parse(localStorage.getItem(closedKey) ?? "[]") as string[]),
  );
  const [current, setCurrent] = useState<string>();
  // A row that was just made and is to be shown once it is in the table.
  const [made, setMade] = useState<string>();
  const [renaming, setRenaming] = useState<string>();
  const [adding, setAdding] = useState<{ what: "library" | "folder"; row?: Row }>();
  const [rules, setRules] = useState<number>();
  const [dragged, setDragged] = useState<Row>();
  const [target, setTarget] = useState<string>();
  const scroller = useRef<HTMLDivElement>(null);
  const picker = useRef<HTMLInputElement>(null);
  const [replacing, setReplacing] = useState<File>();

  const { data: board } = useBoard();
  const findings = useMemo(() => findingsBySnippet(board), [board]);
  const rows = useMemo(() => (data ? visibleRows(data, closed) : []), [data, closed]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  useEffect(() => {
    localStorage.setItem(closedKey, JSON.stringify([...closed]));
  }, [closed]);

  const at = rows.findIndex((row) => row.key === current);
  const focusedRow = rows[Math.max(at, 0)];

  const focusAt = (index: number) => {
    const row = rows[Math.min(Math.max(index, 0), rows.length - 1)];
    if (!row) return;
    setCurrent(row.key);
    virtual.scrollToIndex(rows.indexOf(row));
    requestAnimationFrame(() => document.getElementById(row.key)?.focus());
  };

  useEffect(() => {
    const index = rows.findIndex((row) => row.key === made);
    if (made === undefined || index < 0) return;
    setMade(undefined);
    setCurrent(made);
    virtual.scrollToIndex(index);
    requestAnimationFrame(() => document.getElementById(made)?.focus());
  }, [rows, made, virtual]);

  const setOpen = (row: Row, open: boolean) =>
    setClosed((before) => {
      const next = new Set(before);
      if (open) next.delete(row.key);
      else next.add(row.key);
      return next;
    });

  const addSnippet = (row: Row | undefined) => {
    if (!row || !data) return;
    void actions.addSnippet(row, namesIn(row));
  };

  const namesIn = (row: Row): string[] => {
    const folderId = row.kind === "folder" ? row.id : row.folderId;
    const all = data ? visibleRows(data, new Set()) : [];
    return all
      .filter((other) => other.kind === "snippet" && other.libraryId === row.libraryId && other.folderId === folderId)
      .map((other) => other.name);
  };

  const shift = async (row: Row, by: number) => {
    const place = row.siblings.indexOf(row.id) + by;
    if (place < 0 || place >= row.siblings.length) return;
    const rest = row.siblings.filter((id) => id !== row.id);
    await actions.move(row, { libraryId: row.libraryId, folderId: row.folderId, before: rest[place] ?? null });
    requestAnimationFrame(() => document.getElementById(row.key)?.focus());
  };

  const onKeyDown = (event: KeyboardEvent, row: Row, index: number) => {
    if (renaming || event.target !== event.currentTarget) return;
    const act = {
      ArrowDown: () => (event.altKey ? void shift(row, 1) : focusAt(index + 1)),
      ArrowUp: () => (event.altKey ? void shift(row, -1) : focusAt(index - 1)),
      Home: () => focusAt(0),
      End: () => focusAt(rows.length - 1),
      PageDown: () => focusAt(index + 12),
      PageUp: () => focusAt(index - 12),
      ArrowRight: () => (row.kind !== "snippet" && !row.open ? setOpen(row, true) : focusAt(index + 1)),
      ArrowLeft: () => {
        if (row.open) setOpen(row, false);
        else focusAt(rows.findLastIndex((other, place) => place < index && other.depth < row.depth));
      },
      Enter: () => (row.kind === "snippet" ? void navigate(`/snippets/${row.id}`) : setOpen(row, !row.open)),
      F2: () => setRenaming(row.key),
      " ": () => row.kind !== "folder" && void actions.toggle(row),
      Delete: () => void actions.remove(row).then(() => focusAt(index)),
      n: () => addSnippet(row),
    }[event.key];
    if (!act || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    act();
  };

  /** Dropping on a row puts a like item in front of it, and a snippet or folder into a library or folder. */
  const destination = (row: Row): Parameters<typeof actions.move>[1] | undefined => {
    if (!dragged || dragged.key === row.key) return undefined;
    if (dragged.kind === row.kind) return { libraryId: row.libraryId, folderId: row.folderId, before: row.id };
    if (dragged.kind === "library" || row.kind === "snippet") return undefined;
    return { libraryId: row.libraryId, folderId: row.kind === "folder" ? row.id : null, before: null };
  };

  const onDrop = (event: DragEvent, row: Row) => {
    event.preventDefault();
    setTarget(undefined);
    const to = destination(row);
    if (dragged && to) void actions.move(dragged, to);
    setDragged(undefined);
  };

  if (error) return <div className="page fault">{error.message}</div>;
  if (!data) return <div className="loading soft">Opening the libraries …</div>;

  return (
    <div className="libraries">
      <div className="libraries-head">
        <h1>Libraries</h1>
        <span className="soft">Higher wins: when two triggers answer to the same keys, the upper one goes off.</span>
        <span className="spacer" />
        <Button type="primary" disabled={!focusedRow} onClick={() => addSnippet(focusedRow)}>
          New snippet
        </Button>
        <Dropdown
          trigger={["click"]}
          menu={{
            items: [
              { key: "folder", label: "New folder", disabled: !focusedRow },
              { key: "library", label: "New library" },
              { key: "rules", label: "Rules of the library …", disabled: !focusedRow },
              { type: "divider" },
              { key: "import", label: "Add from a library file …" },
              { key: "export", label: "Save all to a library file" },
            ],
            onClick: ({ key }) => {
              if (key === "library") setAdding({ what: "library" });
              if (key === "folder" && focusedRow) setAdding({ what: "folder", row: focusedRow });
              if (key === "rules") setRules(focusedRow?.libraryId);
              if (key === "import") picker.current?.click();
              if (key === "export") location.assign("/api/library-file");
            },
          }}
        >
          <Button>More</Button>
        </Dropdown>
        <input
          ref={picker}
          type="file"
          accept=".json,application/json"
          hidden
          aria-label="Library file"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) setReplacing(file);
          }}
        />
      </div>

      <div
        className="table"
        role="treegrid"
        aria-label="Libraries, folders and snippets"
        aria-rowcount={rows.length + 1}
      >
        <div className="table-row table-head" role="row">
          <span role="columnheader">Name</span>
          <span role="columnheader">Set off by</span>
          <span role="columnheader">What goes in</span>
          <span role="columnheader">When</span>
          <span role="columnheader">Letter case</span>
          <span role="columnheader">Where</span>
          <span role="columnheader">Misfires</span>
          <span role="columnheader">Overlaps</span>
          <span role="columnheader">Switch</span>
        </div>
        <div className="table-body" ref={scroller} role="rowgroup">
          <div style={{ height: virtual.getTotalSize(), position: "relative" }} role="presentation">
            {virtual.getVirtualItems().map((item) => {
              const row = rows[item.index]!;
              return (
                <div
                  key={row.key}
                  id={row.key}
                  role="row"
                  aria-level={row.depth + 1}
                  aria-rowindex={item.index + 2}
                  aria-expanded={row.kind === "snippet" ? undefined : row.open}
                  tabIndex={row === focusedRow ? 0 : -1}
                  className={`table-row ${row.kind}-row${row.active ? "" : " off"}${target === row.key ? " drop" : ""}`}
                  style={{ transform: `translateY(${item.start}px)`, height: rowHeight }}
                  draggable={renaming !== row.key}
                  onFocus={() => setCurrent(row.key)}
                  onKeyDown={(event) => onKeyDown(event, row, item.index)}
                  onDoubleClick={() => row.kind === "snippet" && void navigate(`/snippets/${row.id}`)}
                  onDragStart={() => setDragged(row)}
                  onDragEnd={() => setDragged(undefined)}
                  onDragOver={(event) => {
                    if (!destination(row)) return;
                    event.preventDefault();
                    setTarget(row.key);
                  }}
                  onDragLeave={() => setTarget(undefined)}
                  onDrop={(event) => onDrop(event, row)}
                >
                  <RowCells
                    row={row}
                    finding={row.kind === "snippet" ? findings.get(row.id) : undefined}
                    judged={board !== undefined && row.active}
                    renaming={renaming === row.key}
                    onOpen={(open) => setOpen(row, open)}
                    onToggle={() => void actions.toggle(row)}
                    onVisit={() => void navigate(`/snippets/${row.id}`)}
                    onRenamed={(name) => {
                      setRenaming(undefined);
                      if (name !== undefined && name !== row.name) void actions.rename(row, name);
                      requestAnimationFrame(() => document.getElementById(row.key)?.focus());
                    }}
                  />
                </div>
              );
            })}
          </div>
        </div>
      </div>
      {rows.length === 0 && (
        <p className="page soft">No library yet. Make one under More, then add a snippet with N.</p>
      )}

      <LibraryRules
        library={data.libraries.find((library) => library.id === rules)}
        onClose={() => setRules(undefined)}
        onChange={(change) => {
          const library = data.libraries.find((other) => other.id === rules);
          if (library) void actions.setRules(library, change);
        }}
      />
      <NameDialog
        title={adding?.what === "folder" ? "New folder" : "New library"}
        open={adding !== undefined}
        onDone={(name) => {
          const what = adding;
          setAdding(undefined);
          if (name === undefined) return;
          if (what?.row && what.what === "folder")
            void actions.addFolder(what.row, name).then((folder) => folder && setMade(rowKey("folder", folder.id)));
          else void actions.addLibrary(name).then((library) => library && setMade(rowKey("library", library.id)));
        }}
      />
      <Modal
        title={`Add libraries from ${replacing?.name ?? ""}`}
        open={replacing !== undefined}
        onCancel={() => setReplacing(undefined)}
        footer={[
          <Button
            key="add"
            onClick={() => replacing && (void actions.importFile(replacing, false), setReplacing(undefined))}
          >
            Add as new
          </Button>,
          <Button
            key="replace"
            type="primary"
            onClick={() => replacing && (void actions.importFile(replacing, true), setReplacing(undefined))}
          >
            Replace those of the same name
          </Button>,
        ]}
      >
        If a library of the same name is here already, adding stops without a change; replacing puts the file’s in its
        place.
      </Modal>
    </div>
  );
}

interface Finding {
  grade: string;
  overlaps: number;
  beaten: boolean;
}

/** The worst grade and the overlaps of each snippet that has any. */
function findingsBySnippet(board: Board | undefined): Map<number, Finding> {
  const findings = new Map<number, Finding>();
  const of = (snippetId: number): Finding => {
    const found = findings.get(snippetId) ?? { grade: "quiet", overlaps: 0, beaten: false };
    findings.set(snippetId, found);
    return found;
  };
  // The worst come first.
  for (const misfire of board?.misfires ?? []) {
    const found = of(misfire.snippetId);
    if (found.grade === "quiet") found.grade = misfire.grade;
  }
  for (const { overlap, ignored } of board?.overlaps ?? []) {
    if (ignored) continue;
    if (overlap.winner.snippetId !== null) of(overlap.winner.snippetId).overlaps++;
    if (overlap.loser.snippetId === null) continue;
    const loser = of(overlap.loser.snippetId);
    if (overlap.loser.snippetId !== overlap.winner.snippetId) loser.overlaps++;
    loser.beaten = true;
  }
  return findings;
}

interface RowCellsProps {
  row: Row;
  finding: Finding | undefined;
  /** Whether the board knows of the row. */
  judged: boolean;
  renaming: boolean;
  onOpen: (open: boolean) => void;
  onToggle: () => void;
  onVisit: () => void;
  onRenamed: (name: string | undefined) => void;
}

function RowCells({ row, finding, judged, renaming, onOpen, onToggle, onVisit, onRenamed }: RowCellsProps) {
  const snippet = row.kind === "snippet" ? (row.node as SnippetNode) : undefined;
  const holder = row.kind === "snippet" ? undefined : (row.node as LibraryNode);
  const first = snippet?.triggers[0];
  return (
    <>
      <span role="gridcell" className="name-cell" style={{ paddingLeft: 10 + row.depth * 18 }}>
        {holder && (
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
          <Input
            size="small"
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
        ) : snippet ? (
          <button type="button" className="name-link" tabIndex={-1} onClick={onVisit}>
            {row.name}
          </button>
        ) : (
          <>
            <span className="holder-name">{row.name}</span>
            {holder && <span className="soft count">{countSnippets(holder)}</span>}
          </>
        )}
      </span>
      <span role="gridcell">{snippet && <Tags triggers={snippet.triggers} />}</span>
      <span role="gridcell" className="first-words">
        {snippet?.firstWords}
      </span>
      <span role="gridcell">{first && timingWords(first)}</span>
      <span role="gridcell">{first && caseWords(first)}</span>
      <span role="gridcell">{first && scopeWords(first)}</span>
      <span role="gridcell">
        {judged && first && first.kind !== "hotkey" && <Grade grade={finding?.grade ?? "quiet"} />}
      </span>
      <span role="gridcell">
        {judged && finding && finding.overlaps > 0 && (
          <span className={finding.beaten ? "caution" : "soft"}>
            {finding.beaten ? `beaten ${finding.overlaps}` : `wins ${finding.overlaps}`}
          </span>
        )}
      </span>
      <span role="gridcell">
        {row.kind !== "folder" && (
          <button
            type="button"
            role="switch"
            tabIndex={-1}
            className="small-switch"
            aria-checked={(row.node as LibraryNode | SnippetNode).enabled}
            aria-label={`${row.name} is on`}
            onClick={onToggle}
          >
            <span />
          </button>
        )}
      </span>
    </>
  );
}

function NameDialog(props: { title: string; open: boolean; onDone: (name: string | undefined) => void }) {
  const [name, setName] = useState("");
  const done = (value: string | undefined) => {
    props.onDone(value);
    setName("");
  };
  return (
    <Modal
      title={props.title}
      open={props.open}
      okText="Add"
      onCancel={() => done(undefined)}
      onOk={() => done(name)}
      okButtonProps={{ disabled: name.trim() === "" }}
      destroyOnHidden
    >
      <Input
        autoFocus
        value={name}
        placeholder="Name"
        aria-label="Name"
        onChange={(event) => setName(event.target.value)}
        onPressEnter={() => name.trim() !== "" && done(name)}
      />
    </Modal>
  );
}

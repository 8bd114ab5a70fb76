import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input, Select } from "antd";
import { lazy, Suspense, useEffect, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { api, unwrap, type SnippetAnswer, type SnippetDocument, type TriggerDocument } from "../api/client";
import { keys } from "../api/queries";
import { BodyEditor } from "../bodies/BodyEditor";
import { BodyRehearsal } from "../bodies/BodyRehearsal";
import { useUndoKeys } from "../history/undoing";
import { AnatomyStrip } from "./AnatomyStrip";
import { Prospects } from "./Prospects";
import { defaultClosingKeys, defaultEdge } from "./ruleWords";
import { changed, onPage, shownSlots, slotPart, triggerAdded, triggerChanged, type Slot } from "./saving";
import type { SaveState } from "./SnippetSaver";
import { useSaving } from "./useSaving";
import "./snippet.css";

const Versions = lazy(() => import("./Versions"));

/** One snippet: what goes in, and what sets it off. */
export default function SnippetView() {
  const id = Number(useParams()["id"]);
  const { data, error } = useQuery({
    queryKey: keys.snippet(id),
    queryFn: () => unwrap(api.GET("/api/snippets/{id}", { params: { path: { id } } })),
    staleTime: 0,
    gcTime: 0,
  });
  if (error)
    return (
      <div className="page">
        <p className="fault">{error.message}</p>
        <Link to="/libraries">Back to the libraries</Link>
      </div>
    );
  return data ? <SnippetPage key={id} loaded={data} /> : <div className="loading soft">Opening the snippet …</div>;
}

function SnippetPage({ loaded }: { loaded: SnippetAnswer }) {
  useUndoKeys();
  const saver = useSaving(loaded);
  const saving = saver.current;
  const { answer, faults, generation } = saving;
  const slots = shownSlots(saving);
  const draft = useMemo(() => onPage(saving), [saving]);
  const prospects = useProspects(answer.id, draft);
  const [address] = useSearchParams();
  const [wanted] = useState(() => ({ trigger: address.get("trigger"), rule: address.get("rule") ?? undefined }));
  const [versions, setVersions] = useState(false);
  const { library } = answer;
  const change = (part: Partial<SnippetDocument>) => saver.change((before) => changed(before, part));
  const whyNot = (part: string) => (faults[part]?.conflict ? undefined : faults[part]?.why);
  const conflict = (part: string, mine: string, theirs: string) =>
    faults[part]?.conflict && (
      <Conflict
        mine={mine}
        theirs={theirs}
        onMine={() => saver.keepMine(part)}
        onTheirs={() => saver.takeTheirs(part)}
      />
    );

  const setTrigger = (slot: Slot & { now: TriggerDocument }, part: Partial<TriggerDocument>) => {
    const next = { ...slot.now, ...part };
    // A new text brings its own default edge as long as the edge was not chosen by hand.
    if (part.text !== undefined && slot.now.leftEdge === defaultEdge(slot.now.text ?? ""))
      next.leftEdge = defaultEdge(part.text ?? "");
    saver.change((before) => triggerChanged(before, slot.key, next));
  };
  const add = (part: Partial<TriggerDocument>) =>
    saver.change((before) => triggerAdded(before, { ...newAbbreviation, ...part }));

  const libraryKeys = useMemo(() => library.closingKeys ?? defaultClosingKeys, [library]);

  return (
    <div className="page snippet-page">
      <nav className="crumbs soft" aria-label="Where it lies">
        <Link to="/libraries">Libraries</Link>
        {[library.name, ...answer.folders].map((name) => (
          <span key={name}> › {name}</span>
        ))}
        <span className="spacer" />
        <button type="button" className="plain-button" onClick={() => setVersions(true)}>
          Earlier versions
        </button>
        <SaveMark state={saver.state} why={saver.why} />
      </nav>
      <Input
        variant="borderless"
        className="name-input"
        aria-label="Name"
        value={draft.name ?? ""}
        status={faults["name"] ? "error" : ""}
        onChange={(event) => change({ name: event.target.value })}
      />
      <Why text={whyNot("name")} />
      {conflict("name", draft.name ?? "", answer.snippet.name ?? "")}

      <section aria-labelledby="goes-in">
        <h2 id="goes-in">What goes in</h2>
        <BodyEditor key={generation} snippet={draft} error={whyNot("body")} onChange={change} />
        {conflict("body", sourceOf(draft), sourceOf(answer.snippet))}
        <Delivery snippet={draft} onChange={change} />
        <Why text={whyNot("note")} />
        {conflict("note", draft.note ?? "", answer.snippet.note ?? "")}
        <Why text={whyNot("delivery")} />
        {conflict("delivery", draft.delivery ?? "", answer.snippet.delivery ?? "")}
      </section>

      <section aria-labelledby="sets-off">
        <h2 id="sets-off">What sets it off</h2>
        {!library.enabled && <p className="caution">The library {library.name} is off, so nothing here goes off.</p>}
        {!draft.enabled && <p className="caution">This snippet is off.</p>}
        {slots.map((slot, at) => (
          <div key={slot.key} className="strip-with-prospects">
            <AnatomyStrip
              trigger={slot.now}
              libraryKeys={libraryKeys}
              error={whyNot(slotPart(slot)) ?? (slot.now.text ? (prospects?.[at]?.error ?? undefined) : undefined)}
              rule={slot.kept?.text === wanted.trigger ? wanted.rule : undefined}
              onChange={(part) => setTrigger(slot, part)}
              onRemove={() => saver.change((before) => triggerChanged(before, slot.key, null))}
            />
            {conflict(slotPart(slot), slot.now.text ?? "", "It was changed or taken away there.")}
            <Prospects
              snippetId={answer.id}
              name={draft.name ?? ""}
              trigger={slot.now}
              at={at}
              prospects={prospects?.[at]}
              onTake={(text) => setTrigger(slot, { text, leftEdge: defaultEdge(text) })}
            />
          </div>
        ))}
        {slots.length === 0 && <p className="soft">Nothing yet: add an abbreviation to type.</p>}
        <div className="add-triggers">
          <Button onClick={() => add({})}>Add an abbreviation</Button>
          <Button onClick={() => add({ kind: "hotkey" })}>Add a hotkey</Button>
          <Button onClick={() => add({ kind: "pattern" })}>Add a pattern</Button>
        </div>
      </section>

      <section aria-labelledby="rehearsal">
        <h2 id="rehearsal">Rehearsal</h2>
        <BodyRehearsal snippet={draft} />
      </section>
      <Suspense>
        {versions && (
          <Versions id={answer.id} version={answer.version} now={answer.snippet} onClose={() => setVersions(false)} />
        )}
      </Suspense>
    </div>
  );
}

const sourceOf = (snippet: SnippetDocument): string => snippet.body ?? snippet.text ?? "";

/** Why a part is not saved, beside it. */
function Why({ text }: { text: string | undefined }) {
  return text === undefined ? null : (
    <p className="fault" role="alert">
      {text}
    </p>
  );
}

/** A part that was changed here and elsewhere: both stand side by side until one is chosen. */
function Conflict(props: { mine: string; theirs: string; onMine: () => void; onTheirs: () => void }) {
  return (
    <div className="two-sides" role="alert">
      <p>This was changed elsewhere in the meantime. Both are kept until you choose one.</p>
      <div className="both-sides">
        <section>
          <h3>On this page</h3>
          <pre>{props.mine || "nothing"}</pre>
          <Button size="small" onClick={props.onMine}>
            Keep this one
          </Button>
        </section>
        <section>
          <h3>Saved elsewhere</h3>
          <pre>{props.theirs || "nothing"}</pre>
          <Button size="small" onClick={props.onTheirs}>
            Take this one
          </Button>
        </section>
      </div>
    </div>
  );
}

const newAbbreviation: TriggerDocument = {
  kind: "abbreviation",
  text: "",
  timing: "closing-key",
  leftEdge: "word",
  case: "either",
  keepClosingKey: true,
  closingKeys: null,
  givesWay: true,
  scope: { mode: "everywhere", apps: [] },
};

const deliveries = [
  { value: "automatic", label: "as fits the field: short plain text typed, everything else through the clipboard" },
  { value: "keystrokes", label: "as keystrokes, without formatting" },
  { value: "clipboard", label: "through the clipboard" },
];

/** How the text reaches the field, and what stays on the clipboard. */
function Delivery(props: { snippet: SnippetDocument; onChange: (part: Partial<SnippetDocument>) => void }) {
  const { snippet, onChange } = props;
  return (
    <div className="delivery">
      <label htmlFor="delivery">Goes in</label>
      <Select
        id="delivery"
        variant="borderless"
        popupMatchSelectWidth={false}
        value={snippet.delivery ?? "automatic"}
        options={deliveries}
        onChange={(delivery) => onChange({ delivery })}
      />
      {snippet.delivery !== "keystrokes" && (
        <Checkbox
          checked={snippet.leaveOnClipboard ?? false}
          onChange={(event) => onChange({ leaveOnClipboard: event.target.checked })}
        >
          Leave it on the clipboard
        </Checkbox>
      )}
      <Input
        variant="borderless"
        className="note"
        aria-label="Note to yourself"
        placeholder="A note to yourself"
        value={snippet.note ?? ""}
        onChange={(event) => onChange({ note: event.target.value })}
      />
    </div>
  );
}

/** What the engine says of each trigger as it stands on the page; asked a moment after the last change. */
function useProspects(snippetId: number, snippet: SnippetDocument) {
  const [asked, setAsked] = useState(snippet);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(snippet), 150);
    return () => clearTimeout(timer);
  }, [snippet]);
  const { data } = useQuery({
    queryKey: ["prospects", snippetId, asked],
    queryFn: () => unwrap(api.POST("/api/safety/draft", { body: { snippetId, snippet: asked } })),
    placeholderData: (before) => before,
    gcTime: 0,
  });
  return data?.triggers;
}

/** Whether what stands here is saved, always in sight. */
function SaveMark({ state, why }: { state: SaveState; why: string | undefined }) {
  const text = {
    saved: "Saved",
    saving: "Saving …",
    refused: "A part is not saved",
    conflict: "Two versions of a part",
    away: "Kept in this browser, not saved yet",
  }[state];
  return (
    <span className={`save-mark ${state}`} role="status" title={state === "away" ? why : undefined}>
      {text}
      {state === "away" && why && <span className="save-why soft"> {why}</span>}
    </span>
  );
}

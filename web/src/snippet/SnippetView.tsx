import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input, Modal, Select } from "antd";
import { useEffect, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { api, unwrap, type SnippetAnswer, type SnippetDocument, type TriggerDocument } from "../api/client";
import { keys, useLibraries } from "../api/queries";
import { BodyEditor } from "../bodies/BodyEditor";
import { BodyRehearsal } from "../bodies/BodyRehearsal";
import { AnatomyStrip } from "./AnatomyStrip";
import { Prospects } from "./Prospects";
import { defaultClosingKeys, defaultEdge } from "./ruleWords";
import { useAutosave, type SaveState } from "./useAutosave";
import "./snippet.css";

/** One snippet: what goes in, and what sets it off. */
export default function SnippetView() {
  const id = Number(useParams()["id"]);
  const { data, error } = useQuery({
    queryKey: keys.snippet(id),
    queryFn: () => unwrap(api.GET("/api/snippets/{id}", { params: { path: { id } } })),
    refetchOnWindowFocus: false,
    staleTime: Infinity,
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
  const { draft, state, change, resolve, generation } = useAutosave(loaded);
  const { data: tree } = useLibraries();
  const library = tree?.libraries.find((other) => other.id === loaded.libraryId);
  const triggers = draft.triggers ?? [];
  const prospects = useProspects(loaded.id, draft);
  const [address] = useSearchParams();
  const [wanted] = useState(() => ({ trigger: address.get("trigger"), rule: address.get("rule") ?? undefined }));
  const errorAt = (field: string) =>
    state.kind === "refused" ? (state.error.at(`snippet.${field}`) ?? state.error.at(field)) : undefined;

  const setTrigger = (at: number, part: Partial<TriggerDocument>) =>
    change({
      triggers: triggers.map((trigger, index) => {
        if (index !== at) return trigger;
        const next = { ...trigger, ...part };
        // A new text brings its own default edge as long as the edge was not chosen by hand.
        if (part.text !== undefined && trigger.leftEdge === defaultEdge(trigger.text ?? ""))
          next.leftEdge = defaultEdge(part.text ?? "");
        return next;
      }),
    });

  const libraryKeys = useMemo(() => library?.closingKeys ?? defaultClosingKeys, [library]);

  return (
    <div className="page snippet-page">
      <nav className="crumbs soft" aria-label="Where it lies">
        <Link to="/libraries">Libraries</Link>
        {[loaded.library, ...loaded.folders].map((name) => (
          <span key={name}> › {name}</span>
        ))}
        <span className="spacer" />
        <SaveMark state={state} />
      </nav>
      <Input
        variant="borderless"
        className="name-input"
        aria-label="Name"
        value={draft.name ?? ""}
        status={errorAt("name") ? "error" : ""}
        onChange={(event) => change({ name: event.target.value })}
      />
      {errorAt("name") && (
        <p className="fault" role="alert">
          {errorAt("name")}
        </p>
      )}

      <section aria-labelledby="goes-in">
        <h2 id="goes-in">What goes in</h2>
        <BodyEditor key={generation} snippet={draft} error={errorAt("body") ?? errorAt("text")} onChange={change} />
        <Delivery snippet={draft} onChange={change} />
      </section>

      <section aria-labelledby="sets-off">
        <h2 id="sets-off">What sets it off</h2>
        {library && !library.enabled && (
          <p className="caution">The library {library.name} is off, so nothing here goes off.</p>
        )}
        {!draft.enabled && <p className="caution">This snippet is off.</p>}
        {triggers.map((trigger, at) => (
          <div key={at} className="strip-with-prospects">
            <AnatomyStrip
              trigger={trigger}
              libraryKeys={libraryKeys}
              error={
                errorAt(`triggers[${at}].text`) ??
                errorAt(`triggers[${at}].closingKeys`) ??
                (trigger.text ? (prospects?.[at]?.error ?? undefined) : undefined)
              }
              rule={loaded.snippet.triggers?.[at]?.text === wanted.trigger ? wanted.rule : undefined}
              onChange={(part) => setTrigger(at, part)}
              onRemove={() => change({ triggers: triggers.filter((_, index) => index !== at) })}
            />
            <Prospects
              snippetId={loaded.id}
              name={draft.name ?? ""}
              trigger={trigger}
              at={at}
              prospects={prospects?.[at]}
              onTake={(text) => setTrigger(at, { text, leftEdge: defaultEdge(text) })}
            />
          </div>
        ))}
        {triggers.length === 0 && <p className="soft">Nothing yet: add an abbreviation to type.</p>}
        <div className="add-triggers">
          <Button onClick={() => change({ triggers: [...triggers, newAbbreviation] })}>Add an abbreviation</Button>
          <Button onClick={() => change({ triggers: [...triggers, { ...newAbbreviation, kind: "hotkey", text: "" }] })}>
            Add a hotkey
          </Button>
          <Button
            onClick={() => change({ triggers: [...triggers, { ...newAbbreviation, kind: "pattern", text: "" }] })}
          >
            Add a pattern
          </Button>
        </div>
      </section>

      <section aria-labelledby="rehearsal">
        <h2 id="rehearsal">Rehearsal</h2>
        <BodyRehearsal snippet={draft} />
      </section>

      <Modal
        open={state.kind === "conflict"}
        title="Changed elsewhere in the meantime"
        width={860}
        closable={false}
        footer={
          state.kind === "conflict" && [
            <Button key="newer" onClick={() => resolve("newer", state.newer)}>
              Take the newer version
            </Button>,
            <Button key="mine" type="primary" onClick={() => resolve("mine", state.newer)}>
              Keep what is on this page
            </Button>,
          ]
        }
      >
        {state.kind === "conflict" && (
          <div className="versions">
            <Version title="On this page" snippet={draft} />
            <Version title="Saved elsewhere" snippet={state.newer.snippet} />
          </div>
        )}
      </Modal>
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

function Version({ title, snippet }: { title: string; snippet: SnippetAnswer["snippet"] }) {
  return (
    <section>
      <h2>{title}</h2>
      <p>
        <strong>{snippet.name}</strong>
      </p>
      <pre>{snippet.text ?? snippet.body}</pre>
      <p>{(snippet.triggers ?? []).map((trigger) => trigger.text).join("  ")}</p>
    </section>
  );
}

function SaveMark({ state }: { state: SaveState }) {
  const text = {
    saved: "Saved",
    saving: "Saving …",
    refused: "Not saved",
    conflict: "Not saved: two versions",
  }[state.kind];
  const title = state.kind === "refused" ? state.error.message : undefined;
  return (
    <span className={`save-mark ${state.kind}`} role="status" title={title}>
      {text}
    </span>
  );
}

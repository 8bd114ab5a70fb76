import { useQuery } from "@tanstack/react-query";
import { App, Button, Input, Select, type InputRef } from "antd";
import { useEffect, useEffectEvent, useMemo, useRef, useState } from "react";
import { api, unwrap, type SnippetDocument, type TriggerDocument } from "../api/client";
import { knownLibraries, librariesChanged, useLibraries } from "../api/queries";
import { bodyWords } from "../bodies";
import { Dialog } from "../ui/Dialog";
import { useLater } from "../ui/useLater";
import { Grade } from "../words/Grade";
import { suggestionWords } from "../words/safetyWords";
import { defaultEdge, letterCases, timings } from "../words/ruleWords";
import { isCorrection, nameOf, type GatherStart } from "./gathering";
import { choosePlace, placesOf, rememberedPlace, rememberPlace } from "../items/places";
import { useDefaults } from "./useDefaults";
import "./gather.css";

const firstLibrary = "My snippets";

/** From a phrase to a snippet of one's own in a few seconds. */
export default function Gather({ start, onClose }: { start: GatherStart | undefined; onClose: () => void }) {
  return (
    <Dialog open={start !== undefined} title="New snippet" footer={null} width={720} onCancel={onClose}>
      {start && <GatherForm start={start} onDone={onClose} />}
    </Dialog>
  );
}

/** The form itself, wherever it is shown. */
export function GatherForm({ start, onDone }: { start: GatherStart; onDone: () => void }) {
  const { message } = App.useApp();
  const { data: tree } = useLibraries();
  const [text, setText] = useState(start.text ?? "");
  const [ownName, setName] = useState<string>();
  const [ownCode, setCode] = useState<string>();
  const [ownTiming, setTiming] = useState<string>();
  const [ownCase, setCase] = useState<string>();
  const [library, setLibrary] = useState(firstLibrary);
  const [place, setPlace] = useState(rememberedPlace);
  const [fault, setFault] = useState<string>();
  const code = useRef<InputRef>(null);

  const places = useMemo(() => (tree ? placesOf(tree) : []), [tree]);
  const chosen = choosePlace(places, place);
  const defaults = useDefaults(chosen?.id);
  const timing = ownTiming ?? defaults.timing ?? "closing-key";
  const letterCase = ownCase ?? defaults.case ?? (isCorrection(text) ? "mirror" : "either");
  const name = ownName ?? start.name ?? nameOf(text);
  const asked = useLater(name, 200);
  const { data: suggestions } = useQuery({
    queryKey: ["suggestions", asked],
    queryFn: () => unwrap(api.POST("/api/safety/suggestions", { body: { name: asked } })),
    enabled: asked.trim() !== "",
    placeholderData: (before) => before,
  });
  const proposed = suggestions?.[0]?.text ?? "";
  const abbreviation = ownCode ?? proposed;

  const trigger: TriggerDocument = {
    kind: "abbreviation",
    text: abbreviation,
    leftEdge: defaults.leftEdge ?? defaultEdge(abbreviation),
    timing,
    case: letterCase,
  };
  const snippet: SnippetDocument = {
    name,
    ...(start.html === undefined ? { text } : { body: start.html }),
    triggers: abbreviation === "" ? [] : [trigger],
  };
  const judged = useLater(JSON.stringify(trigger), 120);
  const { data: draft } = useQuery({
    queryKey: ["prospects", "new", judged],
    queryFn: () => {
      const snippetLike = { name: "new", text: "", triggers: [JSON.parse(judged) as TriggerDocument] };
      return unwrap(api.POST("/api/safety/draft", { body: { snippetId: null, snippet: snippetLike } }));
    },
    enabled: abbreviation !== "",
    placeholderData: (before) => before,
  });
  const prospects = draft?.triggers[0];

  // What is proposed is selected, so that typing replaces it.
  useEffect(() => {
    if (ownCode === undefined && document.activeElement === code.current?.input) code.current?.select();
  }, [ownCode, proposed]);

  const save = async () => {
    try {
      const known = placesOf(await knownLibraries());
      const to =
        choosePlace(known, place)?.id ?? (await unwrap(api.POST("/api/libraries", { body: { name: library } }))).id;
      // A name that was proposed gives way to one that is there already.
      const body = { parentId: to, snippet, freeName: ownName === undefined };
      const made = await unwrap(api.POST("/api/snippets", { body }));
      rememberPlace(to);
      void message.success(
        abbreviation === ""
          ? `“${made.snippet.name}” is saved.`
          : `${abbreviation} puts in “${made.snippet.name}” from now on.`,
      );
      onDone();
      await librariesChanged();
    } catch (error) {
      setFault((error as Error).message);
    }
  };

  return (
    <form
      className="gather"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <label htmlFor="gather-text">What goes in</label>
      {start.html === undefined ? (
        <div>
          <Input.TextArea
            id="gather-text"
            rows={3}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== "Enter" || !event.ctrlKey) return;
              event.preventDefault();
              void save();
            }}
          />
          {start.mayRead && <FromClipboard text={text} onTake={setText} />}
        </div>
      ) : (
        <div id="gather-text" className="gather-body">
          {bodyWords(start.html)}
        </div>
      )}
      <label htmlFor="gather-name">Name</label>
      <Input id="gather-name" value={name} onChange={(event) => setName(event.target.value)} />
      <label htmlFor="gather-code">Abbreviation</label>
      <div>
        <Input
          id="gather-code"
          ref={code}
          data-first
          className="gather-code"
          spellCheck={false}
          autoComplete="off"
          value={abbreviation}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setCode(event.target.value)}
        />
        <div className="gather-prospects" aria-live="polite">
          {prospects?.forecast && abbreviation !== "" && (
            <Grade grade={prospects.forecast.grade} rate={prospects.forecast.per10kWords} />
          )}
          {prospects && prospects.overlaps.length > 0 && (
            <span className="caution">overlaps with {prospects.overlaps[0]?.winner.snippet}</span>
          )}
          {prospects?.error && abbreviation !== "" && <span className="fault">{prospects.error}</span>}
        </div>
        <div className="gather-suggestions">
          {suggestions?.slice(0, 5).map((suggestion) => (
            <button
              key={suggestion.text}
              type="button"
              title={suggestionWords[suggestion.kind]}
              aria-label={`Take ${suggestion.text}`}
              onClick={() => setCode(suggestion.text)}
            >
              <span className="tag">{suggestion.text}</span>
            </button>
          ))}
        </div>
      </div>
      <label htmlFor="gather-timing">Goes off</label>
      <Select
        id="gather-timing"
        value={timing}
        options={Object.entries(timings).map(([value, { long }]) => ({ value, label: long }))}
        onChange={setTiming}
      />
      <label htmlFor="gather-case">Letter case</label>
      <Select
        id="gather-case"
        value={letterCase}
        options={Object.entries(letterCases).map(([value, { long }]) => ({ value, label: long }))}
        onChange={setCase}
      />
      <label htmlFor="gather-place">Where</label>
      {tree && places.length === 0 ? (
        <div>
          <Input id="gather-place" value={library} onChange={(event) => setLibrary(event.target.value)} />
          <p className="soft gather-note">There is no library yet; this one is made for it.</p>
        </div>
      ) : (
        <Select
          id="gather-place"
          showSearch={{ optionFilterProp: "label" }}
          value={chosen?.id ?? null}
          options={places.map(({ id, label }) => ({ value: id, label }))}
          onChange={setPlace}
        />
      )}
      <span />
      <div className="gather-actions">
        <button type="submit" className="slip-put-in">
          Save <kbd>Enter</kbd>
        </button>
        {fault && (
          <span className="fault" role="alert">
            {fault}
          </span>
        )}
      </div>
    </form>
  );
}

/** What is on the system's clipboard: taken at once where the browser lets a page read it, else with a click. */
function FromClipboard({ text, onTake }: { text: string; onTake: (text: string) => void }) {
  const [refused, setRefused] = useState(false);
  const untouched = useRef(text);
  const take = useEffectEvent(async (asked: boolean) => {
    try {
      const read = await navigator.clipboard.readText();
      // What was typed meanwhile stays.
      if (read !== "" && (asked || text === untouched.current)) onTake(read);
    } catch {
      // The browser asked the user, who said no, or asks nobody.
      setRefused(asked);
    }
  });
  useEffect(() => {
    void navigator.permissions
      ?.query({ name: "clipboard-read" as PermissionName })
      .then(({ state }) => (state === "granted" ? take(false) : undefined))
      // A browser that does not know this permission lets nobody read.
      .catch(() => setRefused(false));
  }, []);
  return (
    <p className="gather-note soft">
      <Button size="small" onClick={() => void take(true)}>
        Take what is on the clipboard
      </Button>{" "}
      {refused && "The browser does not let this page read it: paste it with Ctrl+V."}
    </p>
  );
}

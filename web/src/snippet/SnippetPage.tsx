import { Button, Input } from "antd";
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { SnippetAnswer, SnippetDocument, TriggerDocument } from "../api/client";
import { wordsOf } from "../bodies";
import { BodyEditor, BodyRehearsal } from "../bodies/parts";
import { byTouch, firstControl, isSomewhere } from "../ui/focus";
import { useUndoKeys } from "../items/undoing";
import { AnatomyStrip } from "./AnatomyStrip";
import { Conflict } from "./Conflict";
import { Delivery } from "./Delivery";
import { GroupOffer } from "./GroupOffer";
import { HiddenText } from "./HiddenText";
import { PlainTwin } from "./PlainTwin";
import { Prospects } from "./Prospects";
import { defaultClosingKeys, defaultEdge, newAbbreviation } from "../words/ruleWords";
import { SaveMark } from "./SaveMark";
import {
  bodyExchanged,
  changed,
  onPage,
  shownSlots,
  slotPart,
  triggerAdded,
  triggerChanged,
  type Slot,
} from "./saving";
import { useProspects } from "./useProspects";
import { useSaving } from "./useSaving";

const Versions = lazy(() => import("./Versions"));

interface Props {
  /** The snippet as it is kept, or one that is not made yet. */
  loaded: SnippetAnswer;
  onMade: (id: number) => void;
}

/** The page of one snippet: what sets it off and what goes in, side by side, and a rehearsal of both. */
export function SnippetPage({ loaded, onMade }: Props) {
  useUndoKeys();
  const saver = useSaving(loaded);
  const saving = saver.current;
  const { answer, faults, generation } = saving;
  const [isNew] = useState(answer.id === 0);
  const slots = shownSlots(saving);
  const draft = useMemo(() => onPage(saving), [saving]);
  const [typed, setTyped] = useState<Record<number, string>>({});
  const prospects = useProspects(
    answer.id,
    draft,
    slots.map(({ key }) => typed[key] ?? ""),
  );
  const [address] = useSearchParams();
  const [wanted] = useState(() => ({ trigger: address.get("trigger"), rule: address.get("rule") ?? undefined }));
  const [versions, setVersions] = useState(false);
  // One that was private before is hidden until it is shown; what becomes private on the page was just seen.
  const [hidden, setHidden] = useState(loaded.snippet.private ?? false);
  const page = useRef<HTMLDivElement>(null);
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

  const add = (part: Partial<TriggerDocument>) =>
    saver.change((before) => triggerAdded(before, newAbbreviation(answer.defaults, part)));
  const hasSlots = slots.length > 0;
  // A new snippet begins with the abbreviation, before anything else.
  useEffect(() => {
    if (isNew && !hasSlots && saver.current.answer.id === 0) add({});
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- only once, when the page comes
  }, []);
  useEffect(() => {
    if (isNew && answer.id !== 0) onMade(answer.id);
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- told once, when it has been made
  }, [isNew, answer.id]);
  // What one comes to change most is the text; who came for a rule is there already.
  useEffect(() => {
    if (isNew || wanted.rule !== undefined || byTouch()) return;
    const view = document.getElementById("view");
    const elsewhere = isSomewhere() && document.activeElement !== view && view?.contains(document.activeElement);
    if (!elsewhere) bodyIn(page.current)?.focus({ preventScroll: true });
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- only once, when the page comes
  }, []);

  const setTrigger = (slot: Slot & { now: TriggerDocument }, part: Partial<TriggerDocument>) => {
    const next = { ...slot.now, ...part };
    // A new text brings its own default edge as long as the edge was not chosen by hand.
    if (part.text !== undefined && slot.now.leftEdge === defaultEdge(slot.now.text ?? ""))
      next.leftEdge = defaultEdge(part.text ?? "");
    saver.change((before) => triggerChanged(before, slot.key, next));
  };
  const remove = (slot: Slot) => {
    saver.change((before) => triggerChanged(before, slot.key, null));
    document.getElementById("add-abbreviation")?.focus();
  };

  const libraryKeys = useMemo(() => library.closingKeys ?? defaultClosingKeys, [library]);

  return (
    <div className="page snippet-page" ref={page}>
      <nav className="crumbs soft" aria-label="Where it lies">
        <Link to="/libraries">Libraries</Link>
        {[library.name, ...answer.folders].map((name) => (
          <span key={name}> › {name}</span>
        ))}
        <span className="spacer" />
        {answer.id !== 0 && (
          <button type="button" className="plain-button" onClick={() => setVersions(true)}>
            Earlier versions
          </button>
        )}
        <SaveMark state={saver.state} why={saver.why} kept={!saver.wouldLose} />
      </nav>
      <h1 className="visually-hidden">{draft.name || "New snippet"}</h1>
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

      <div className="snippet-parts">
        <section aria-labelledby="sets-off" className="sets-off">
          <h2 id="sets-off">What sets it off</h2>
          {!library.enabled && <p className="caution">The library {library.name} is off, so nothing here goes off.</p>}
          {answer.offFolder !== null && (
            <p className="caution">The folder {answer.offFolder} is off, so nothing here goes off.</p>
          )}
          {!draft.enabled && <p className="caution">This snippet is off.</p>}
          {slots.map((slot, at) => (
            <div key={slot.key} className="strip-with-prospects">
              <AnatomyStrip
                trigger={slot.now}
                libraryKeys={libraryKeys}
                error={whyNot(slotPart(slot)) ?? (slot.now.text ? (prospects?.[at]?.error ?? undefined) : undefined)}
                rule={
                  slot.kept === null && slot.now.text === ""
                    ? "letters"
                    : slot.kept?.text === wanted.trigger
                      ? wanted.rule
                      : undefined
                }
                onChange={(part) => setTrigger(slot, part)}
                onRemove={() => remove(slot)}
                // From the abbreviation of a text that is not there yet, Tab goes to the text.
                onTab={() => {
                  const body = isEmptyText(draft) ? bodyIn(page.current) : undefined;
                  body?.focus();
                  return body !== undefined;
                }}
              />
              {conflict(slotPart(slot), slot.now.text ?? "", "It was changed or taken away there.")}
              <Prospects
                snippetId={answer.id}
                name={draft.name ?? ""}
                trigger={slot.now}
                at={at}
                prospects={prospects?.[at]}
                hidden={hidden}
                typed={typed[slot.key] ?? ""}
                onType={(text) => setTyped({ ...typed, [slot.key]: text })}
                onTake={(text) => setTrigger(slot, { text, leftEdge: defaultEdge(text) })}
              />
            </div>
          ))}
          {!hasSlots && <p className="soft">Nothing yet: add an abbreviation to type.</p>}
          <div className="add-triggers">
            <Button id="add-abbreviation" onClick={() => add({})}>
              Add an abbreviation
            </Button>
            <Button onClick={() => add({ kind: "hotkey" })}>Add a hotkey</Button>
            <Button onClick={() => add({ kind: "pattern" })}>Add a pattern</Button>
          </div>
        </section>

        <section aria-labelledby="goes-in" className="goes-in">
          <h2 id="goes-in">What goes in</h2>
          {hidden ? (
            <HiddenText
              onShow={() => {
                setHidden(false);
                // The field comes with the next drawing.
                requestAnimationFrame(() => bodyIn(page.current)?.focus());
              }}
            />
          ) : (
            <>
              <BodyEditor
                key={generation}
                snippet={draft}
                label="What goes in"
                error={whyNot("body")}
                onChange={change}
              />
              {conflict("body", wordsOf(draft), wordsOf(answer.snippet))}
              <GroupOffer snippet={draft} onTake={(body) => saver.change((before) => bodyExchanged(before, body))} />
            </>
          )}
          <Delivery snippet={draft} hidden={hidden} onChange={change} />
          <Why text={whyNot("note")} />
          {!hidden && conflict("note", draft.note ?? "", answer.snippet.note ?? "")}
          <Why text={whyNot("tags")} />
          <Why text={whyNot("delivery")} />
          {conflict("delivery", draft.delivery ?? "", answer.snippet.delivery ?? "")}
          {!hidden && (
            <>
              <PlainTwin snippet={draft} error={whyNot("twin")} onChange={change} />
              {conflict("twin", wordsOf(draft.twin ?? {}), wordsOf(answer.snippet.twin ?? {}))}
            </>
          )}
        </section>

        <section aria-labelledby="rehearsal" className="rehearses">
          <h2 id="rehearsal">Rehearsal</h2>
          {hidden ? <p className="soft">Hidden, as what goes in.</p> : <BodyRehearsal snippet={draft} />}
        </section>
      </div>
      <Suspense>
        {versions && (
          <Versions
            id={answer.id}
            version={answer.version}
            now={answer.snippet}
            hidden={hidden}
            onShow={() => setHidden(false)}
            onClose={() => setVersions(false)}
          />
        )}
      </Suspense>
    </div>
  );
}

const isEmptyText = ({ body, text }: SnippetDocument): boolean => (body ?? "") === "" && (text ?? "") === "";

/** The field of what goes in. */
const bodyIn = (page: HTMLElement | null): HTMLElement | undefined =>
  page?.querySelector<HTMLElement>(".goes-in textarea, .goes-in .tiptap") ??
  firstControl(page?.querySelector<HTMLElement>(".goes-in") ?? null);

/** Why a part is not saved, beside it. */
function Why({ text }: { text: string | undefined }) {
  return text === undefined ? null : (
    <p className="fault" role="alert">
      {text}
    </p>
  );
}

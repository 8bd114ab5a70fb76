import { nameOf } from "../gather";
import type { SnippetAnswer, SnippetDocument, SnippetEdit, SnippetSaved, TriggerDocument } from "../api/client";
import { partNames, snippetParts as parts, type PartName } from "../words/snippetParts";

/** A trigger on the page: as it is kept, and as it stands here. Null: not there. */
export interface Slot {
  key: number;
  kept: TriggerDocument | null;
  now: TriggerDocument | null;
}

/** Why a part is not saved. */
export interface Fault {
  why: string;
  /** It was changed elsewhere as well; both are kept until one is chosen. */
  conflict: boolean;
  /** What was refused, so that the same is not sent again and again. */
  refused: unknown;
}

/** What the page knows of one snippet: what is kept, what stands here, and what could not be saved. */
export interface Saving {
  answer: SnippetAnswer;
  /** The parts as the page knows them to be kept: what its changes are based on. */
  kept: SnippetDocument;
  /** The parts as they stood here when they were saved last; the kept ones may be written in another way. */
  clean: SnippetDocument;
  draft: SnippetDocument;
  slots: readonly Slot[];
  faults: Readonly<Record<string, Fault>>;
  nextKey: number;
  /** Counts how often the body was exchanged for another one, so that its editor begins anew. */
  generation: number;
  /** Whether its name follows what goes in, as with a new snippet that nobody has named yet. */
  namesItself: boolean;
}

export const slotPart = (slot: Pick<Slot, "key">): string => `trigger ${slot.key}`;

/** Documents are small trees of plain values; what is left out is null. */
const same = (one: unknown, other: unknown): boolean => JSON.stringify(one ?? null) === JSON.stringify(other ?? null);

const values = (snippet: SnippetDocument, part: PartName) => parts[part].map((key) => snippet[key] ?? null);

const withPart = (snippet: SnippetDocument, part: PartName, from: SnippetDocument): SnippetDocument => ({
  ...snippet,
  ...Object.fromEntries(parts[part].map((key) => [key, from[key]])),
});

const isDirty = (saving: Saving, part: PartName) => !same(values(saving.draft, part), values(saving.clean, part));

/** A trigger that was just added has nothing to save until something is typed into it. */
const isSlotDirty = (slot: Slot) => !same(slot.kept, slot.now) && (slot.kept !== null || slot.now?.text !== "");

export function begin(answer: SnippetAnswer, namesItself = false): Saving {
  const slots = (answer.snippet.triggers ?? []).map((trigger, key) => ({ key, kept: trigger, now: trigger }));
  return {
    answer,
    kept: answer.snippet,
    clean: answer.snippet,
    draft: answer.snippet,
    slots,
    faults: {},
    nextKey: slots.length,
    generation: 0,
    namesItself,
  };
}

/** Something was changed on the page. */
export function changed(saving: Saving, change: Partial<SnippetDocument>): Saving {
  const draft = { ...saving.draft, ...change };
  if (change.name !== undefined) return { ...saving, draft, namesItself: false };
  const [was, is] = [proposedName(saving.draft), proposedName(draft)];
  if (!saving.namesItself || was === is) return { ...saving, draft };
  return { ...saving, draft: { ...draft, name: is === "" ? (saving.kept.name ?? "") : is } };
}

/** The body was exchanged for another one, past its editor. */
export const bodyExchanged = (saving: Saving, change: Pick<SnippetDocument, "body" | "text">): Saving => ({
  ...changed(saving, change),
  generation: saving.generation + 1,
});

/** A name for a snippet that has none yet: the first words that go in. */
const proposedName = ({ body, text }: SnippetDocument): string =>
  nameOf(text ?? (body ?? "").replaceAll(/<[^>]*>/g, " ").replaceAll(/&\w+;/g, " "));

export const triggerAdded = (saving: Saving, trigger: TriggerDocument): Saving => ({
  ...saving,
  slots: [...saving.slots, { key: saving.nextKey, kept: null, now: trigger }],
  nextKey: saving.nextKey + 1,
});

/** A trigger was changed, or taken away; one that was never kept is simply gone then. */
export const triggerChanged = (saving: Saving, key: number, now: TriggerDocument | null): Saving => ({
  ...saving,
  slots: saving.slots
    .map((slot) => (slot.key === key ? { ...slot, now } : slot))
    .filter((slot) => slot.now !== null || slot.kept !== null),
});

/** The snippet as it stands on the page. */
export const onPage = (saving: Saving): SnippetDocument => ({
  ...saving.draft,
  triggers: shownSlots(saving).map((slot) => slot.now),
});

export const shownSlots = (saving: Saving): (Slot & { now: TriggerDocument })[] =>
  saving.slots.filter((slot): slot is Slot & { now: TriggerDocument } => slot.now !== null);

/** The parts that stand here otherwise than they are kept. */
export const unsavedParts = (saving: Saving): string[] => [
  ...partNames.filter((part) => isDirty(saving, part)),
  ...saving.slots.filter(isSlotDirty).map(slotPart),
];

const valueOf = (saving: Saving, part: string): unknown => {
  const slot = saving.slots.find((other) => slotPart(other) === part);
  return slot ? slot.now : part in parts ? values(saving.draft, part as PartName) : null;
};

/** What is on its way to be saved. */
export interface Sent {
  edit: SnippetEdit;
  draft: SnippetDocument;
  slots: readonly Slot[];
}

/** What is to be sent now: the parts that changed, without those that were refused as they are. Undefined: nothing. */
export function toSend(saving: Saving): Sent | undefined {
  const wanted = (part: string) => {
    const fault = saving.faults[part];
    return !fault || !same(fault.refused, valueOf(saving, part));
  };
  const changedParts = partNames.filter((part) => isDirty(saving, part) && wanted(part));
  const slots = saving.slots.filter((slot) => isSlotDirty(slot) && wanted(slotPart(slot)));
  if (changedParts.length === 0 && slots.length === 0) return undefined;
  // Parts that did not change are left out on both sides; switches are there always and the same.
  const common: SnippetDocument = {
    enabled: saving.kept.enabled ?? true,
    private: saving.kept.private ?? false,
    leaveOnClipboard: saving.kept.leaveOnClipboard ?? false,
  };
  const before = changedParts.reduce((document, part) => withPart(document, part, saving.kept), common);
  const after = changedParts.reduce((document, part) => withPart(document, part, saving.draft), common);
  const triggers = slots.map((slot) => ({ before: slot.kept, after: slot.now }));
  return { edit: { before, after, triggers, freeName: saving.namesItself }, draft: saving.draft, slots };
}

/** The server has saved what it could. */
export function saved(saving: Saving, sent: Sent, { now, unsaved }: SnippetSaved): Saving {
  const faults: Record<string, Fault> = {};
  for (const part of unsavedParts(saving)) if (saving.faults[part]) faults[part] = saving.faults[part];
  const sentParts = partNames.filter((part) => !same(values(sent.edit.before, part), values(sent.edit.after, part)));
  let next: Saving = { ...saving, answer: now };
  for (const part of sentParts) {
    const refusal = unsaved.find((other) => other.part === part);
    if (refusal) {
      faults[part] = {
        why: refusal.why,
        conflict: refusal.conflict,
        refused: values(sent.draft, part),
      };
      continue;
    }
    delete faults[part];
    next = {
      ...next,
      kept: withPart(next.kept, part, now.snippet),
      clean: withPart(next.clean, part, sent.draft),
    };
    // A name that was proposed and is taken got a number behind it.
    if (part === "name" && next.namesItself && next.draft.name === sent.draft.name) {
      const named = { name: now.snippet.name ?? null };
      next = { ...next, clean: { ...next.clean, ...named }, draft: { ...next.draft, ...named } };
    }
  }
  const refusedSlots = new Map(
    sent.slots.map((slot, at) => [slot.key, unsaved.find((other) => other.part === `triggers[${at}]`)]),
  );
  const sentSlots = new Map(sent.slots.map((slot) => [slot.key, slot]));
  const slots = next.slots.flatMap((slot) => {
    const mine = sentSlots.get(slot.key);
    if (!mine) return [slot];
    const refusal = refusedSlots.get(slot.key);
    const part = slotPart(slot);
    if (refusal) {
      faults[part] = { why: refusal.why, conflict: refusal.conflict, refused: mine.now };
      return [slot];
    }
    delete faults[part];
    if (mine.now === null) return slot.now === null ? [] : [{ ...slot, kept: null }];
    // As it is kept it may be written with more words than it was sent with.
    const kept = keptAs(mine.now, now.snippet.triggers ?? []);
    return [{ ...slot, kept, now: same(slot.now, mine.now) ? kept : slot.now }];
  });
  return arrived({ ...next, slots, faults }, now);
}

/** How the server writes a trigger that it was sent: the one of its kind and text. */
const keptAs = (sent: TriggerDocument, kept: readonly TriggerDocument[]): TriggerDocument =>
  kept.find((other) => same(other, sent)) ??
  kept.find((other) => other.kind === sent.kind && other.text === sent.text) ??
  kept.find((other) => other.kind === sent.kind && other.text === sent.text?.normalize()) ??
  sent;

/** What is kept has become known anew: parts that were not touched here follow, the others stay as they stand. */
export function arrived(saving: Saving, answer: SnippetAnswer): Saving {
  let next: Saving = { ...saving, answer };
  for (const part of partNames) {
    if (isDirty(saving, part) || same(values(saving.kept, part), values(answer.snippet, part))) continue;
    next = {
      ...next,
      kept: withPart(next.kept, part, answer.snippet),
      clean: withPart(next.clean, part, answer.snippet),
      draft: withPart(next.draft, part, answer.snippet),
      generation: part === "body" ? next.generation + 1 : next.generation,
    };
  }
  return { ...next, ...followTriggers(next, answer.snippet.triggers ?? []) };
}

/** Slots that were not touched follow the triggers that are kept; those that were touched stay. */
function followTriggers(saving: Saving, kept: readonly TriggerDocument[]): Pick<Saving, "slots" | "nextKey"> {
  const left = [...kept];
  const take = (trigger: TriggerDocument | null) => {
    const at = left.findIndex((other) => same(other, trigger));
    if (at >= 0) left.splice(at, 1);
    return at >= 0;
  };
  const there = new Map(saving.slots.map((slot) => [slot.key, slot.kept !== null && take(slot.kept)]));
  // A strip that was just added is nobody's but this page's, whatever is kept.
  const isOwn = (slot: Slot) => slot.kept === null || isSlotDirty(slot);
  const slots = saving.slots.filter((slot) => there.get(slot.key) || isOwn(slot));
  let { nextKey } = saving;
  const order = (trigger: TriggerDocument | null) => kept.findIndex((other) => same(other, trigger));
  const came = left.map((trigger) => ({ key: nextKey++, kept: trigger, now: trigger }));
  if (came.length === 0) return { slots, nextKey };
  const clean = [...slots.filter((slot) => !isOwn(slot)), ...came];
  clean.sort((one, other) => order(one.kept) - order(other.kept));
  return { slots: [...clean, ...slots.filter(isOwn)], nextKey };
}

/** Of a part that was changed on both sides, the one that stands here is to be kept. */
export function keptMine(saving: Saving, part: string): Saving {
  const { [part]: _, ...faults } = saving.faults;
  if (part in parts) return { ...saving, faults, kept: withPart(saving.kept, part as PartName, saving.answer.snippet) };
  // A trigger whose other form is unknown here is added beside it.
  return {
    ...saving,
    faults,
    slots: saving.slots.map((slot) => (slotPart(slot) === part ? { ...slot, kept: null } : slot)),
  };
}

/** Of a part that was changed on both sides, the other one is to be kept. */
export function tookTheirs(saving: Saving, part: string): Saving {
  const { [part]: _, ...faults } = saving.faults;
  if (!(part in parts)) return { ...saving, faults, slots: saving.slots.filter((slot) => slotPart(slot) !== part) };
  const name = part as PartName;
  const theirs = saving.answer.snippet;
  return {
    ...saving,
    faults,
    kept: withPart(saving.kept, name, theirs),
    clean: withPart(saving.clean, name, theirs),
    draft: withPart(saving.draft, name, theirs),
    generation: name === "body" ? saving.generation + 1 : saving.generation,
  };
}

/** What the page keeps of unsaved work: what it was based on and what stands there. */
export interface Unsaved {
  /** Where a snippet is to be made that is not there yet; null for the first library. */
  place?: number | null;
  kept: SnippetDocument;
  draft: SnippetDocument;
  slots: readonly Slot[];
}

/** What is to be kept of unsaved work; undefined when all is saved. */
export function unsavedWork(saving: Saving): Unsaved | undefined {
  const unsaved = partNames.filter((part) => isDirty(saving, part));
  const slots = saving.slots.filter(isSlotDirty);
  if (unsaved.length === 0 && slots.length === 0) return undefined;
  return {
    ...(saving.answer.id === 0 ? { place: saving.answer.parentId || null } : {}),
    kept: unsaved.reduce<SnippetDocument>((document, part) => withPart(document, part, saving.kept), {}),
    draft: unsaved.reduce<SnippetDocument>((document, part) => withPart(document, part, saving.draft), {}),
    slots,
  };
}

/** Takes unsaved work up again, on what is kept by now. */
export function takenUp(answer: SnippetAnswer, work: Unsaved): Saving {
  let saving = begin(answer, answer.id === 0);
  for (const part of partNames) {
    if (!parts[part].some((key) => key in work.draft)) continue;
    if (same(values(work.draft, part), values(answer.snippet, part))) continue;
    saving = {
      ...saving,
      kept: withPart(saving.kept, part, work.kept),
      clean: withPart(saving.clean, part, work.kept),
      draft: withPart(saving.draft, part, work.draft),
    };
  }
  for (const slot of work.slots) {
    const mine = saving.slots.find((other) => same(other.kept, slot.kept) && slot.kept !== null);
    if (mine) saving = triggerChanged(saving, mine.key, slot.now);
    else if (slot.now && !(answer.snippet.triggers ?? []).some((other) => same(other, slot.now))) {
      saving = { ...saving, slots: [...saving.slots, { ...slot, key: saving.nextKey }], nextKey: saving.nextKey + 1 };
    }
  }
  return saving;
}

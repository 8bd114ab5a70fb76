import type { HostAnswer, Step } from "../api/client";
import { graphemes } from "../words/graphemes";
import { canPress, isText, isTyped } from "../ui/keys";

/** What the reducer must know of a field; it never touches one. */
export interface FieldDescription {
  /** Fields of one place share what was typed last. */
  place: string;
  app: string;
  /** What the field is called in its application. */
  name: string;
  kind: "rich" | "plain" | "markdown" | "single-line" | "secret";
}

/** Something that happened at the keyboard, in its turn. */
export type Work<F extends FieldDescription> =
  | { kind: "key"; field: F; key: string; held: boolean; composed: boolean; capsLock: boolean; atMs: number }
  | { kind: "focus" | "click" | "paste" | "settle" | "stopped"; field: F }
  | { kind: "choose"; field: F; snippetId: number; selection: string }
  | { kind: "pause"; field: F; atMs: number };

type KeyWork<F extends FieldDescription> = Extract<Work<F>, { kind: "key" }>;

/** What a question is about: a slip to fill in, or something that is to be opened. */
export type Question =
  | { kind: "slip"; number: number; slip: NonNullable<HostAnswer["slip"]> }
  | { kind: "open"; number: number; targets: string[] };

/** What is to be done now. */
export type Effect<F extends FieldDescription> =
  /** Ask the host; the answers come as `answered`, one for each work that was decided. */
  | { do: "send"; works: readonly Work<F>[] }
  /** Carry steps out in a field; its end comes as `carried`. */
  | { do: "carry"; field: F; steps: readonly Step[] }
  /** Stop carrying out. */
  | { do: "stop" }
  /** Put in what is on the page's clipboard. */
  | { do: "paste"; field: F }
  /** Take a composed text out of a field again, to be typed in its turn. */
  | { do: "take-out"; field: F; count: number }
  /** Ask the user; the answer comes as `replied` once the host has answered it. */
  | { do: "ask"; field: F; question: Question }
  /** The question is no longer asked. */
  | { do: "close-question" }
  /** Type keys into the slip that has just opened. */
  | { do: "type-into-slip"; keys: readonly string[] }
  /** Ask again at a time; never when it is null. */
  | { do: "wake"; field: F; atMs: number | null }
  /** Tell who looks what came of a work. */
  | { do: "tell"; work: Work<F>; answer: HostAnswer }
  /** Tell the user. */
  | { do: "say"; text: string };

/** What the host has said last of a place. */
interface Held {
  next: string;
  chords: readonly string[];
  givesWay: boolean;
}

/**
 * The page's side of the host protocol as a value: keys that are held back keep their order, one thing is decided at a time, and
 * nothing is decided while a text is being composed. {@link step} is the only way from one state to the next.
 */
export interface Hosting<F extends FieldDescription> {
  readonly connected: boolean;
  readonly busy: "no" | "deciding" | "carrying" | "asking";
  readonly queue: readonly Work<F>[];
  /** What was sent and is not answered yet. */
  readonly sent: readonly Work<F>[];
  /** The answers that wait until nothing is being composed. */
  readonly waiting: readonly HostAnswer[] | undefined;
  /** The field in which steps are being carried out. */
  readonly carrying: F | undefined;
  /** What is asked once the steps are carried out. */
  readonly question: { field: F; work: Work<F>; question: Question } | undefined;
  /** Whether a slip has been asked for and does not have the focus yet. */
  readonly slipOpening: boolean;
  readonly composing: boolean;
  readonly held: Readonly<Record<string, Held>>;
}

/** What can happen. */
export type Happening<F extends FieldDescription> =
  | { type: "key"; field: F; key: string; capsLock: boolean; atMs: number }
  | { type: "focus"; field: F; byKey: boolean }
  | { type: "changed"; field: F }
  | { type: "paste"; field: F }
  | { type: "choose"; field: F; snippetId: number; selection: string }
  | { type: "time"; field: F; atMs: number }
  | { type: "composing"; field: F }
  | { type: "composed"; field: F; text: string; atMs: number }
  | { type: "answered"; answers: readonly HostAnswer[] }
  | { type: "failed"; text: string }
  | { type: "carried"; stopped: boolean }
  | { type: "slip-ready" }
  | { type: "replied"; answer: HostAnswer }
  | { type: "connected"; focused: readonly F[] }
  | { type: "lost" };

export const idle: Hosting<never> = {
  connected: false,
  busy: "no",
  queue: [],
  sent: [],
  waiting: undefined,
  carrying: undefined,
  question: undefined,
  slipOpening: false,
  composing: false,
  held: {},
};

/** At most this many keys go to the host in one message. */
export const mostAtOnce = 500;

/** The state after something happened, what is to be done, and whether the key that happened is kept from the browser. */
export interface Next<F extends FieldDescription> {
  state: Hosting<F>;
  effects: Effect<F>[];
  hold: boolean;
}

export function step<F extends FieldDescription>(state: Hosting<F>, what: Happening<F>): Next<F> {
  const effects: Effect<F>[] = [];
  const [next, hold] = handle(state, what, effects);
  return { state: pump(next, effects), effects, hold };
}

function handle<F extends FieldDescription>(
  state: Hosting<F>,
  what: Happening<F>,
  effects: Effect<F>[],
): [Hosting<F>, boolean] {
  switch (what.type) {
    case "key":
      return pressed(state, what, effects);
    case "focus":
      return [focused(state, what.field, what.byKey), false];
    case "changed":
      return [added(state, { kind: "click", field: what.field }), false];
    case "paste":
      return [added(state, { kind: "paste", field: what.field }), false];
    case "choose":
      return [
        added(state, { kind: "choose", field: what.field, snippetId: what.snippetId, selection: what.selection }),
        false,
      ];
    case "time":
      return [added(state, { kind: "pause", field: what.field, atMs: what.atMs }), false];
    case "composing":
      return [{ ...state, composing: true }, false];
    case "composed":
      return [composed(state, what, effects), false];
    case "answered":
      return [answered({ ...state, waiting: what.answers }, effects), false];
    case "failed":
      return [failed(state, what.text, effects), false];
    case "carried":
      return [carried(state, what.stopped, effects), false];
    case "slip-ready":
      return [slipReady(state, effects), false];
    case "replied":
      return [replied(state, what.answer, effects), false];
    case "connected":
      return [connected(state, what.focused), false];
    default:
      return [lost(state, effects), false];
  }
}

function added<F extends FieldDescription>(state: Hosting<F>, ...works: Work<F>[]): Hosting<F> {
  return { ...state, queue: [...state.queue, ...works] };
}

function pressed<F extends FieldDescription>(
  state: Hosting<F>,
  { field, key, capsLock, atMs }: { field: F; key: string; capsLock: boolean; atMs: number },
  effects: Effect<F>[],
): [Hosting<F>, boolean] {
  if (state.busy === "carrying" && key === "Escape") {
    effects.push({ do: "stop" });
    return [state, true];
  }
  const pending = state.busy !== "no" || state.queue.length > 0;
  if (!state.connected && !pending) return [state, false];
  const held = state.held[field.place];
  const isChord = held?.chords.includes(key) ?? false;
  const mustHold = pending || isChord || held?.next === "everything" || (held?.next === "acting-keys" && !isText(key));
  const hold = isChord || (mustHold && canPress(key));
  const made = (one: string, composedText = false): KeyWork<F> => ({
    kind: "key",
    field,
    key: one,
    held: hold,
    composed: composedText,
    capsLock,
    atMs,
  });
  // A key of several letters is in the field as a whole, or is typed letter by letter.
  if (isText(key) && !isTyped(key))
    return [added(state, ...(hold ? graphemes(key).map((one) => made(one)) : [made(key, true)])), hold];
  // What the browser does on this key cannot be done for it, so what gives way is settled before the key is told.
  if (!hold && held?.givesWay && !isText(key)) return [added(state, { kind: "settle", field }, made(key)), false];
  return [added(state, made(key)), hold];
}

function focused<F extends FieldDescription>(state: Hosting<F>, field: F, byKey: boolean): Hosting<F> {
  const focus: Work<F> = { kind: "focus", field };
  if (!byKey) return added(state, focus);
  // A key that was carried out late moved the focus: what was typed behind it was meant for the new field.
  const moved = state.queue.map((work) => (work.kind === "key" && work.held ? { ...work, field } : work));
  return { ...state, queue: [focus, ...moved] };
}

/**
 * A composed text is in the field when it ends. Behind keys that wait it would come too early, and what is being decided would be
 * carried out around it: then it is taken out and typed in its turn.
 */
function composed<F extends FieldDescription>(
  state: Hosting<F>,
  { field, text, atMs }: { field: F; text: string; atMs: number },
  effects: Effect<F>[],
): Hosting<F> {
  const ended = { ...state, composing: false };
  const key = (one: string, isComposed: boolean): KeyWork<F> => ({
    kind: "key",
    field,
    key: one,
    held: !isComposed,
    composed: isComposed,
    capsLock: false,
    atMs,
  });
  const late = state.busy !== "no" || state.queue.length > 0;
  if (text === "" || (!late && !state.connected)) return answered(ended, effects);
  if (!late) return added(ended, key(text, true));
  const parts = graphemes(text);
  effects.push({ do: "take-out", field, count: parts.length });
  return answered(added(ended, ...parts.map((one) => key(one, false))), effects);
}

/** Carries out what was decided, once nothing is being composed. */
function answered<F extends FieldDescription>(state: Hosting<F>, effects: Effect<F>[]): Hosting<F> {
  const { waiting, sent } = state;
  if (waiting === undefined || state.composing || sent.length === 0) return state;
  const steps: Step[] = [];
  let next: Hosting<F> = {
    ...state,
    waiting: undefined,
    sent: [],
    queue: [...sent.slice(waiting.length), ...state.queue],
  };
  waiting.forEach((answer, at) => {
    const work = sent[at];
    if (!work) return;
    next = noted(next, work, answer, effects);
    steps.push(...answer.steps);
  });
  const last = sent[waiting.length - 1];
  if (!last) return { ...next, busy: "no" };
  return carryOut(next, last.field, steps, effects);
}

/** Remembers what is held back next, and what is asked. */
function noted<F extends FieldDescription>(
  state: Hosting<F>,
  work: Work<F>,
  answer: HostAnswer,
  effects: Effect<F>[],
): Hosting<F> {
  const { field } = work;
  const before = state.held[field.place];
  effects.push({ do: "tell", work, answer }, { do: "wake", field, atMs: answer.askAt });
  if (answer.problem !== null) effects.push({ do: "say", text: answer.problem });
  const number = answer.question ?? 0;
  const question: Question | undefined = answer.slip
    ? { kind: "slip", number, slip: answer.slip }
    : answer.opens
      ? { kind: "open", number, targets: answer.opens }
      : undefined;
  return {
    ...state,
    question: question && { field, work, question },
    held: {
      ...state.held,
      [field.place]: {
        next: answer.next,
        chords: answer.chords ?? before?.chords ?? [],
        givesWay: answer.askAt !== null,
      },
    },
  };
}

function carryOut<F extends FieldDescription>(
  state: Hosting<F>,
  field: F,
  steps: readonly Step[],
  effects: Effect<F>[],
): Hosting<F> {
  if (steps.length === 0) return carried(state, false, effects);
  effects.push({ do: "carry", field, steps });
  return { ...state, busy: "carrying", carrying: field };
}

function carried<F extends FieldDescription>(state: Hosting<F>, stopped: boolean, effects: Effect<F>[]): Hosting<F> {
  const field = state.carrying;
  const done: Hosting<F> = { ...state, busy: "no", carrying: undefined };
  if (stopped && field) return { ...done, question: undefined, queue: [{ kind: "stopped", field }, ...state.queue] };
  if (!state.question) return done;
  effects.push({ do: "ask", field: state.question.field, question: state.question.question });
  return { ...done, busy: "asking", slipOpening: state.question.question.kind === "slip" };
}

/** What was typed behind the abbreviation while its slip was opening is the slip's. */
function slipReady<F extends FieldDescription>(state: Hosting<F>, effects: Effect<F>[]): Hosting<F> {
  if (!state.slipOpening) return state;
  const mine = state.queue.filter((work) => work.kind === "key" && work.held);
  if (mine.length > 0)
    effects.push({ do: "type-into-slip", keys: mine.map((work) => (work.kind === "key" ? work.key : "")) });
  return { ...state, slipOpening: false, queue: state.queue.filter((work) => !mine.includes(work)) };
}

function replied<F extends FieldDescription>(state: Hosting<F>, answer: HostAnswer, effects: Effect<F>[]): Hosting<F> {
  const { question } = state;
  if (state.busy !== "asking" || !question) return state;
  effects.push({ do: "close-question" });
  const next = noted({ ...state, question: undefined, slipOpening: false }, question.work, answer, effects);
  return carryOut(next, question.field, answer.steps, effects);
}

/** The host could not be asked: nothing is lost, held keys are typed as they are. */
function failed<F extends FieldDescription>(state: Hosting<F>, text: string, effects: Effect<F>[]): Hosting<F> {
  effects.push({ do: "say", text });
  const { question } = state;
  if (question) effects.push({ do: "close-question" });
  const works = question ? [question.work] : state.sent;
  const next = { ...state, sent: [], waiting: undefined, question: undefined, slipOpening: false };
  return asTyped(next, works, effects);
}

/** Types held keys without asking anybody. */
function asTyped<F extends FieldDescription>(
  state: Hosting<F>,
  works: readonly Work<F>[],
  effects: Effect<F>[],
): Hosting<F> {
  const keys = works.filter((work): work is KeyWork<F> => work.kind === "key" && work.held);
  const first = keys[0];
  if (!first) return { ...state, busy: "no" };
  return carryOut(
    state,
    first.field,
    keys.map(({ key }) => ({ kind: "press", key })),
    effects,
  );
}

function connected<F extends FieldDescription>(state: Hosting<F>, fields: readonly F[]): Hosting<F> {
  return {
    ...state,
    connected: true,
    queue: [...fields.map((field): Work<F> => ({ kind: "focus", field })), ...state.queue],
  };
}

/** The link is lost: what is known of held keys is known no more, and what waits is typed as it is. */
function lost<F extends FieldDescription>(state: Hosting<F>, effects: Effect<F>[]): Hosting<F> {
  const next = { ...state, connected: false, held: {} };
  if (state.busy === "asking")
    return failed(next, "The program does not answer. What you typed stays as it is.", effects);
  return next;
}

/** Begins the next work when nothing is under way. */
function pump<F extends FieldDescription>(state: Hosting<F>, effects: Effect<F>[]): Hosting<F> {
  if (state.busy !== "no" || state.composing) return state;
  const [first, ...rest] = state.queue;
  if (!first) return state;
  if (!state.connected) {
    // One field at a time: a key may move the focus, and those behind it follow.
    const count = state.queue.findIndex((work) => work.kind !== "key" || work.field !== first.field);
    const taken = first.kind === "key" ? state.queue.slice(0, count < 0 ? undefined : count) : [first];
    const next = asTyped({ ...state, queue: state.queue.slice(taken.length) }, taken, effects);
    return pump(next, effects);
  }
  if (first.kind === "paste") effects.push({ do: "paste", field: first.field });
  let count = 1;
  if (first.kind === "key" && !first.composed)
    while (count < mostAtOnce && goesAlong(state.queue[count], first)) count++;
  const works = count === 1 ? [first] : state.queue.slice(0, count);
  effects.push({ do: "send", works });
  return { ...state, busy: "deciding", sent: works, queue: count === 1 ? rest : state.queue.slice(count) };
}

const goesAlong = <F extends FieldDescription>(work: Work<F> | undefined, first: KeyWork<F>): boolean =>
  work?.kind === "key" && !work.composed && work.field === first.field;

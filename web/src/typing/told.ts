import type { EngineState, HostAnswer, Preview, SlipMessage } from "../api/client";
import type { FieldDriver } from "./FieldDriver";
import type { FieldDescription } from "./hosting";

/** A field that the engine listens to. */
export interface Field extends FieldDescription {
  driver: FieldDriver;
}

/** What came of a key. */
export interface Decided {
  place: string;
  app: string;
  /** Whether the field hides what is typed; such keys are not to be shown or kept. */
  secret: boolean;
  key: string;
  held: boolean;
  answer: HostAnswer;
}

/** A slip that waits to be filled in or left. */
export interface OpenSlip {
  id: number;
  message: SlipMessage;
  /** What the snippet comes to with some answers. */
  preview: (answers: Record<string, string>) => Promise<Preview>;
  /** Its first field has the focus: what was typed meanwhile goes there. */
  ready: () => void;
  fill: (answers: Record<string, string>) => void;
  leave: () => void;
}

/** Something that is to be opened for the first time; it waits for a yes or no. */
export interface OpenQuestion {
  targets: readonly string[];
  answer: (yes: boolean) => void;
}

/** Something a delivery does beside the field. */
export type Aside = { kind: "open" | "notice"; text: string };

/** What the session tells, by name. */
export interface Told {
  decided: Decided;
  engine: EngineState;
  slip: OpenSlip | undefined;
  question: OpenQuestion | undefined;
  aside: Aside;
  /** How what is being typed may go on; nothing any more where it is null. */
  offer: HostAnswer["offer"];
  /** What would have put in what was just typed. */
  missed: NonNullable<HostAnswer["missed"]>;
  /** Which field got the focus, in order with the keys. */
  focused: Field;
  /** An application that is to come to the front. */
  goTo: string;
  /** A field that has refused to be pasted into. */
  refused: Field;
  /** Something that went wrong, in words for the user. */
  fault: string;
  /** Libraries, folders or snippets were changed, here or elsewhere. */
  changed: undefined;
  /** The keyboard link stands otherwise than before. */
  keyboard: undefined;
  /** The program answers, for the first time or again. */
  connected: undefined;
}

import createClient from "openapi-fetch";
import type { components, paths } from "./schema";
import { send } from "./sending";

type Schemas = components["schemas"];

type Told = Schemas["TypingContract"]["answer"];

export type LibraryTree = Schemas["LibraryTreeAnswer"];
export type LibraryNode = Schemas["LibraryNode"];
export type FolderNode = Schemas["FolderNode"];
export type TableRow = Schemas["TableRow"];
export type Rows = Schemas["RowsAnswer"];
export type TableView = Schemas["TableView"];
/** What of many snippets is to change. */
export type BulkRules = Schemas["BulkRules"];
export type SnippetEdit = Schemas["SnippetEdit"];
/** A piece of work that runs behind. */
export type WorkAnswer = Schemas["WorkAnswer"];
export type SnippetSaved = Schemas["SnippetSaved"];
export type Version = Schemas["VersionAnswer"];
export type Backup = Schemas["BackupAnswer"];
export type Binned = Schemas["BinnedAnswer"];
export type SnippetAnswer = Schemas["SnippetAnswer"];
export type SnippetDocument = Schemas["SnippetDocument"];
export type TriggerDocument = Schemas["TriggerDocument"];
/** What new snippets and their triggers begin with in a place. */
export type Defaults = Schemas["DefaultsDocument"];
export type ProgramChord = Schemas["ProgramChord"];
/** How the text that is being typed may go on. */
export type Offer = NonNullable<Told["offer"]>;
export type LearningSettings = Schemas["LearningSettings"];
/** What may be done with what is typed, and how much was learned. */
export type Learning = Schemas["LearningAnswer"];
/** A phrase that is worth a snippet. */
export type Sprout = Schemas["SproutAnswer"];
export type Phrase = Schemas["PhraseAnswer"];
export type Chances = Schemas["ChancesAnswer"];
export type Drill = Schemas["DrillAnswer"];
export type DrillQuestion = Schemas["DrillQuestion"];
export type SavingsAnswer = Schemas["SavingsAnswer"];
export type SavingsDay = Schemas["SavingsDay"];
export type SavingsShare = Schemas["SavingsShare"];
/** A ready-made library. */
export type Pack = Schemas["PackAnswer"];
export type PackList = Schemas["PackListAnswer"];
/** A library that is mirrored in a folder. */
export type Mirror = Schemas["MirrorAnswer"];
export type MirrorConflict = Schemas["MirrorConflictAnswer"];
export type MirrorLook = Schemas["MirrorLookAnswer"];
export type KeySet = Schemas["KeySetAnswer"];
export type Import = Schemas["ImportAnswer"];
export type ImportOptions = Schemas["ImportOptions"];
export type ImportPreview = Schemas["ImportPreview"];
export type ListLine = Schemas["ListLineAnswer"];
/** What the table shows of a trigger. */
export type TriggerSketch = Schemas["TriggerSketch"];
export type EngineState = Schemas["EngineState"];
/** The document has no way to say that a described object may be null. */
export type HostAnswer = Omit<Told, "slip" | "hint" | "offer" | "missed" | "trace"> & {
  slip: Told["slip"] | null;
  hint: Told["hint"] | null;
  offer: Told["offer"] | null;
  missed: Told["missed"] | null;
  trace: Told["trace"] | null;
};
export type KeyMessage = Schemas["TypingContract"]["key"];
export type RecalledKey = Schemas["TypingContract"]["recalled"];
export type Preview = Schemas["TypingContract"]["preview"];
export type Companion = Omit<Schemas["TypingContract"]["companion"], "slip"> & {
  slip: Told["slip"] | null;
};
export type KeyboardSettings = Schemas["KeyboardSettings"];
export type KeyboardAppDelivery = Schemas["KeyboardAppDelivery"];
export type SeenApp = Schemas["SeenApp"];
export type LinkCheck = Schemas["LinkCheckAnswer"];
export type FieldAnswer = Schemas["FieldAnswer"];
export type DateSettings = Schemas["DateSettings"];
export type Board = Schemas["BoardAnswer"];
export type Overlap = Schemas["OverlapAnswer"];
export type Misfire = Schemas["MisfireAnswer"];
export type DraftTrigger = Schemas["DraftTrigger"];
export type Suggestion = Schemas["SuggestionAnswer"];
export type Replayed = Schemas["ReplayAnswer"];
export type TypingSettings = Schemas["TypingSettings"];
export type NearestAbbreviation = Schemas["NearestAnswer"];
export type Found = Schemas["Found"];
export type SlipMessage = NonNullable<HostAnswer["slip"]>;
export type Step = HostAnswer["steps"][number];
export type Flow = NonNullable<Step["flow"]>;
export type Trace = NonNullable<HostAnswer["trace"]>;

/** A problem document (RFC 9457) as the server writes it. */
export interface Problem {
  title?: string;
  detail?: string;
  status?: number;
  errors?: Record<string, string[]>;
}

/** Thrown when the server refuses; its message is for the user. */
export class ApiError extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail ?? problem.title ?? "The server gave no answer. Is it still running?");
    this.problem = problem;
  }

  /** What is wrong with a field; undefined when nothing is said of it. */
  at(field: string): string | undefined {
    return this.problem.errors?.[field]?.[0];
  }
}

export const api = createClient<paths>({ baseUrl: "/", fetch: send });

/** The data of an answer; throws {@link ApiError} when there is none. */
export async function unwrap<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await answer.catch(() => {
    throw new ApiError({
      detail: "The program does not answer. Start it again, then do this once more.",
    });
  });
  if (!response.ok) throw new ApiError(error ?? {});
  return data as T;
}

import type { HubConnection } from "@microsoft/signalr";
import type { EngineState, HostAnswer, KeyMessage, Preview, RecalledKey } from "../api/client";
import { whenIdle } from "../ui/whenIdle";
import type { Work } from "./hosting";
import type { Field } from "./told";

/** The longest text of a selection or clipboard that the host takes, in UTF-16 units. */
export const mostUnits = 1_000_000;

/** A text for the host; null when it is too long, so that it is said and not cut. */
export const fitting = (text: string): string | null => (text.length <= mostUnits ? text : null);

/** However busy the page is, it is opened after this time. */
const longestIdleMs = 400;

interface Listener {
  connected: () => void;
  lost: () => void;
  changed: () => void;
  keyboard: () => void;
  engine: (state: EngineState) => void;
}

/** The connection to the hosts on the server: it carries messages and comes back by itself. */
export class HostLink {
  private connection: HubConnection | undefined;
  private opening: Promise<void> | undefined;
  private isConnected = false;

  constructor(private readonly listener: Listener) {
    // What carries the messages is loaded once the first view is there, which need not wait for it.
    whenIdle(() => this.open(), longestIdleMs);
  }

  /** Opens the connection now; once it is being opened nothing more happens. */
  open(): void {
    this.opening ??= this.connect();
  }

  get connected(): boolean {
    return this.isConnected;
  }

  /** Asks the host about works in their order; answers come for those that were decided. */
  async ask(works: readonly Work<Field>[]): Promise<readonly HostAnswer[]> {
    const [first] = works;
    if (!first) return [];
    const { place, app, kind, name } = first.field;
    switch (first.kind) {
      case "key":
        return this.invoke<HostAnswer[]>("Press", place, works.flatMap(keyMessage));
      case "focus":
        return [await this.invoke<HostAnswer>("Focus", { place, app, field: kind, name })];
      case "choose":
        return [await this.invoke<HostAnswer>("Choose", place, first.snippetId, fitting(first.selection))];
      case "pause":
        return [await this.invoke<HostAnswer>("Pause", place, first.atMs)];
      case "settle":
        return [await this.invoke<HostAnswer>("Settle", place)];
      case "stopped":
        return [await this.invoke<HostAnswer>("Stopped", place)];
      default:
        return [await this.invoke<HostAnswer>("Click", place)];
    }
  }

  fillSlip = (place: string, question: number, answers: Record<string, string>) =>
    this.invoke<HostAnswer>("FillSlip", place, question, answers);

  confirmOpen = (place: string, question: number) => this.invoke<HostAnswer>("ConfirmOpen", place, question);

  leave = (place: string, question: number) => this.invoke<HostAnswer>("LeaveSlip", place, question);

  previewSlip = (place: string, question: number, answers: Record<string, string>) =>
    this.invoke<Preview>("PreviewSlip", place, question, answers);

  explain = (place: string) => this.invoke<RecalledKey[]>("Explain", place);

  tellClipboard = (place: string, text: string) => this.invoke<undefined>("Clipboard", place, fitting(text));

  record = (place: string, on: boolean) => this.invoke<string | null>("Record", place, on);

  look = (place: string, looks: boolean) => this.invoke<undefined>("Look", place, looks);

  private invoke<T>(method: string, ...values: unknown[]): Promise<T> {
    if (!this.connection) return Promise.reject(new Error("The program does not answer yet."));
    return this.connection.invoke<T>(method, ...values);
  }

  private async connect(): Promise<void> {
    const { HubConnectionBuilder, LogLevel } = await import("@microsoft/signalr");
    const connection = new HubConnectionBuilder()
      .withUrl("/hub/typing")
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: () => 1000 })
      .configureLogging(LogLevel.None)
      .build();
    connection.on("engine", (state: EngineState) => this.listener.engine(state));
    connection.on("changed", () => this.listener.changed());
    connection.on("keyboard", () => this.listener.keyboard());
    connection.onreconnecting(() => this.lost());
    connection.onreconnected(() => this.found());
    this.connection = connection;
    await this.start(connection);
  }

  private async start(connection: HubConnection): Promise<void> {
    try {
      await connection.start();
      this.found();
    } catch {
      // The program is not there yet, or not any more; it is looked for again.
      this.lost();
      setTimeout(() => void this.start(connection), 1000);
    }
  }

  private found(): void {
    this.isConnected = true;
    this.listener.connected();
  }

  private lost(): void {
    this.isConnected = false;
    this.listener.lost();
  }
}

function keyMessage(work: Work<Field>): KeyMessage[] {
  if (work.kind !== "key") return [];
  const { key, capsLock, atMs, held, composed, field } = work;
  // Only what is pressed while something may be selected can use the selection.
  const selection = held && !composed ? fitting(field.driver.selectedText()) : "";
  return [{ key, capsLock, atMs, held, composed, selection, endsLine: field.driver.endsLine() }];
}

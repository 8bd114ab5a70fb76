import { App } from "antd";
import { useEffect, useMemo, useState, type ComponentType } from "react";
import { keyLabel } from "../words/ruleWords";
import { TraceText } from "../typing/TraceText";
import { typingSession } from "../typing/TypingSession";
import type { Decided } from "../typing/told";
import { ClipboardPanel } from "./ClipboardPanel";
import { Console } from "./Console";
import {
  closed,
  deskApps,
  deskPlace,
  deskWindows,
  firstArrangement,
  isAddress,
  isDeskApp,
  moved,
  opened,
  Windows,
  type Arrangement,
  type DeskAppId,
} from "../words/deskApps";
import { FeeSheet } from "./FeeSheet";
import { LogBook } from "./LogBook";
import { Files, WebTabs } from "./Opened";
import { PermitPortal } from "./PermitPortal";
import { Phone } from "./Phone";
import { Post } from "./Post";
import { RadioChat } from "./RadioChat";
import { RecordKeys } from "./RecordKeys";
import { useKept } from "./useKept";
import "./desk.css";

const mostKeys = 40;

const windows: Record<DeskAppId, ComponentType> = {
  post: Post,
  "log-book": LogBook,
  "radio-chat": RadioChat,
  "fee-sheet": FeeSheet,
  console: Console,
  "permit-portal": PermitPortal,
  "web-tabs": WebTabs,
  files: Files,
  phone: Phone,
};

/** The stand-in desktop: small applications with real fields, and what the engine made of each key. */
export default function DeskView() {
  const { message } = App.useApp();
  const [arrangement, setArrangement] = useKept<Arrangement>("arrangement", firstArrangement);

  useEffect(() => {
    const show = (app: DeskAppId) => {
      setArrangement((before) => opened(before, app));
      focusWindow(app);
    };
    const stops = [
      typingSession.on("goTo", (app) => isDeskApp(app) && setArrangement((before) => opened(before, app))),
      typingSession.on("aside", ({ kind, text }) => {
        if (kind !== "open") return;
        const app = text.startsWith("app:") ? text.slice(4) : "";
        // An application that stands on the desk comes to the front; everything else is shown where it was opened.
        if (isDeskApp(app)) show(app);
        else setArrangement((before) => opened(before, isAddress(text) ? "web-tabs" : "files"));
      }),
      typingSession.on("refused", () => void message.warning("This field refuses pasting.")),
    ];
    return () => stops.forEach((stop) => stop());
  }, [message, setArrangement]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!event.altKey || event.ctrlKey || event.metaKey) return;
      const focused = windowOf(document.activeElement);
      const act = () => {
        if (/^[1-8]$/.test(event.key)) {
          const app = deskApps[Number(event.key) - 1]!.id;
          setArrangement((before) => opened(before, app));
          focusWindow(app);
        } else if (!focused) return false;
        else if (event.key === "0") setArrangement((before) => closed(before, focused));
        else if (event.key === "9") setArrangement((before) => filled(before, focused));
        else if (event.shiftKey && event.key === "ArrowLeft") setArrangement((before) => moved(before, focused, -1));
        else if (event.shiftKey && event.key === "ArrowRight") setArrangement((before) => moved(before, focused, 1));
        else return false;
        return true;
      };
      if (!act()) return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    document.addEventListener("keydown", onKey, { capture: true });
    return () => document.removeEventListener("keydown", onKey, { capture: true });
  }, [setArrangement]);

  const actions = useMemo(
    () => ({
      arrangement,
      close: (app: DeskAppId) => setArrangement((before) => closed(before, app)),
      fill: (app: DeskAppId) => setArrangement((before) => filled(before, app)),
      move: (app: DeskAppId, by: number) => setArrangement((before) => moved(before, app, by)),
    }),
    [arrangement, setArrangement],
  );

  const shown = arrangement.filled === null ? arrangement.open.length : 1;
  return (
    <Windows value={actions}>
      <div className="desk">
        <h1 className="visually-hidden">Desk</h1>
        <nav className="desk-apps" aria-label="Applications">
          {deskWindows.map(({ id, name }, at) => (
            <button
              key={id}
              type="button"
              aria-pressed={arrangement.open.includes(id)}
              title={at < deskApps.length ? `Alt+${at + 1}` : undefined}
              onClick={() => {
                setArrangement((before) => opened(before, id));
                focusWindow(id);
              }}
            >
              {name}
            </button>
          ))}
          <RecordKeys />
        </nav>
        <div className="tiles" data-columns={shown <= 1 ? 1 : shown <= 4 ? 2 : 3}>
          {arrangement.open.map((id) => {
            const Window = windows[id];
            return <Window key={id} />;
          })}
          {arrangement.open.length === 0 && (
            <p className="soft">Open an application above, or with Alt and its number.</p>
          )}
        </div>
        <div className="desk-side">
          <KeyLog />
          <ClipboardPanel />
        </div>
      </div>
    </Windows>
  );
}

const filled = (before: Arrangement, app: DeskAppId): Arrangement => ({
  ...before,
  filled: before.filled === app ? null : app,
});

function windowOf(element: Element | null): DeskAppId | undefined {
  const id = element?.closest<HTMLElement>("[data-window]")?.dataset["window"];
  return id !== undefined && isDeskApp(id) ? id : undefined;
}

/** Gives the focus to a window's first field: now when it is there, else as soon as it is. */
function focusWindow(app: DeskAppId, tries = 3): void {
  const holder = document.querySelector(`[data-window="${app}"]:not([hidden])`);
  const first = holder?.querySelector<HTMLElement>(".tiptap") ?? holder?.querySelector<HTMLElement>("[data-first]");
  if (first) first.focus();
  else if (tries > 0) requestAnimationFrame(() => focusWindow(app, tries - 1));
}

function KeyLog() {
  const [keys, setKeys] = useState<(Decided & { count: number })[]>([]);
  useEffect(() => {
    const stops = [
      typingSession.look(deskPlace),
      typingSession.on("decided", (decided) => {
        if (decided.place !== deskPlace || decided.secret || !decided.answer.trace) return;
        setKeys((before) => [{ ...decided, count: (before[0]?.count ?? 0) + 1 }, ...before.slice(0, mostKeys - 1)]);
      }),
    ];
    return () => stops.forEach((stop) => stop());
  }, []);
  return (
    <section className="side-panel key-log" aria-label="What the engine made of each key">
      <h2>Why</h2>
      {keys.length === 0 ? (
        <p className="soft">Type in an application. Each key is explained here, the latest on top.</p>
      ) : (
        // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a region that scrolls must be reachable by keyboard
        <ol tabIndex={0} aria-label="Keys, latest first">
          {keys.map(({ key, answer, count }) => (
            <li key={count} data-event={answer.trace?.event}>
              <kbd>{key === "" ? "–" : keyLabel(key)}</kbd>
              {answer.trace && <TraceText trace={answer.trace} />}
              {answer.hint && <span className="soft"> → {answer.hint.preview}</span>}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

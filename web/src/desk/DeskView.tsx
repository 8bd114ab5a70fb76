import { App } from "antd";
import { useEffect, useState } from "react";
import { typingSession, type Decided } from "../typing/TypingSession";
import { TraceText } from "../typing/TraceText";
import { keyLabel } from "../snippet/ruleWords";
import { Console } from "./Console";
import { LogBook } from "./LogBook";
import { Post } from "./Post";
import "./desk.css";

export const deskPlace = "desk";
const mostKeys = 40;

/** The stand-in desktop: small applications with real fields, and what the engine made of each key. */
export default function DeskView() {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!event.altKey || event.ctrlKey || !/^[1-3]$/.test(event.key)) return;
      event.preventDefault();
      document.querySelector<HTMLElement>(`[data-window="${event.key}"] [data-first]`)?.focus();
      document.querySelector<HTMLElement>(`[data-window="${event.key}"] .tiptap`)?.focus();
    };
    document.addEventListener("keydown", onKey);
    return () => document.removeEventListener("keydown", onKey);
  }, []);
  const { notification } = App.useApp();
  useEffect(
    () =>
      typingSession.onAside(({ kind, text }) =>
        notification.open({ title: kind === "open" ? "Opens" : "Notice", description: text, duration: 8 }),
      ),
    [notification],
  );
  return (
    <div className="desk">
      <Post />
      <LogBook />
      <Console />
      <KeyLog />
    </div>
  );
}

function KeyLog() {
  const [keys, setKeys] = useState<(Decided & { count: number })[]>([]);
  useEffect(
    () =>
      typingSession.onDecided((decided) => {
        if (decided.place !== deskPlace) return;
        setKeys((before) => [{ ...decided, count: (before[0]?.count ?? 0) + 1 }, ...before.slice(0, mostKeys - 1)]);
      }),
    [],
  );
  return (
    <section className="window key-log" aria-label="What the engine made of each key">
      <header>Why</header>
      {keys.length === 0 ? (
        <p className="soft">Type in an application. Each key is explained here, the latest on top.</p>
      ) : (
        // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a region that scrolls must be reachable by keyboard
        <ol tabIndex={0} aria-label="Keys, latest first">
          {keys.map(({ key, decision, count }) => (
            <li key={count} data-event={decision.trace?.event}>
              <kbd>{key === "" ? "pause" : keyLabel(key)}</kbd>
              {decision.trace && <TraceText trace={decision.trace} />}
              {decision.hint && <span className="soft"> → {decision.hint.firstWords}</span>}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

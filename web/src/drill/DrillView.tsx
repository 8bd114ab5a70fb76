import { useQuery } from "@tanstack/react-query";
import { Button, Progress } from "antd";
import { useEffect, useEffectEvent, useLayoutEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api, unwrap, type Drill } from "../api/client";
import { queryClient } from "../api/queries";
import { typingSession } from "../typing/TypingSession";
import type { Decided } from "../typing/told";
import { useTypingControl } from "../typing/useTypingControl";
import { begun, drillMinutes, next, timeLeft, type DrillEvent, type Drilling } from "./drill";
import "./drill.css";

const drillKey = ["drill"];

/** Practice of one's own abbreviations: those that one forgets come again soon, the others later and later. */
export default function DrillView() {
  const { data, error } = useQuery({ queryKey: drillKey, queryFn: () => unwrap(api.GET("/api/drill")) });
  const [drilling, setDrilling] = useState<Drilling>();
  if (error) return <div className="page fault">{error.message}</div>;
  if (!data) return <div className="loading soft">Choosing …</div>;
  return (
    <div className="page drill">
      <h1>Drill</h1>
      {drilling && drilling.left.length > 0 ? (
        <Round drilling={drilling} onChange={setDrilling} />
      ) : (
        <>
          {drilling && (
            <p role="status" className="drill-done">
              Done: {drilling.known} known{drilling.unknown > 0 && `, ${drilling.unknown} to learn`}.
            </p>
          )}
          {data.questions.length === 0 ? (
            <p>
              Nothing is due today. What you know comes again after {"1, 3, 7, 14 and 30"} days; new abbreviations come
              as soon as you have some in your <Link to="/libraries">libraries</Link>.
            </p>
          ) : (
            <>
              <p>
                {data.questions.length === 1 ? "One abbreviation is" : `${data.questions.length} abbreviations are`}{" "}
                due. You see what goes in and type what sets it off; five minutes a day are enough.
              </p>
              <Button type="primary" autoFocus onClick={() => setDrilling(begun(data.questions))}>
                {drilling ? "Go on" : "Begin"}
              </Button>
            </>
          )}
          <Figures drill={data} />
        </>
      )}
    </div>
  );
}

function Round({ drilling, onChange }: { drilling: Drilling; onChange: (now: Drilling) => void }) {
  const [turn, setTurn] = useState(0);
  const asked = drilling.left[0]!;
  const [end] = useState(() => Date.now() + drillMinutes * 60_000);
  const [left, setLeft] = useState(drillMinutes * 60);

  const happened = (event: DrillEvent) => {
    const { now, told } = next(drilling, event);
    if (told)
      void unwrap(api.POST("/api/drill/answers", { body: told })).then((drill) =>
        queryClient.setQueryData(drillKey, drill),
      );
    onChange(now);
    // Each answer has a field of its own, so that nothing of the last one stands before it.
    setTurn((before) => before + 1);
  };
  const stop = () => onChange({ ...drilling, left: [] });
  const onDecided = useEffectEvent(({ place, answer }: Decided) => {
    const went = place === "drill" ? answer.fired.find(({ outcome }) => outcome === "inserted") : undefined;
    if (went) happened({ kind: "fired", snippetId: went.snippetId, snippet: went.snippet });
  });
  useEffect(() => typingSession.on("decided", (decided) => onDecided(decided)), []);
  const onSecond = useEffectEvent(() => {
    const seconds = (end - Date.now()) / 1000;
    setLeft(seconds);
    if (seconds <= 0) stop();
  });
  useEffect(() => {
    const timer = setInterval(() => onSecond(), 500);
    return () => clearInterval(timer);
  }, []);

  const done = drilling.known + drilling.unknown;
  return (
    <div className="drill-round">
      <div className="drill-progress">
        <Progress
          percent={Math.round((100 * drilling.known) / Math.max(1, drilling.known + drilling.left.length))}
          showInfo={false}
          aria-label="How much of the drill is done"
        />
        <span className="soft" aria-hidden>
          {timeLeft(left)}
        </span>
      </div>
      <div className="drill-card" aria-live="polite">
        <p className="drill-name">{asked.name}</p>
        <p className="drill-text">{asked.goesIn}</p>
      </div>
      <label htmlFor="drill-field">
        What do you type for it?{asked.closes && <span className="soft"> With a closing key, such as Space.</span>}
      </label>
      <DrillField key={turn} onUnknown={() => happened({ kind: "unknown" })} />
      <p role="status" className="drill-said">
        {drilling.shown ? (
          <>
            It is <span className="tag">{asked.trigger}</span>. Type it once; it comes again at the end.
          </>
        ) : drilling.other !== undefined ? (
          <>That sets “{drilling.other}” off. Try again.</>
        ) : (
          <span className="soft">{done === 0 ? "Escape shows it when you do not know." : "\u00A0"}</span>
        )}
      </p>
      <div className="drill-acts">
        <Button disabled={drilling.shown} onClick={() => happened({ kind: "unknown" })}>
          I do not know
        </Button>
        <Button type="text" onClick={() => happened({ kind: "skipped" })}>
          Leave it out today
        </Button>
        <Button type="text" onClick={stop}>
          Stop
        </Button>
      </div>
    </div>
  );
}

function DrillField({ onUnknown }: { onUnknown: () => void }) {
  const field = useRef<HTMLInputElement>(null);
  useTypingControl(field, { place: "drill", app: "drill", name: "Drill", kind: "plain" });
  // At once: what is typed right behind an answer is the next one.
  useLayoutEffect(() => field.current?.focus(), []);
  return (
    <input
      id="drill-field"
      className="drill-field"
      ref={field}
      autoComplete="off"
      spellCheck={false}
      onKeyDown={(event) => {
        if (event.key === "Escape") onUnknown();
      }}
    />
  );
}

function Figures({ drill }: { drill: Drill }) {
  const all = Math.max(1, drill.known + drill.learning + drill.new);
  const parts = [
    { name: "known", count: drill.known },
    { name: "learning", count: drill.learning },
    { name: "new", count: drill.new },
  ];
  return (
    <section aria-labelledby="drill-progress" className="drill-figures">
      <h2 id="drill-progress">How far you have come</h2>
      <div className="drill-boxes" aria-hidden>
        {parts.map(({ name, count }) => (
          <span key={name} className={`drill-part ${name}`} style={{ inlineSize: `${(100 * count) / all}%` }} />
        ))}
      </div>
      <ul>
        {parts.map(({ name, count }) => (
          <li key={name}>
            <span className={`drill-mark ${name}`} aria-hidden /> {count} {name}
          </li>
        ))}
      </ul>
      {drill.days.length > 0 && (
        <table className="drill-days">
          <thead>
            <tr>
              <th scope="col">Day</th>
              <th scope="col">Known</th>
              <th scope="col">Not known</th>
            </tr>
          </thead>
          <tbody>
            {drill.days.slice(0, 10).map(({ day, known, unknown }) => (
              <tr key={day}>
                <th scope="row">{day}</th>
                <td>{known}</td>
                <td>{unknown}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="soft">
        By Leitner’s boxes: what you knew is asked again after 1, 3, 7, 14 and 30 days, what you did not begins anew.
        Corrections and what asks for fields are not practised.
      </p>
    </section>
  );
}

import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, unwrap, type NearestAbbreviation, type RecalledKey, type Trace } from "../api/client";
import { ruleAddress } from "../words/safetyWords";
import { appName, keyLabel } from "../words/ruleWords";
import { foldedKeys } from "./foldedKeys";
import { SideDialog } from "../ui/SideDialog";
import { ReasonText, TraceText } from "../typing/TraceText";
import { typingSession } from "../typing/TypingSession";
import { typedTail } from "../typing/typedTail";

const shownKeys = 40;

/** Why did nothing happen? The last keys, the nearest abbreviation, and the rule that kept it back. */
export default function WhyDrawer({ open, onClose }: { open: boolean; onClose: () => void }) {
  // What was typed is explained when somebody asks, and not before.
  const { data: past, error } = useQuery({
    queryKey: ["why"],
    queryFn: () => typingSession.explain(),
    enabled: open,
    staleTime: 0,
    gcTime: 0,
  });
  return (
    <SideDialog open={open} onClose={onClose} title="Why did nothing happen?" size={520}>
      {error && <p className="fault">{error.message}</p>}
      {past === undefined ? null : past.length === 0 ? (
        <p className="soft">Nothing was typed here yet. Type on the desk or the proof line, then open this again.</p>
      ) : (
        <>
          <Verdict past={past} onClose={onClose} />
          <h3 className="why-title">The last keys</h3>
          <ol className="why-keys">
            {foldedKeys(past.slice(-shownKeys)).map((one, at) =>
              one.kind === "key" ? (
                <li key={at}>
                  <kbd>{keyLabel(one.key.key)}</kbd> <TraceText trace={one.key.trace} />
                </li>
              ) : (
                <li key={at} className="soft">
                  {one.keys.map(({ key }, place) => (
                    <kbd key={place}>{keyLabel(key)}</kbd>
                  ))}{" "}
                  nothing came of {one.keys.length === 1 ? "it" : "these"}
                </li>
              ),
            )}
          </ol>
        </>
      )}
    </SideDialog>
  );
}

function Verdict({ past, onClose }: { past: readonly RecalledKey[]; onClose: () => void }) {
  const blocking = lastObstacle(past);
  const typed = typedTail(past);
  const { data: nearest } = useQuery({
    queryKey: ["nearest", typed],
    queryFn: () => unwrap(api.POST("/api/engine/nearest", { body: { typed } })),
    enabled: typed.trim() !== "",
    gcTime: 0,
  });
  const last = past.at(-1);
  if (last?.trace.event === "resting")
    return <p className="why-verdict">The engine is resting. Press “resting” at the top to let it listen.</p>;
  return (
    <div className="why-verdict">
      {blocking && (
        <p>
          <ReasonText why={blocking.why} />.{" "}
          {blocking.snippetId !== null && blocking.rule !== null && (
            <Link to={ruleAddress(blocking.snippetId, triggerIn(blocking.why), blocking.rule)} onClick={onClose}>
              {blocking.rule === "switch" ? "Open the snippet" : "Change this rule"}
            </Link>
          )}
        </p>
      )}
      {nearest
        ?.filter((near) => near.slips > 0 || !blocking)
        .map((near) => (
          <p key={`${near.snippetId} ${near.trigger}`}>
            <Near near={near} app={last?.app ?? ""} />{" "}
            <Link to={ruleAddress(near.snippetId, near.trigger, "letters")} onClick={onClose}>
              Open it
            </Link>
          </p>
        ))}
      {!blocking && last?.trace.event === "fires" && (
        <p>
          It did: <TraceText trace={last.trace} />
        </p>
      )}
      {!blocking && last?.trace.event !== "fires" && typed.trim() !== "" && nearest?.length === 0 && (
        <p>No abbreviation is near what you typed last.</p>
      )}
      {!blocking && last?.trace.event !== "fires" && typed.trim() === "" && (
        <p>Nothing was kept back: what you typed last did what it should.</p>
      )}
    </div>
  );
}

function Near({ near, app }: { near: NearestAbbreviation; app: string }) {
  const from = (
    <>
      <span className="tag">{near.trigger}</span> ({near.snippet} in {near.library})
    </>
  );
  if (near.slips > 0)
    return (
      <>
        Near it is {from}: you typed <span className="mono">{near.typed}</span>, {near.slips}{" "}
        {near.slips === 1 ? "letter" : "letters"} off.
      </>
    );
  return near.active ? (
    <>
      You typed {from} as it is in {appName(app)}; the last key says what it did.
    </>
  ) : (
    <>{from} is off.</>
  );
}

/** The latest reason that kept something back, among the keys since the last firing. */
function lastObstacle(past: readonly RecalledKey[]): Trace["reasons"][number] | undefined {
  for (const { trace } of past.toReversed()) {
    if (trace.event === "fires") return undefined;
    if (trace.event === "near-miss" || trace.event === "waits" || trace.event === "quiet")
      return trace.reasons.find((reason) => reason.rule !== null) ?? trace.reasons[0];
  }
  return undefined;
}

const triggerIn = (why: string): string => /`([^`]+)`/.exec(why)?.[1] ?? "";

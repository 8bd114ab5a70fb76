import { HubConnectionBuilder, LogLevel, type HubConnection } from "@microsoft/signalr";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import type { Companion, Preview } from "../api/client";
import { FinderBox } from "../finder/parts";
import { FillSlip, OpenTargets } from "../slips/parts";
import { recordedName } from "../gather";
import { GatherForm } from "../gather/parts";
import type { OpenSlip } from "../typing/told";
import "./companion.css";

const titles: Record<string, string> = {
  finder: "Find a snippet",
  gather: "New snippet",
  recorded: "New snippet of recorded keys",
  open: "Open this?",
};

/** The link is quiet in windows whose name begins with it. */
const ownTitle = "Dash Sprout";

const titleOf = (shown: Companion): string => shown.slip?.snippet ?? titles[shown.kind] ?? "";

/**
 * The page of the companion window: the finder, a slip, a question or a new snippet, over whatever application the user is in. It says when
 * its first field has the keyboard, so that what is typed meanwhile goes there.
 */
export default function CompanionPage() {
  const [shown, setShown] = useState<Companion>();
  const [fault, setFault] = useState<string>();
  const [inFront, setInFront] = useState(0);
  const show = useCallback((now: Companion | undefined) => {
    setShown(now);
    setFault(undefined);
  }, []);
  const hub = useCompanionHub(show);
  const box = useRef<HTMLElement>(null);

  const number = shown?.number ?? 0;
  const tell = useCallback(
    (method: string, ...given: unknown[]) =>
      void hub.invoke(method, number, ...given).catch((error: unknown) => setFault((error as Error).message)),
    [hub, number],
  );
  const leave = useCallback(() => tell("Leave"), [tell]);

  useLayoutEffect(() => {
    if (!shown) return undefined;
    const first =
      box.current?.querySelector<HTMLElement>("[data-first]") ??
      box.current?.querySelector<HTMLElement>("[data-answer], input");
    first?.focus();
    if (first instanceof HTMLInputElement) first.select();
    tell("Ready", false);
    // A window that comes back from hiding does not always say so by an event; every frame it draws is a look.
    let said = false;
    let frame = 0;
    const look = () => {
      cancelAnimationFrame(frame);
      if (said) return;
      frame = requestAnimationFrame(look);
      if (!document.hasFocus()) return;
      if (!box.current?.contains(document.activeElement)) first?.focus();
      said = true;
      // The window's name says what it asks, as soon as it hears the keys.
      document.title = `${ownTitle} – ${titleOf(shown)}`;
      tell("Ready", true);
      setInFront(shown.number);
    };
    look();
    window.addEventListener("focus", look);
    document.addEventListener("visibilitychange", look);
    return () => {
      said = true;
      document.title = ownTitle;
      cancelAnimationFrame(frame);
      window.removeEventListener("focus", look);
      document.removeEventListener("visibilitychange", look);
    };
  }, [shown, tell]);

  const slip = useMemo<OpenSlip | undefined>(() => {
    if (!shown?.slip) return undefined;
    return {
      id: shown.number,
      message: shown.slip,
      preview: (answers) => hub.invoke<Preview>("Preview", shown.number, answers),
      ready: () => {},
      fill: (answers) => tell("Fill", answers),
      leave,
    };
  }, [shown, hub, tell, leave]);

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "Escape" || !shown) return;
    event.preventDefault();
    leave();
  };

  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- Escape leaves from anywhere in it
    <main className="companion" ref={box} onKeyDown={onKeyDown}>
      {shown && <h1>{titleOf(shown)}</h1>}
      {fault && (
        <p className="fault" role="alert">
          {fault}
        </p>
      )}
      {shown?.kind === "finder" && (
        <FinderBox
          key={shown.number}
          putsIn
          waits={inFront !== shown.number}
          onLeave={leave}
          onPutIn={(snippetId) => tell("Choose", snippetId)}
        />
      )}
      {shown?.kind === "gather" && <GatherForm key={shown.number} start={{ text: shown.text ?? "" }} onDone={leave} />}
      {shown?.kind === "recorded" && (
        <GatherForm key={shown.number} start={{ name: recordedName(), html: shown.text ?? "" }} onDone={leave} />
      )}
      {slip && <FillSlip key={slip.id} slip={slip} />}
      {shown?.opens && (
        <>
          <OpenTargets targets={shown.opens} />
          <div className="companion-actions">
            <button type="button" className="slip-put-in" data-first onClick={() => tell("Confirm")}>
              Open
            </button>
            <button type="button" className="plain-button" onClick={leave}>
              Leave it <kbd>Escape</kbd>
            </button>
          </div>
        </>
      )}
    </main>
  );
}

/** The wire to the link; it comes back by itself and asks what is to be shown. */
function useCompanionHub(show: (shown: Companion | undefined) => void): HubConnection {
  const [hub] = useState(() =>
    new HubConnectionBuilder()
      .withUrl("/hub/companion")
      .withAutomaticReconnect({
        nextRetryDelayInMilliseconds: ({ previousRetryCount }) => Math.min(200 * 2 ** previousRetryCount, 3000),
      })
      .configureLogging(LogLevel.None)
      .build(),
  );
  useEffect(() => {
    const ask = () => void hub.invoke<Companion | null>("Begin").then((now) => show(now ?? undefined));
    hub.on("show", show);
    hub.on("clear", () => show(undefined));
    hub.onreconnected(ask);
    let ended = false;
    const start = () =>
      void hub.start().then(ask, () => {
        // The program is not there yet, or not any more; it is tried again.
        if (!ended) setTimeout(start, 1000);
      });
    start();
    return () => {
      ended = true;
      hub.off("show");
      hub.off("clear");
      void hub.stop();
    };
  }, [hub, show]);
  return hub;
}

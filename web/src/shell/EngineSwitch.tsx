import { useEffect, useState } from "react";
import { api, unwrap } from "../api/client";
import { keys, queryClient, useEngine } from "../api/queries";
import { appName, keyLabel } from "../words/ruleWords";
import { typingSession } from "../typing/TypingSession";
import { SproutIcon } from "./icons";
import { Menu } from "../ui/Menu";
import { toast } from "../ui/toasts";

export interface RestChange {
  listening: boolean;
  forMinutes?: number;
  app?: string;
}

/** Lets the engine rest or listen, everywhere or in one application. */
export async function changeRest({ listening, forMinutes, app }: RestChange): Promise<void> {
  const body = { listening, forMinutes: forMinutes ?? null, app: app ?? null };
  queryClient.setQueryData(keys.engine, await unwrap(api.PUT("/api/engine", { body })));
}

/** Whether the engine listens or rests, always in sight, and the ways to change it. */
export function EngineSwitch() {
  const { data } = useEngine();
  useEffect(() => typingSession.on("engine", (state) => queryClient.setQueryData(keys.engine, state)), []);
  // A rest that ends by itself is asked about when its time is over.
  useEffect(() => {
    if (data?.until == null) return undefined;
    const timer = setTimeout(
      () => void queryClient.invalidateQueries({ queryKey: keys.engine }),
      Math.min(data.until - Date.now() + 200, 2 ** 31 - 1),
    );
    return () => clearTimeout(timer);
  }, [data?.until]);

  const listening = data?.listening ?? true;
  // Where one was typing when the menu was opened.
  const [app, setApp] = useState<string>();
  const change = async (wanted: RestChange) => {
    try {
      await changeRest(wanted);
    } catch (error) {
      toast((error as Error).message, { kind: "fault" });
    }
  };

  const until = data?.until == null ? "" : ` until ${clockTime(data.until)}`;
  const apps = data?.restingApps ?? [];
  return (
    <span className="engine">
      <button
        type="button"
        role="switch"
        aria-checked={listening}
        className="engine-switch"
        onClick={() => void change({ listening: !listening })}
        title={`${listening ? "Abbreviations go off as you type. Press to let the engine rest." : "Nothing goes off now. Press to let the engine listen."} ${keyLabel(data?.settings.chords.rest ?? "")}`}
      >
        <SproutIcon resting={!listening} />
        {listening ? "listening" : `resting${until}`}
      </button>
      {listening && apps.length > 0 && <span className="caution rests-in">not in {apps.map(appName).join(", ")}</span>}
      <Menu
        label="▾"
        name="Rest for a time or in an application"
        className="plain-button"
        onOpen={() => setApp(typingSession.lastField?.app)}
        items={[
          { label: "Rest for 15 minutes", act: () => void change({ listening: false, forMinutes: 15 }) },
          { label: "Rest for an hour", act: () => void change({ listening: false, forMinutes: 60 }) },
          {
            label: "Rest until tomorrow morning",
            act: () => void change({ listening: false, forMinutes: minutesToMorning() }),
          },
          ...(app && !apps.includes(app)
            ? [{ label: `Rest in ${appName(app)}`, act: () => void change({ listening: false, app }) }]
            : []),
          ...apps.map((other) => ({
            label: `Listen in ${appName(other)} again`,
            act: () => void change({ listening: true, app: other }),
          })),
        ]}
      />
    </span>
  );
}

const clockTime = (ms: number): string =>
  new Date(ms).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

function minutesToMorning(): number {
  const morning = new Date();
  morning.setDate(morning.getDate() + 1);
  morning.setHours(7, 0, 0, 0);
  return Math.ceil((morning.getTime() - Date.now()) / 60_000);
}

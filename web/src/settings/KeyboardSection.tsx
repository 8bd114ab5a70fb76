import { App, Button, Checkbox, InputNumber } from "antd";
import { useState } from "react";
import {
  api,
  unwrap,
  type KeyboardAppDelivery,
  type KeyboardSettings,
  type LinkCheck,
  type SeenApp,
} from "../api/client";
import { keys, queryClient, useKeyboard } from "../api/queries";
import { AppIcon } from "../ui/AppIcon";
import { ChordInput } from "../ui/ChordInput";

/** The link to the desktop's keyboard: whether it is there, what is wrong, and how text reaches each application. */
export function KeyboardSection() {
  const { message } = App.useApp();
  const { data } = useKeyboard();
  const [check, setCheck] = useState<LinkCheck>();
  const [checking, setChecking] = useState(false);
  if (!data) return null;
  const { settings } = data;
  const save = async (part: Partial<KeyboardSettings>) => {
    try {
      const saved = await unwrap(api.PUT("/api/keyboard", { body: { ...settings, ...part } }));
      queryClient.setQueryData(keys.keyboard, saved);
      void message.success("Saved");
    } catch (problem) {
      void message.error((problem as Error).message, 6);
    }
  };
  const run = async () => {
    setChecking(true);
    try {
      setCheck(await unwrap(api.POST("/api/keyboard/check")));
    } catch (problem) {
      void message.error((problem as Error).message, 6);
    } finally {
      setChecking(false);
    }
  };
  const deliver = (app: string, delivery: KeyboardAppDelivery | undefined) =>
    void save({ apps: [...settings.apps.filter((other) => other.app !== app), ...(delivery ? [delivery] : [])] });
  return (
    <section aria-labelledby="keyboard" className="keyboard">
      <h2 id="keyboard">Keyboard</h2>
      <p>
        The keyboard link lets your snippets go off in every application of this desktop, and not only on the desk and
        in the proof line.
      </p>
      <div className="typing-setting">
        <Checkbox checked={settings.enabled} onChange={(event) => void save({ enabled: event.target.checked })}>
          Link to the desktop whenever Dash Sprout starts
        </Checkbox>
      </div>
      <div className="typing-setting">
        <Checkbox checked={settings.hints} onChange={(event) => void save({ hints: event.target.checked })}>
          Show near the caret what a waiting abbreviation would become
        </Checkbox>
      </div>
      <div className="typing-setting">
        <Checkbox checked={settings.tray} onChange={(event) => void save({ tray: event.target.checked })}>
          Show Dash Sprout in the desktop’s tray
        </Checkbox>
      </div>
      <p role="status" className={data.problem ? "caution" : undefined}>
        {data.linked
          ? `Linked to display ${data.display}, layout ${data.layouts.join(", ")}.`
          : (data.problem ?? "Not linked.")}
      </p>
      {data.sessionProblem != null && <p className="caution">{data.sessionProblem}</p>}
      <Button loading={checking} onClick={() => void run()}>
        Check the link
      </Button>
      {check && (
        <ul className="keyboard-check" aria-label="What the check found">
          {check.lines.map((line) => (
            <li key={line.what} className={line.isGood ? undefined : "caution"}>
              <strong>{line.what}</strong> {line.words}
            </li>
          ))}
          {check.medianMs !== null && check.medianMs !== undefined && (
            <li>
              <strong>Time</strong> From a key to its window: {check.medianMs} ms in the middle.
            </li>
          )}
        </ul>
      )}
      <h3>How text reaches applications</h3>
      {data.apps.length === 0 ? (
        <p className="soft">Applications show here once you have typed in them while the link is on.</p>
      ) : (
        <table className="keyboard-apps">
          <thead>
            <tr>
              <th scope="col">Application</th>
              <th scope="col">Pastes with</th>
              <th scope="col">Always type</th>
              <th scope="col">Pause after a key</th>
              <th scope="col">
                <span className="visually-hidden">Usual way</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.apps.map((app) => (
              <AppRow
                key={app.id}
                app={app}
                chosen={settings.apps.find((one) => one.app === app.id)}
                onChange={(delivery) => deliver(app.id, delivery)}
              />
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

interface AppRowProps {
  app: SeenApp;
  chosen: KeyboardAppDelivery | undefined;
  onChange: (delivery: KeyboardAppDelivery | undefined) => void;
}

function AppRow({ app, chosen, onChange }: AppRowProps) {
  const now: KeyboardAppDelivery = chosen ?? {
    app: app.id,
    pasteChord: app.isTerminal ? "Shift+Insert" : "Ctrl+V",
    alwaysType: false,
    delayMs: 0,
  };
  return (
    <tr>
      <th scope="row">
        <AppIcon app={app} /> {app.name}
        {app.isTerminal && <span className="soft"> (a terminal)</span>}
      </th>
      <td>
        <ChordInput
          label={`Chord that pastes in ${app.name}`}
          chord={now.pasteChord}
          onChange={(pasteChord) => onChange({ ...now, pasteChord })}
        />
      </td>
      <td>
        <Checkbox
          aria-label={`Always type in ${app.name}`}
          checked={now.alwaysType}
          onChange={(event) => onChange({ ...now, alwaysType: event.target.checked })}
        />
      </td>
      <td>
        <InputNumber
          aria-label={`Pause after a key in ${app.name}, in milliseconds`}
          min={0}
          max={50}
          value={now.delayMs}
          suffix="ms"
          onChange={(delayMs) => delayMs !== null && delayMs !== now.delayMs && onChange({ ...now, delayMs })}
        />
      </td>
      <td>
        {chosen && (
          <Button size="small" onClick={() => onChange(undefined)} aria-label={`The usual way in ${app.name}`}>
            Usual way
          </Button>
        )}
      </td>
    </tr>
  );
}

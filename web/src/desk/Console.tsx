import { useEffect, useRef, type KeyboardEvent } from "react";
import { useTypingControl } from "../typing/useTypingControl";
import { runCommand } from "./commands";
import { deskPlace } from "../words/deskApps";
import { DeskWindow } from "./DeskWindow";
import { useKept } from "./useKept";

/** A prompt where Enter runs a few harmless commands. */
export function Console() {
  const field = useRef<HTMLInputElement>(null);
  const end = useRef<HTMLDivElement>(null);
  const [lines, setLines] = useKept<{ prompt: boolean; text: string }[]>("console", [
    { prompt: false, text: "Gullhaven harbour console. Type help for its commands." },
  ]);
  useTypingControl(field, { place: deskPlace, app: "console", name: "Prompt", kind: "single-line" });
  useEffect(() => {
    end.current?.scrollIntoView({ block: "end" });
  }, [lines]);

  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key !== "Enter") return;
    event.preventDefault();
    const command = event.currentTarget.value;
    event.currentTarget.value = "";
    const output = runCommand(command).map((text) => ({ prompt: false, text }));
    setLines((before) => [...before.slice(-200), { prompt: true, text: command }, ...output]);
  };

  return (
    <DeskWindow app="console">
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a region that scrolls must be reachable by keyboard */}
      <div className="console-lines" role="log" tabIndex={0} aria-label="Output">
        {lines.map((line, at) => (
          <div key={at}>
            {line.prompt && <span className="prompt">harbour$ </span>}
            {line.text}
          </div>
        ))}
        <div ref={end} />
      </div>
      <div className="console-prompt">
        <label htmlFor="console-prompt" className="prompt">
          harbour$
        </label>
        <input id="console-prompt" data-first ref={field} autoComplete="off" spellCheck={false} onKeyDown={onKeyDown} />
      </div>
    </DeskWindow>
  );
}

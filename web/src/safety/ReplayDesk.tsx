import { Button, Input, Select } from "antd";
import { useRef, useState } from "react";
import { FileInput } from "../ui/FileInput";
import { api, unwrap, type Replayed } from "../api/client";
import { applications } from "../words/ruleWords";
import { TriggerLink } from "./OverlapSentence";
import { perTenThousand } from "../words/safetyWords";

const longest = 5 * 1024 * 1024;

type State =
  | { kind: "nothing" }
  | { kind: "working"; stop: AbortController }
  | { kind: "done"; answer: Replayed }
  | { kind: "refused"; why: string };

/** Types a text of one's own into the engine and shows every place where something would have gone off. */
export function ReplayDesk() {
  const [text, setText] = useState("");
  const [app, setApp] = useState("post");
  const [state, setState] = useState<State>({ kind: "nothing" });
  const [dropping, setDropping] = useState(false);
  const picker = useRef<HTMLInputElement>(null);

  const replay = async (given: string) => {
    const stop = new AbortController();
    setState({ kind: "working", stop });
    try {
      const answer = await unwrap(api.POST("/api/safety/replay", { body: { text: given, app }, signal: stop.signal }));
      setState({ kind: "done", answer });
    } catch (error) {
      setState(stop.signal.aborted ? { kind: "nothing" } : { kind: "refused", why: (error as Error).message });
    }
  };

  const take = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > longest) {
      setState({ kind: "refused", why: `${file.name} is larger than 5 MB. Replay a part of it.` });
      return;
    }
    const content = await file.text();
    setText(content.length > 20_000 ? `${content.slice(0, 20_000)}\n…` : content);
    await replay(content);
  };

  return (
    <div
      className={`replay${dropping ? " dropping" : ""}`}
      onDragOver={(event) => {
        event.preventDefault();
        setDropping(true);
      }}
      onDragLeave={() => setDropping(false)}
      onDrop={(event) => {
        event.preventDefault();
        setDropping(false);
        void take(event.dataTransfer.files[0]);
      }}
    >
      <div className="replay-in">
        <Input.TextArea
          rows={5}
          aria-label="Text to replay"
          placeholder="Paste letters, notes or code that you wrote, or drop a text file here. It stays on this machine and is not kept."
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <div className="replay-actions">
          <label>
            as typed in{" "}
            <Select
              value={app}
              aria-label="Application"
              options={applications.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={setApp}
            />
          </label>
          <Button onClick={() => picker.current?.click()}>Choose a file …</Button>
          {state.kind === "working" ? (
            <Button onClick={() => state.stop.abort()}>Stop</Button>
          ) : (
            <Button type="primary" disabled={text.trim() === ""} onClick={() => void replay(text)}>
              Replay
            </Button>
          )}
          <FileInput
            ref={picker}
            accept="text/*,.md,.txt,.csv,.log"
            label="Text file"
            onFile={(file) => void take(file)}
          />
        </div>
      </div>
      {state.kind === "working" && <p role="status">Typing it into the engine …</p>}
      {state.kind === "refused" && (
        <p role="alert" className="fault">
          {state.why}
        </p>
      )}
      {state.kind === "done" && <Places answer={state.answer} />}
    </div>
  );
}

function Places({ answer }: { answer: Replayed }) {
  if (answer.places === 0)
    return <p role="status">Nothing would have gone off in these {answer.words.toLocaleString("en")} words.</p>;
  return (
    <>
      <p role="status">
        {answer.places.toLocaleString("en")} {answer.places === 1 ? "place" : "places"} in{" "}
        {answer.words.toLocaleString("en")} words.
      </p>
      {answer.groups.map((group) => (
        <details key={`${group.trigger.snippetId} ${group.trigger.trigger}`} className="replay-group" open>
          <summary>
            <TriggerLink {...group.trigger} />
            <span>
              {group.count} × · {perTenThousand(group.per10kWords)} in 10&nbsp;000 words here,{" "}
              {group.forecast === null ? "no forecast" : `${perTenThousand(group.forecast)} forecast`}
            </span>
          </summary>
          <ol>
            {group.places.map((place) => (
              <li key={place.offset}>
                <span className="soft">{place.before}</span>
                <mark>{place.match}</mark>
                <span className="soft">{place.after}</span>
              </li>
            ))}
            {group.count > group.places.length && (
              <li className="soft">and {group.count - group.places.length} more</li>
            )}
          </ol>
        </details>
      ))}
    </>
  );
}

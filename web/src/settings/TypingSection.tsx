import { useQuery } from "@tanstack/react-query";
import { App, Button, Checkbox } from "antd";
import { api, unwrap, type TypingSettings } from "../api/client";
import { queryClient } from "../api/queries";
import { ChordInput } from "../snippet/ChordInput";
import "../snippet/snippet.css";

const key = ["settings", "typing"];

const chords = [
  ["finderChord", "Open the finder"],
  ["quickAddChord", "Make a snippet of what is selected or on the clipboard"],
  ["restChord", "Let the engine rest, and listen again"],
  ["recordChord", "Record keys, and make a snippet of them"],
] as const;

/** How the engine treats what is typed. */
export function TypingSection() {
  const { message } = App.useApp();
  const { data } = useQuery({ queryKey: key, queryFn: () => unwrap(api.GET("/api/settings/typing")) });
  if (!data) return null;
  const save = async (part: Partial<TypingSettings>) => {
    try {
      queryClient.setQueryData(key, await unwrap(api.PUT("/api/settings/typing", { body: { ...data, ...part } })));
      void message.success("Saved");
    } catch (problem) {
      void message.error((problem as Error).message, 6);
    }
  };
  return (
    <section aria-labelledby="typing">
      <h2 id="typing">Typing</h2>
      <div className="typing-setting">
        <Checkbox checked={data.takeBack} onChange={(event) => void save({ takeBack: event.target.checked })}>
          Take a text back right after it went in, with
        </Checkbox>
        <ChordInput
          label="Take-back chord"
          chord={data.takeBackChord}
          onChange={(takeBackChord) => void save({ takeBackChord })}
        />
      </div>
      <div className="typing-setting">
        <Checkbox checked={data.hints} onChange={(event) => void save({ hints: event.target.checked })}>
          Show what an abbreviation would become while it waits for its closing key
        </Checkbox>
      </div>
      <div className="typing-setting">
        <Checkbox
          checked={data.linkTargets === true}
          onChange={(event) => void save({ linkTargets: event.target.checked })}
        >
          In fields without formatting, put a link’s address behind its words
        </Checkbox>
      </div>
      <div className="typing-setting">
        <Checkbox
          checked={data.recentAnswers !== false}
          onChange={(event) => void save({ recentAnswers: event.target.checked })}
        >
          Offer answers given before in slips; they are kept on this machine only
        </Checkbox>
        <Button
          size="small"
          onClick={() =>
            void unwrap(api.DELETE("/api/recent-answers")).then(
              () => message.success("Forgotten"),
              (problem: Error) => message.error(problem.message, 6),
            )
          }
        >
          Forget them
        </Button>
      </div>
      {chords.map(([setting, label]) => (
        <div key={setting} className="typing-setting chord-setting">
          <span>{label}</span>
          <ChordInput label={label} chord={data[setting] ?? ""} onChange={(chord) => void save({ [setting]: chord })} />
        </div>
      ))}
    </section>
  );
}

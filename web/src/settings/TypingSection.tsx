import { useQuery } from "@tanstack/react-query";
import { App, Button, Checkbox } from "antd";
import { Link } from "react-router";
import { api, unwrap, type TypingSettings } from "../api/client";
import { keys, queryClient } from "../api/queries";

/** How the engine treats what is typed. */
export function TypingSection() {
  const { message } = App.useApp();
  const { data } = useQuery({ queryKey: keys.typingSettings, queryFn: () => unwrap(api.GET("/api/settings/typing")) });
  if (!data) return null;
  const save = async (part: Partial<TypingSettings>) => {
    try {
      queryClient.setQueryData(
        keys.typingSettings,
        await unwrap(api.PUT("/api/settings/typing", { body: { ...data, ...part } })),
      );
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
          A chord takes a text back right after it went in
        </Checkbox>
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
      <p className="soft">
        What may be learned from your typing, and what is offered while you type, is chosen under{" "}
        <Link to="/sprouts">Sprouts</Link>.
      </p>
    </section>
  );
}

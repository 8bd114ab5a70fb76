import { Button, Checkbox, Radio, Select } from "antd";
import { useId, useState } from "react";
import { api, unwrap, type LearningSettings } from "../api/client";
import { keys, queryClient } from "../api/queries";
import { useRefusal } from "../ui/useRefusal";
import { ChordInput } from "../ui/ChordInput";
import { scopes } from "../words/ruleWords";
import { ScopeApps } from "../rules/ScopeApps";
import { keepChoices, takeKeys } from "./learningWords";

const otherKey = "other";

/** What is named at first where applications are named: the one in which people write, and the one in which they type pass-phrases. */
const usualApps: Readonly<Record<string, string[]>> = { "only-in": ["post"], "not-in": ["console"] };

/** The choice of what may be done with what is typed: nothing, until it is made. */
export function LearningChoice({ settings, onDone }: { settings: LearningSettings; onDone: () => void }) {
  const first = !settings.chosen;
  const [draft, setDraft] = useState(settings);
  const [otherKeyWanted, setOtherKeyWanted] = useState(!takeKeys.some(({ key }) => key === settings.takeKey));
  const [refusal, attempt] = useRefusal();
  const [whereId, keepId, takeId] = [useId(), useId(), useId()];
  const change = (part: Partial<LearningSettings>) => setDraft({ ...draft, ...part });
  const save = (chosen: LearningSettings) =>
    attempt(async () => {
      queryClient.setQueryData(keys.learning, await unwrap(api.PUT("/api/learning/settings", { body: chosen })));
      void queryClient.invalidateQueries({ queryKey: keys.learning });
      onDone();
    });
  const ticked = draft.learns || draft.offers || draft.misses;
  const { mode = "everywhere", apps } = draft.scope;
  return (
    <form
      className="learning-choice"
      onSubmit={(event) => {
        event.preventDefault();
        void save(draft);
      }}
    >
      <p>
        {first
          ? "Dash Sprout can tell which texts are worth a snippet, and help you with what you type again and again. It needs to look at what you type for that, so it asks first."
          : "What Dash Sprout may do with what you type."}
      </p>
      <fieldset>
        <legend>What it may do</legend>
        <Checkbox checked={draft.learns} onChange={(event) => change({ learns: event.target.checked })}>
          Remember phrases that come back, and propose snippets for them
        </Checkbox>
        <Checkbox checked={draft.offers} onChange={(event) => change({ offers: event.target.checked })}>
          Offer the rest when you begin a phrase or a snippet’s text
        </Checkbox>
        <Checkbox checked={draft.misses} onChange={(event) => change({ misses: event.target.checked })}>
          Say so when you typed a text in full although a snippet has it
        </Checkbox>
      </fieldset>
      <fieldset>
        <legend>Where</legend>
        <Radio.Group
          id={whereId}
          aria-label="Where"
          value={mode}
          onChange={(event) => {
            const chosen = event.target.value as string;
            const { mode: before, apps: named } = settings.scope;
            change({ scope: { mode: chosen, apps: (chosen === before ? named : usualApps[chosen]) ?? [] } });
          }}
          options={Object.entries(scopes).map(([value, { long }]) => ({ value, label: long }))}
        />
        {mode !== "everywhere" && (
          <ScopeApps apps={apps ?? []} onChange={(chosen) => change({ scope: { mode, apps: chosen } })} />
        )}
        <p className="soft">
          Leave out where you type pass-phrases; terminals are left out unless named under “Only in these applications”.
          What was learned only in applications that you leave out is forgotten.
        </p>
      </fieldset>
      <div className="learning-fields">
        <label htmlFor={keepId}>Forget a phrase that I have not typed for</label>
        <Select
          id={keepId}
          value={draft.keepDays}
          options={keepChoices.map(({ days, label }) => ({ value: days, label }))}
          onChange={(keepDays: number) => change({ keepDays })}
        />
        <label htmlFor={takeId}>The key that takes what is offered</label>
        <span className="learning-take">
          <Select
            id={takeId}
            value={otherKeyWanted ? otherKey : draft.takeKey}
            options={[
              ...takeKeys.map(({ key, label }) => ({ value: key, label })),
              { value: otherKey, label: "another chord" },
            ]}
            onChange={(key: string) => {
              setOtherKeyWanted(key === otherKey);
              if (key !== otherKey) change({ takeKey: key });
            }}
          />
          {otherKeyWanted && (
            <ChordInput
              label="The key that takes what is offered"
              functionKeys
              chord={draft.takeKey}
              onChange={(takeKey) => change({ takeKey })}
            />
          )}
        </span>
      </div>
      <details open={first}>
        <summary>What is kept, and what never is</summary>
        <ul>
          <li>Everything stays on this machine, sealed in one file that no backup and no mirror folder has.</li>
          <li>
            A phrase has 3 to 12 words. It is kept once it came back; what you type once is only counted, without its
            text. In rare cases one is taken for another that came before, and is kept at once.
          </li>
          <li>
            Never learned: what is typed in fields for pass-phrases, numbers of cards and accounts, words that look like
            pass-phrases, texts of private snippets, and what you erased, undid or took back.
          </li>
          <li>You see all of it under “Remembered”, and delete any of it, or all with one click.</li>
        </ul>
      </details>
      {refusal !== undefined && (
        <p className="fault" role="alert">
          {refusal}
        </p>
      )}
      <div className="learning-acts">
        {first && (
          <Button type="primary" onClick={() => void save({ ...draft, learns: true, offers: true, misses: true })}>
            Allow all three
          </Button>
        )}
        <Button type={first ? "default" : "primary"} htmlType="submit" disabled={first && !ticked}>
          {first ? "Allow what is ticked" : "Keep this"}
        </Button>
        {first ? (
          <Button onClick={() => void save({ ...draft, learns: false, offers: false, misses: false })}>
            Allow nothing
          </Button>
        ) : (
          <Button onClick={onDone}>Leave it as it was</Button>
        )}
      </div>
    </form>
  );
}

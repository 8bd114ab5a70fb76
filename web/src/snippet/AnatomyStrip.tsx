import { Checkbox, Input, Radio } from "antd";
import { useState, type ReactNode } from "react";
import type { TriggerDocument } from "../api/client";
import { FormPopover } from "../ui/FormPopover";
import { ChordInput } from "../ui/ChordInput";
import { ClosingKeys } from "../rules/ClosingKeys";
import { ScopeApps } from "../rules/ScopeApps";
import { chosenRules, keyLabel, leftEdges, letterCases, scopes, scopeWords, timings } from "../words/ruleWords";

interface Props {
  trigger: TriggerDocument;
  /** The library's closing keys. */
  libraryKeys: string[];
  error?: string | undefined;
  /** The rule that somebody came here to change. */
  rule?: string | undefined;
  onChange: (part: Partial<TriggerDocument>) => void;
  onRemove: () => void;
  /** Tab in the letters; whether it went somewhere of its own. */
  onTab: () => boolean;
}

const kindNames = { abbreviation: "Typed letters", pattern: "Typed pattern", hotkey: "Hotkey" } as const;

/**
 * A trigger drawn as what one types: the left edge, the letters, the closing key, what stays behind. Every segment is
 * the rule for its place.
 */
export function AnatomyStrip({ trigger, libraryKeys, error, rule, onChange, onRemove, onTab }: Props) {
  const timing = trigger.timing ?? "closing-key";
  const closes = timing !== "at-once";
  const keys = trigger.closingKeys ?? libraryKeys;
  const typed = trigger.kind !== "hotkey";
  const kindName = kindNames[(trigger.kind ?? "abbreviation") as keyof typeof kindNames];
  const chosen = chosenRules(trigger);
  const scope = trigger.scope ?? { mode: "everywhere", apps: [] };

  return (
    <div className="strip-holder">
      <div className="strip" data-kind={trigger.kind}>
        {typed && (
          <Segment
            title="Left edge"
            value={<>{leftEdges[(trigger.leftEdge ?? "word") as keyof typeof leftEdges].short}</>}
            chosen={chosen.has("leftEdge")}
            begin={rule === "left-edge"}
          >
            <Choice
              words={leftEdges}
              value={trigger.leftEdge}
              label="What may stand before it"
              onChange={(leftEdge) => onChange({ leftEdge })}
            />
          </Segment>
        )}
        <div className={`segment letters${error ? " wrong" : ""}`}>
          <span className="segment-title">{kindName}</span>
          {typed ? (
            <Input
              variant="borderless"
              className="letters-input"
              aria-label={kindName}
              aria-invalid={error !== undefined}
              spellCheck={false}
              autoComplete="off"
              autoFocus={rule === "letters"}
              onKeyDown={(event) => {
                if (event.key === "Tab" && !event.shiftKey && trigger.text !== "" && onTab()) event.preventDefault();
              }}
              value={trigger.text ?? ""}
              placeholder={trigger.kind === "pattern" ? "regular expression, such as b\\d+" : "abbreviation"}
              onChange={(event) => onChange({ text: event.target.value })}
            />
          ) : (
            <ChordInput label={kindName} chord={trigger.text ?? ""} onChange={(text) => onChange({ text })} />
          )}
          {typed && (
            <FormPopover
              name="Letter case"
              begin={rule === "letter-case"}
              content={
                <Choice
                  words={letterCases}
                  value={trigger.case}
                  label="Letter case"
                  onChange={(letterCase) => onChange({ case: letterCase })}
                />
              }
            >
              <button type="button" className={chosen.has("case") ? "under chosen" : "under"}>
                {letterCases[(trigger.case ?? "either") as keyof typeof letterCases].short}
              </button>
            </FormPopover>
          )}
        </div>
        {typed && (
          <Segment
            title="Goes off"
            chosen={chosen.has("timing")}
            begin={rule === "timing"}
            value={
              closes ? (
                <span className="closing-keys">
                  {keys.slice(0, 2).map((key) => (
                    <kbd key={key}>{keyLabel(key)}</kbd>
                  ))}
                  {keys.length > 2 && <span className="soft"> +{keys.length - 2}</span>}
                  {timing === "double-closing-key" && " twice"}
                </span>
              ) : (
                "at once"
              )
            }
          >
            <Choice
              words={timings}
              value={timing}
              label="When it goes off"
              onChange={(next) => onChange({ timing: next, keepClosingKey: next !== "double-closing-key" })}
            />
            {closes ? (
              <ClosingKeys
                label="Its own closing keys instead of the library’s"
                keys={trigger.closingKeys ?? null}
                otherwise={libraryKeys}
                onChange={(closingKeys) => onChange({ closingKeys })}
              />
            ) : (
              <Checkbox
                checked={trigger.givesWay ?? true}
                onChange={(event) => onChange({ givesWay: event.target.checked })}
              >
                Give way to a longer abbreviation that begins alike
              </Checkbox>
            )}
          </Segment>
        )}
        {typed && (
          <Segment
            title="Stays behind"
            chosen={chosen.has("keep")}
            value={closes ? (trigger.keepClosingKey === false ? "nothing" : "the closing key") : "no closing key"}
          >
            {closes ? (
              <Radio.Group
                className="choice"
                value={trigger.keepClosingKey ?? true}
                onChange={(event) => onChange({ keepClosingKey: event.target.value as boolean })}
                options={[
                  { value: true, label: "The closing key stays behind the text" },
                  { value: false, label: "The closing key is dropped" },
                ]}
              />
            ) : (
              <p className="soft">At once there is no closing key; the caret stands right behind the text.</p>
            )}
          </Segment>
        )}
        <Segment title="Works" value={scopeWords(trigger)} chosen={chosen.has("scope")} begin={rule === "scope"}>
          <Choice
            words={scopes}
            value={scope.mode}
            label="Applications"
            onChange={(mode) =>
              onChange({
                scope: { mode, apps: mode === "everywhere" ? [] : scope.apps?.length ? scope.apps : ["post"] },
              })
            }
          />
          {scope.mode !== "everywhere" && (
            <ScopeApps apps={scope.apps ?? []} onChange={(apps) => onChange({ scope: { mode: scope.mode, apps } })} />
          )}
        </Segment>
        <button type="button" className="remove" onClick={onRemove} aria-label={`Remove ${trigger.text ?? "trigger"}`}>
          Remove
        </button>
      </div>
      {error && (
        <p className="fault strip-error" role="alert">
          {error}
        </p>
      )}
    </div>
  );
}

/** One place of the strip; what was not chosen but holds anyway is shown paler. */
function Segment(props: { title: string; value: ReactNode; chosen: boolean; begin?: boolean; children: ReactNode }) {
  const [open, setOpen] = useState(props.begin ?? false);
  return (
    <FormPopover
      name={props.title}
      open={open}
      onOpenChange={setOpen}
      placement="bottomLeft"
      content={<div className="segment-card">{props.children}</div>}
    >
      <button type="button" className={props.chosen ? "segment chosen" : "segment"} aria-expanded={open}>
        <span className="segment-title">{props.title}</span>
        <span className="segment-value">{props.value}</span>
      </button>
    </FormPopover>
  );
}

function Choice<K extends string>(props: {
  words: Record<K, { long: string }>;
  value: string | null | undefined;
  label: string;
  onChange: (value: K) => void;
}) {
  return (
    <Radio.Group
      className="choice"
      aria-label={props.label}
      value={props.value}
      onChange={(event) => props.onChange(event.target.value as K)}
      options={(Object.keys(props.words) as K[]).map((key) => ({ value: key, label: props.words[key].long }))}
    />
  );
}

import { Button } from "antd";
import { useState } from "react";
import { FormPopover } from "../ui/FormPopover";
import type { DraftTrigger, TriggerDocument } from "../api/client";
import { Grade } from "../words/Grade";
import { Keys, OverlapSentence, Shown, Suggestions } from "../safety/parts";
import { perTenThousand } from "../words/safetyWords";
import { ReasonText } from "../typing/TraceText";

interface Props {
  snippetId: number;
  name: string;
  trigger: TriggerDocument;
  at: number;
  /** What the engine says of the trigger as it stands; undefined while it is asked. */
  prospects: DraftTrigger | undefined;
  /** Whether what goes in is private, and nobody wanted to see it yet. */
  hidden: boolean;
  /** What a pattern is tried with. */
  typed: string;
  onType: (typed: string) => void;
  onTake: (text: string) => void;
}

/** What is to be expected of a trigger: how often it goes off by accident, what it gets in the way of, and what its keys do. */
export function Prospects({ snippetId, name, trigger, at, prospects, hidden, typed, onType, onTake }: Props) {
  const [open, setOpen] = useState(false);
  const forecast = prospects?.forecast;
  return (
    <div className="prospects">
      <div className="prospect-line">
        {forecast && (
          <span className="forecast-line">
            <Grade grade={forecast.grade} />
            {forecast.per10kWords > 0 ? (
              <span className="soft">
                goes off by accident {perTenThousand(forecast.per10kWords)} × in 10&nbsp;000 words
                {forecast.words.length > 0 && (
                  <>
                    :{" "}
                    {forecast.words
                      .slice(0, 5)
                      .map(({ word }) => word)
                      .join(", ")}
                    {forecast.words.length > 5 && " …"}
                  </>
                )}
              </span>
            ) : (
              <span className="soft">ordinary text never sets it off</span>
            )}
          </span>
        )}
        {trigger.kind === "abbreviation" && (
          <FormPopover
            name="Suggested abbreviations"
            placement="bottomLeft"
            open={open}
            onOpenChange={setOpen}
            content={
              <Suggestions
                name={name}
                {...(snippetId === 0 ? {} : { snippetId })}
                trigger={trigger}
                at={at}
                onTake={(text) => {
                  setOpen(false);
                  onTake(text);
                }}
              />
            }
          >
            <Button size="small" type="text" className="suggest">
              Suggest
            </Button>
          </FormPopover>
        )}
      </div>
      {prospects?.overlaps.map((overlap, index) => (
        <div key={index} className="prospect-line overlap-line" role="note">
          <span className="caution">Overlap</span>
          <OverlapSentence overlap={overlap} own={snippetId} />
        </div>
      ))}
      {trigger.kind === "pattern" && trigger.text !== "" && (
        <div className="prospect-line">
          <label>
            <span className="soft">Try it with</span>{" "}
            <input
              className="try-input mono"
              placeholder="what you would type"
              spellCheck={false}
              value={typed}
              onChange={(event) => onType(event.target.value)}
            />
          </label>
        </div>
      )}
      {prospects?.tries.map((tried, index) => (
        <div key={index} className="prospect-line try-line">
          <span className="soft">{index === 0 && trigger.kind !== "pattern" ? "Try it" : ""}</span>
          <Keys keys={tried.keys} />
          {tried.wentOff ? (
            <span>→ {hidden ? <em>private</em> : <Shown text={tried.text} />}</span>
          ) : (
            <span className="soft">
              <ReasonText why={tried.why} />
            </span>
          )}
        </div>
      ))}
    </div>
  );
}

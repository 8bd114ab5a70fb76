import { useQuery } from "@tanstack/react-query";
import { api, unwrap, type TriggerDocument } from "../api/client";
import { Grade } from "../words/Grade";
import { suggestionWords } from "../words/safetyWords";
import "./Suggestions.css";

interface Props {
  name: string;
  snippetId?: number;
  trigger?: TriggerDocument;
  /** Which of the snippet's triggers is to be replaced. */
  at?: number;
  onTake: (text: string) => void;
}

/** Abbreviations that could be taken, the quietest and shortest first; one click takes one. */
export function Suggestions({ name, snippetId, trigger, at, onTake }: Props) {
  const { data, error } = useQuery({
    queryKey: ["suggestions", name, snippetId, at, trigger?.timing, trigger?.case],
    queryFn: () =>
      unwrap(
        api.POST("/api/safety/suggestions", {
          body: { name, snippetId: snippetId ?? null, trigger: trigger ?? null, at: at ?? null },
        }),
      ),
    staleTime: 0,
  });
  if (error) return <p className="fault">{error.message}</p>;
  if (!data) return <p className="soft">Looking for quiet ones …</p>;
  return (
    <ul className="suggestions" aria-label="Suggested abbreviations">
      {data.map((suggestion) => (
        <li key={suggestion.text}>
          <button type="button" onClick={() => onTake(suggestion.text)}>
            <span className="tag">{suggestion.text}</span>
            <span className="soft">{suggestionWords[suggestion.kind] ?? suggestion.kind}</span>
            <Grade grade={suggestion.grade} rate={suggestion.per10kWords} />
            <span className={suggestion.overlaps > 0 ? "caution" : "soft"}>
              {suggestion.overlaps === 0
                ? "no overlap"
                : `${suggestion.overlaps} overlap${suggestion.overlaps === 1 ? "" : "s"}`}
            </span>
            <span className="soft">{suggestion.length} keys</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

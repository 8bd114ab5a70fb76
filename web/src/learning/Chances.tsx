import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { api, unwrap, type Chances as ChancesAnswer } from "../api/client";
import { keys } from "../api/queries";
import { dayWords, timesWords } from "./learningWords";

type Snippet = ChancesAnswer["missed"][number]["snippet"];

/** Texts that were typed in full, snippets that nobody uses, and those that are nearly the same. */
export function Chances() {
  const { data, error } = useQuery({
    queryKey: [...keys.learning, "chances"],
    queryFn: () => unwrap(api.GET("/api/learning/chances")),
    staleTime: 0,
  });
  if (error) return <p className="fault">{error.message}</p>;
  if (!data) return <p className="soft">Comparing …</p>;
  const { missed, unused, unusedInAll, unusedDays, nearlySame } = data;
  return (
    <div className="chances">
      <List title="Typed in full although a snippet has it" none="Not once: what you have, you use.">
        {missed.map(({ snippet, times, keys: lost, lastAt }) => (
          <tr key={snippet.id}>
            <SnippetCell snippet={snippet} />
            <td>{timesWords(times)}</td>
            <td>{lost} keys</td>
            <td>last on {dayWords(lastAt)}</td>
          </tr>
        ))}
      </List>
      <List
        title={`Not used for ${unusedDays} days`}
        none="Every snippet that is on was used lately, or is new."
        more={unusedInAll > unused.length ? `and ${unusedInAll - unused.length} more` : undefined}
      >
        {unused.map(({ snippet, fired, lastAt }) => (
          <tr key={snippet.id}>
            <SnippetCell snippet={snippet} />
            <td colSpan={3}>
              {lastAt === null ? "never used" : `used ${timesWords(fired)}, last on ${dayWords(lastAt)}`}
            </td>
          </tr>
        ))}
      </List>
      <List title="Nearly the same" none="No two snippets say nearly the same.">
        {nearlySame.map(({ one, other, percent }) => (
          <tr key={`${one.id} ${other.id}`}>
            <SnippetCell snippet={one} />
            <SnippetCell snippet={other} />
            <td colSpan={2}>{percent === 100 ? "the same words" : `${percent} % alike`}</td>
          </tr>
        ))}
      </List>
    </div>
  );
}

interface ListProps {
  title: string;
  none: string;
  more?: string | undefined;
  children: ReactNode[];
}

function List({ title, none, more, children }: ListProps) {
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      {children.length === 0 ? (
        <p className="soft">{none}</p>
      ) : (
        <table className="chances-table">
          <tbody>{children}</tbody>
        </table>
      )}
      {more !== undefined && <p className="soft">{more}</p>}
    </section>
  );
}

const SnippetCell = ({ snippet: { id, name, library, trigger, preview } }: { snippet: Snippet }) => (
  <th scope="row">
    {trigger !== null && <span className="tag">{trigger}</span>} <Link to={`/snippets/${id}`}>{name}</Link>{" "}
    <span className="soft">
      {library} · {preview}
    </span>
  </th>
);

import { useQuery } from "@tanstack/react-query";
import { api, unwrap, type WorkAnswer } from "../api/client";
import { moment } from "../words/historyWords";

const lookEveryMs = 5000;

/** What the program does behind, and how it stands. */
export function BehindSection() {
  const { data, error } = useQuery({
    queryKey: ["behind"],
    queryFn: () => unwrap(api.GET("/api/behind")),
    refetchInterval: lookEveryMs,
  });
  return (
    <section aria-labelledby="behind">
      <h2 id="behind">What runs behind</h2>
      {error && <p className="fault">{error.message}</p>}
      <table className="behind">
        <thead>
          <tr>
            <th scope="col">Work</th>
            <th scope="col">How it stands</th>
            <th scope="col">Last done</th>
          </tr>
        </thead>
        <tbody>
          {(data ?? []).map((work) => (
            <tr key={work.name}>
              <th scope="row">
                {work.name}
                <p className="soft">{work.what}</p>
              </th>
              <td>{stands(work)}</td>
              <td>{work.lastAt ? <When at={work.lastAt} took={work.tookMs} /> : "not yet"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function stands({ state, failures, fault, nextAt }: WorkAnswer) {
  if (state === "working") return "at work";
  if (state !== "failing") return "ready";
  return (
    <>
      <strong className="fault">{failures === 1 ? "failed" : `failed ${failures} times in a row`}</strong>
      <p>{fault}</p>
      {nextAt && <p className="soft">Tried again {moment(nextAt)}.</p>}
    </>
  );
}

function When({ at, took }: { at: string; took: number }) {
  return (
    <>
      {moment(at)}
      {took >= 100 && <span className="soft"> in {(took / 1000).toFixed(1)} s</span>}
    </>
  );
}

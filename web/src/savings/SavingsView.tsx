import { useQuery } from "@tanstack/react-query";
import { Button, Segmented } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { api, unwrap, type SavingsAnswer, type SavingsShare } from "../api/client";
import { keys, queryClient } from "../api/queries";
import { deskApps } from "../words/deskApps";
import { toast } from "../ui/toasts";
import { SavingsChart } from "./SavingsChart";
import { count, minutesWords, percentWords, periods } from "./savingsWords";
import "./savings.css";

/** What typing with snippets has saved: counts by day, never texts. */
export default function SavingsView() {
  const [days, setDays] = useState(30);
  const { data, error } = useQuery({
    queryKey: [...keys.savings, days],
    queryFn: () => unwrap(api.GET("/api/savings", { params: { query: { days } } })),
    placeholderData: (before) => before,
  });
  if (error) return <div className="page fault">{error.message}</div>;
  if (!data) return <div className="loading soft">Adding up …</div>;
  return (
    <div className="page savings">
      <div className="savings-head">
        <h1>Savings</h1>
        <Segmented
          aria-label="Time"
          options={periods.map(({ days: value, label }) => ({ value, label }))}
          value={days}
          onChange={setDays}
        />
        <span className="spacer" />
        <Link to="/drill">Drill: five minutes of practice</Link>
        <Button onClick={() => void copySummary()}>Copy the week in words</Button>
        <Button href="/api/savings.csv">Save as a table</Button>
      </div>
      {data.first === null ? (
        <p className="savings-none">
          Nothing is counted yet. Type an abbreviation on the desk or anywhere else: from then on this page says what it
          saved you. Only counts are kept, never what you type.
        </p>
      ) : (
        <Figures data={data} />
      )}
    </div>
  );
}

function Figures({ data }: { data: SavingsAnswer }) {
  const { total } = data;
  return (
    <>
      <dl className="savings-figures">
        <div>
          <dt>Keystrokes saved</dt>
          <dd>{count(total.keys)}</dd>
        </div>
        <div>
          <dt>Time saved</dt>
          <dd>{minutesWords(total.minutes)}</dd>
          <dd className="soft">
            at {Math.round(data.wordsPerMinute)} words a minute,{" "}
            {data.measured ? "as you type" : "until yours is known"}
          </dd>
        </div>
        <div>
          <dt>Expansions</dt>
          <dd>{count(total.expansions)}</dd>
          <dd className="soft">{percentWords(total.takenBackPercent)} taken back</dd>
        </div>
        <div>
          <dt>Fields filled</dt>
          <dd>{count(total.fields)}</dd>
        </div>
      </dl>
      <section aria-labelledby="savings-days">
        <h2 id="savings-days">Keystrokes saved, day by day</h2>
        <SavingsChart days={data.days} />
      </section>
      <div className="savings-shares">
        <Shares title="Snippets" shares={data.snippets} />
        <Shares title="Libraries" shares={data.libraries} />
        <Shares title="Applications" shares={data.apps.map(named)} />
      </div>
      <p className="soft">
        Each character that went in counts as a key, less those of the abbreviation and of what was filled in; five
        characters are a word. Counted since {data.first}.{" "}
        <button type="button" className="plain-button" onClick={() => void forget()}>
          Delete all counts
        </button>
      </p>
    </>
  );
}

const named = (share: SavingsShare): SavingsShare => ({
  ...share,
  name: deskApps.find(({ id }) => id === share.name)?.name ?? share.name,
});

function Shares({ title, shares }: { title: string; shares: SavingsShare[] }) {
  const most = Math.max(1, ...shares.map(({ figures }) => figures.keys));
  return (
    <section aria-label={title}>
      <table className="savings-table">
        <thead>
          <tr>
            <th scope="col">{title}</th>
            <th scope="col">Times</th>
            <th scope="col">Keystrokes</th>
          </tr>
        </thead>
        <tbody>
          {shares.slice(0, 12).map(({ name, figures }) => (
            <tr key={name}>
              <th scope="row">
                {name}
                <span
                  className="savings-bar"
                  aria-hidden
                  style={{ inlineSize: `${(100 * Math.max(0, figures.keys)) / most}%` }}
                />
              </th>
              <td>{count(figures.expansions)}</td>
              <td>{count(figures.keys)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

async function copySummary(): Promise<void> {
  const answer = await fetch("/api/savings/summary");
  await navigator.clipboard.writeText(await answer.text());
  toast("The last seven days are on the clipboard, in words.");
}

async function forget(): Promise<void> {
  await unwrap(api.DELETE("/api/savings"));
  await queryClient.invalidateQueries({ queryKey: keys.savings });
  const restore = async () => {
    await unwrap(api.POST("/api/savings/restore"));
    await queryClient.invalidateQueries({ queryKey: keys.savings });
  };
  toast("All counts are deleted.", { key: "undo", action: { label: "Undo", act: () => void restore() } });
}

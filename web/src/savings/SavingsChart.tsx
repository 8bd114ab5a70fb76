import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { SavingsDay } from "../api/client";
import { bars, count } from "./savingsWords";

/** The days as bars, weeks or months where there are many, and the same as a table. */
export function SavingsChart({ days }: { days: readonly SavingsDay[] }) {
  const shown = bars(days);
  return (
    <>
      <div className="savings-chart" aria-hidden>
        <ResponsiveContainer width="100%" height={220}>
          <BarChart data={shown} margin={{ top: 8, right: 8, bottom: 0, left: 0 }} accessibilityLayer={false}>
            <CartesianGrid vertical={false} stroke="var(--line)" />
            <XAxis
              dataKey="label"
              tick={{ fill: "var(--ink-soft)", fontSize: 13 }}
              stroke="var(--line)"
              minTickGap={16}
            />
            <YAxis
              tick={{ fill: "var(--ink-soft)", fontSize: 13 }}
              stroke="var(--line)"
              width={56}
              allowDecimals={false}
            />
            <Tooltip
              cursor={{ fill: "var(--paper-sunk)" }}
              contentStyle={{ background: "var(--paper-raised)", border: "1px solid var(--line)", color: "var(--ink)" }}
              itemStyle={{ color: "var(--ink)" }}
            />
            <Bar dataKey="keys" name="keystrokes saved" fill="var(--shoot)" isAnimationActive={false} maxBarSize={34} />
          </BarChart>
        </ResponsiveContainer>
      </div>
      <details className="savings-days">
        <summary>The same as a table</summary>
        <table className="savings-table">
          <thead>
            <tr>
              <th scope="col">From</th>
              <th scope="col">Expansions</th>
              <th scope="col">Taken back</th>
              <th scope="col">Keystrokes</th>
            </tr>
          </thead>
          <tbody>
            {shown.map(({ from, expansions, takenBack, keys }) => (
              <tr key={from}>
                <th scope="row">{from}</th>
                <td>{count(expansions)}</td>
                <td>{count(takenBack)}</td>
                <td>{count(keys)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </>
  );
}

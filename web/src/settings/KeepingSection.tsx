import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, unwrap } from "../api/client";

/** How long earlier versions, deleted things and backups are kept. */
export function KeepingSection() {
  const { data } = useQuery({
    queryKey: ["backup-rules"],
    queryFn: () => unwrap(api.GET("/api/backups/rules")),
    staleTime: Infinity,
  });
  if (!data) return null;
  return (
    <section aria-labelledby="keeping">
      <h2 id="keeping">What is kept</h2>
      <ul>
        <li>
          Earlier versions of a snippet: each one for {data.everyVersionDays} days, then the last of each day for{" "}
          {data.dailyVersionDays} days, then the last of each month for good.
        </li>
        <li>Deleted things: {data.binDays} days in the bin.</li>
        <li>
          Backups: the last of {data.backupDays} days, {data.backupWeeks} weeks and {data.backupMonths} months, and the
          newest {data.backupOthers} that were made for each other reason.
        </li>
      </ul>
      <p className="soft">
        Days are those on which the program is used. All of it is under <Link to="/history">History</Link>.
      </p>
    </section>
  );
}

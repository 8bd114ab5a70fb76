import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, unwrap } from "../api/client";

const places: Record<string, { to: string; label: string }> = {
  backups: { to: "/history?show=backups", label: "Look at the backups" },
  mirrors: { to: "/settings#mirrors", label: "Choose" },
  sprouts: { to: "/sprouts", label: "Look at it" },
  behind: { to: "/settings#behind", label: "Look at it" },
  history: { to: "/history", label: "Look at it" },
};

/** What the user should know of their data, above every view until it is put away. */
export function Notices() {
  const { data } = useQuery({
    queryKey: ["notices"],
    queryFn: () => unwrap(api.GET("/api/notices")),
    staleTime: 60_000,
  });
  const [away, setAway] = useState<readonly string[]>([]);
  return (data?.notices ?? [])
    .filter((notice) => !away.includes(notice.text))
    .map(({ text, lookAt }) => (
      <div key={text} className="data-notice" role="alert">
        <p>{text}</p>
        <Link to={(places[lookAt] ?? places["history"]!).to}>{(places[lookAt] ?? places["history"]!).label}</Link>
        <button type="button" className="plain-button" onClick={() => setAway([...away, text])}>
          Put away
        </button>
      </div>
    ));
}

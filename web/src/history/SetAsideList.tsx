import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";

/** What stands in the data file and cannot be used, with what it holds; nothing when all is well. */
export function SetAsideList() {
  const { data } = useQuery({ queryKey: ["notices"], queryFn: () => unwrap(api.GET("/api/notices")) });
  if (!data || data.setAside.length === 0) return null;
  return (
    <section aria-labelledby="set-aside">
      <h2 id="set-aside">Set aside</h2>
      <p className="soft">These could not be used when the program started. They stay in the data file as they are.</p>
      {data.setAside.map((item) => (
        <details key={item.id} className="set-aside">
          <summary>
            {item.kind} {item.id}: {item.why}
          </summary>
          <pre>{item.document}</pre>
        </details>
      ))}
    </section>
  );
}

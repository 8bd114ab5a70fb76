import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";

/** The language in which days are written, as the settings say. */
export function useDateLocale(): string {
  const { data } = useQuery({
    queryKey: ["settings", "dates"],
    queryFn: () => unwrap(api.GET("/api/settings/dates")),
    staleTime: 60_000,
  });
  return data?.locale ?? "en-GB";
}

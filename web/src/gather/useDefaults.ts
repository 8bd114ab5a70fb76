import { useQuery } from "@tanstack/react-query";
import { api, unwrap, type Defaults } from "../api/client";
import { keys } from "../api/queries";

const none: Defaults = {};

/** What new snippets begin with in a library or folder. */
export function useDefaults(place: number | undefined): Defaults {
  const { data } = useQuery({
    queryKey: [...keys.libraries, "defaults", place],
    queryFn: () => unwrap(api.GET("/api/items/{id}/defaults", { params: { path: { id: place ?? 0 } } })),
    enabled: place !== undefined,
  });
  return data ?? none;
}

import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";

/** The path of the snippet that a reference means: it is kept by identity, so that renaming breaks nothing. */
export function useSnippetPath(reference: string): string {
  const id = reference.startsWith("#") ? Number(reference.slice(1)) : undefined;
  const { data, error } = useQuery({
    queryKey: ["snippet", "path", id],
    queryFn: async () => (await unwrap(api.GET("/api/snippets/{id}", { params: { path: { id: id! } } }))).path,
    enabled: id !== undefined,
    retry: false,
  });
  if (id === undefined) return reference;
  return data ?? (error ? "a snippet that is not there any more" : "…");
}

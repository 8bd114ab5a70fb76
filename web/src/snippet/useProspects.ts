import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api, unwrap, type SnippetDocument } from "../api/client";
import { useLater } from "../ui/useLater";

/** What the engine says of each trigger as it stands on the page; asked a moment after the last change. */
export function useProspects(snippetId: number, snippet: SnippetDocument, typed: readonly string[]) {
  const words = typed.join("\u0000");
  const draft = useMemo(() => ({ snippet, typed: words.split("\u0000") }), [snippet, words]);
  const asked = useLater(draft, 150);
  const { data } = useQuery({
    queryKey: ["prospects", snippetId, asked],
    queryFn: () =>
      unwrap(api.POST("/api/safety/draft", { body: { snippetId: snippetId === 0 ? null : snippetId, ...asked } })),
    placeholderData: (before) => before,
    gcTime: 0,
  });
  return data?.triggers;
}

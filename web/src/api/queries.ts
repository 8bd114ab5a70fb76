import { QueryClient, useQuery } from "@tanstack/react-query";
import { api, unwrap } from "./client";

export const queryClient = new QueryClient({
  defaultOptions: { queries: { staleTime: 5_000, retry: 1, refetchOnWindowFocus: true } },
});

export const keys = {
  libraries: ["libraries"] as const,
  rows: ["rows"] as const,
  snippet: (id: number) => ["snippet", id] as const,
  engine: ["engine"] as const,
  board: ["safety"] as const,
  history: ["history"] as const,
  keyboard: ["keyboard"] as const,
  typingSettings: ["settings", "typing"] as const,
  chords: ["chords"] as const,
  keySets: ["key-sets"] as const,
  mirrors: ["mirrors"] as const,
  packs: ["packs"] as const,
  savings: ["savings"] as const,
  learning: ["learning"] as const,
};

const librariesQuery = { queryKey: keys.libraries, queryFn: () => unwrap(api.GET("/api/libraries")) };

export const useLibraries = () => useQuery(librariesQuery);

/** The libraries as they are known, or as soon as they are. */
export const knownLibraries = () => queryClient.ensureQueryData(librariesQuery);

export const useEngine = () => useQuery({ queryKey: keys.engine, queryFn: () => unwrap(api.GET("/api/engine")) });

/** The chords of the program, what they do, and who else answers to them. */
export const useChords = () => useQuery({ queryKey: keys.chords, queryFn: () => unwrap(api.GET("/api/chords")) });

/** Closing keys with names. */
export const useKeySets = () => useQuery({ queryKey: keys.keySets, queryFn: () => unwrap(api.GET("/api/key-sets")) });

/** The keyboard link, and the applications that were typed in. */
export const useKeyboard = () => useQuery({ queryKey: keys.keyboard, queryFn: () => unwrap(api.GET("/api/keyboard")) });

/** Overlaps and forecasts of everything stored; asked again while they are being worked out. */
export const useBoard = () =>
  useQuery({
    queryKey: keys.board,
    queryFn: () => unwrap(api.GET("/api/safety")),
    refetchInterval: ({ state }) => (state.data?.state === "working" ? 250 : false),
  });

/** After any change to libraries: what was asked of them may be another now. */
export async function librariesChanged(): Promise<void> {
  await Promise.all([
    queryClient.invalidateQueries({ queryKey: keys.libraries }),
    queryClient.invalidateQueries({ queryKey: keys.rows }),
    queryClient.invalidateQueries({ queryKey: keys.history }),
    queryClient.invalidateQueries({ queryKey: keys.engine }),
    queryClient.invalidateQueries({ queryKey: keys.board }),
    queryClient.invalidateQueries({ queryKey: keys.keySets }),
    queryClient.invalidateQueries({ queryKey: keys.mirrors }),
    queryClient.invalidateQueries({ queryKey: keys.packs }),
  ]);
}

import { useQuery } from "@tanstack/react-query";
import { api, unwrap, type Mirror } from "../api/client";
import { keys, librariesChanged, queryClient } from "../api/queries";

/** The mirrored libraries; asked again and again, since other machines change their files. */
export const useMirrors = () =>
  useQuery({ queryKey: keys.mirrors, queryFn: () => unwrap(api.GET("/api/mirrors")), refetchInterval: 3_000 });

/** Keeps what an action answered, and lets everything follow that may have come from a folder. */
export async function mirrorsAre(answer: Promise<Mirror[]>): Promise<Mirror[]> {
  const mirrors = await answer;
  queryClient.setQueryData(keys.mirrors, mirrors);
  await Promise.all([librariesChanged(), queryClient.invalidateQueries({ queryKey: ["notices"] })]);
  return mirrors;
}

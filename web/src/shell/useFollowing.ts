import { useEffect } from "react";
import { ApiError, api, unwrap } from "../api/client";
import { keys, librariesChanged, queryClient } from "../api/queries";
import { answerFor, forgetUnsaved, letGo, saverOf, saversAtWork, told, withUnsavedWork } from "../snippet";
import { typingSession } from "../typing/TypingSession";
import { toast } from "../ui/toasts";

/** Follows what is changed elsewhere, and takes unsaved work of an earlier visit up again. */
export function useFollowing(): void {
  useEffect(() => {
    const stops = [
      typingSession.on("changed", () => void lookAnew()),
      typingSession.on("keyboard", () => void queryClient.invalidateQueries({ queryKey: keys.keyboard })),
      // What could not be saved while the program was away goes now.
      typingSession.on("connected", () => {
        for (const saver of saversAtWork()) void saver.flush();
        void takeUp();
      }),
    ];
    // The work of a tab that is closed meanwhile is found when this one is looked at again.
    const lookedAt = () => void (document.visibilityState === "visible" && takeUp());
    addEventListener("visibilitychange", lookedAt);
    return () => {
      removeEventListener("visibilitychange", lookedAt);
      stops.forEach((stop) => stop());
    };
  }, []);
}

async function lookAnew(): Promise<void> {
  await librariesChanged();
  await queryClient.invalidateQueries({ queryKey: ["snippet"] });
}

async function takeUp(): Promise<void> {
  for (const id of await withUnsavedWork()) {
    try {
      const answer = await answerFor(id);
      const saver = saverOf(id, answer, told);
      await saver.flush();
      if (saver.state === "saved") toast(`“${saver.current.draft.name}” had unsaved work; it is saved now.`);
      else toast(`“${saver.current.draft.name}” has unsaved work. Open it to look at what is kept.`, { seconds: 15 });
      letGo(saver);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      // Without its snippet the work has no place; while the snippet lies in the bin it stays here.
      if (error.problem.status === 404 && id > 0 && !(await isInBin(id))) forgetUnsaved(id);
    }
  }
}

async function isInBin(id: number): Promise<boolean> {
  const bin = await unwrap(api.GET("/api/bin"));
  return bin.some((item) => item.id === id || item.kind !== "snippet");
}

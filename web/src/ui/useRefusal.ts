import { useCallback, useState } from "react";
import { ApiError } from "../api/client";

/**
 * What the program refused last, in words, and a way to try something that it may refuse. Any other fault is none of the user's making and
 * goes on.
 */
export function useRefusal(): [string | undefined, (work: () => Promise<unknown>) => Promise<void>] {
  const [refusal, setRefusal] = useState<string>();
  const attempt = useCallback(async (work: () => Promise<unknown>) => {
    try {
      setRefusal(undefined);
      await work();
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setRefusal(problem.message);
    }
  }, []);
  return [refusal, attempt];
}

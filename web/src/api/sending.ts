/** Changes that were sent and not answered yet. */
const underWay = new Set<Promise<unknown>>();

/** Ends with the last undoing, or doing again, that was sent. */
let lastTurn: Promise<unknown> = Promise.resolve();

/**
 * Sends requests so that undoing finds what the user has seen: undoing, and doing again, wait for the changes that were
 * made before them, and what is changed afterwards waits for them. All else goes out side by side.
 */
export function send(request: Request): Promise<Response> {
  if (request.method === "GET") return fetch(request);

  const turns = new URL(request.url).pathname.startsWith("/api/changes/");
  const before = turns ? Promise.allSettled([...underWay]) : lastTurn;
  const answer = before.then(() => fetch(request));
  const answered: Promise<unknown> = answer.catch(() => undefined).then(() => underWay.delete(answered));
  underWay.add(answered);
  if (turns) lastTurn = answered;
  return answer;
}

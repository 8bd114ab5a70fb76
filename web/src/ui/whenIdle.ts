/** Has something done once the page has nothing else to do, after a time at the latest; gives the way to call it off. */
export function whenIdle(work: () => void, latestMs = 2000): () => void {
  // Some browsers do not tell when they are idle; a little later is idle enough there.
  if (typeof requestIdleCallback !== "function") {
    const timer = setTimeout(work, Math.min(latestMs, 200));
    return () => clearTimeout(timer);
  }
  const idle = requestIdleCallback(() => work(), { timeout: latestMs });
  return () => cancelIdleCallback(idle);
}

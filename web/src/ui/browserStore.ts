/** What was kept in the browser under a key; undefined when nothing was, or when it cannot be read any more. */
export function readKept(key: string): unknown {
  const text = localStorage.getItem(key);
  if (text === null) return undefined;
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}

import { useCallback, useEffect, useState, type RefObject } from "react";
import { rowsInSight } from "./pages";

/**
 * Which rows of a scrolled list are in sight, all of one height, and the way to bring one into sight; a head stays above them as they
 * are scrolled.
 */
export function useSight(
  scroller: RefObject<HTMLElement | null>,
  rowHeight: number,
  headHeight: number,
  shown: boolean,
) {
  const [sight, setSight] = useState({ first: 0, last: 40 });

  useEffect(() => {
    const element = scroller.current;
    if (!element) return undefined;
    const look = () => {
      const next = rowsInSight(element.scrollTop, element.clientHeight - headHeight, rowHeight);
      setSight((before) => (before.first === next.first && before.last === next.last ? before : next));
    };
    look();
    element.addEventListener("scroll", look, { passive: true });
    const resized = new ResizeObserver(look);
    resized.observe(element);
    return () => {
      element.removeEventListener("scroll", look);
      resized.disconnect();
    };
  }, [scroller, rowHeight, headHeight, shown]);

  const bring = useCallback(
    (at: number) => {
      const element = scroller.current;
      if (!element) return;
      const top = at * rowHeight;
      if (top < element.scrollTop) element.scrollTo({ top });
      else if (top + rowHeight > element.scrollTop + element.clientHeight - headHeight)
        element.scrollTo({ top: top + rowHeight + headHeight - element.clientHeight });
    },
    [scroller, rowHeight, headHeight],
  );
  return { ...sight, bring };
}

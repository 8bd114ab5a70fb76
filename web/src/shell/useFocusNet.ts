import { useEffect } from "react";
import { isSomewhere } from "../ui/focus";

/**
 * Whatever goes away with the focus in it: the view has the focus then, so that the keys never go nowhere. Dialogs, menus and rows see
 * to a better place themselves before it comes to that.
 */
export function useFocusNet(): void {
  useEffect(() => {
    let frame = 0;
    // Two frames: what sees to it itself does so in the first.
    const look = () => {
      if (frame !== 0 || !document.hasFocus()) return;
      frame = requestAnimationFrame(() => {
        frame = requestAnimationFrame(() => {
          frame = 0;
          if (!isSomewhere()) document.getElementById("view")?.focus({ preventScroll: true });
        });
      });
    };
    const gone = new MutationObserver(look);
    gone.observe(document.body, { childList: true, subtree: true });
    document.addEventListener("focusout", look);
    look();
    return () => {
      gone.disconnect();
      document.removeEventListener("focusout", look);
      cancelAnimationFrame(frame);
    };
  }, []);
}

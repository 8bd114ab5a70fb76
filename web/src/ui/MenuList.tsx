import { useEffect, useRef, type CSSProperties, type KeyboardEvent, type RefObject } from "react";

/** Something to choose, or a line between groups. */
export type MenuItem = { label: string; keys?: string; disabled?: boolean; act: () => void } | "line";

interface Props {
  name: string;
  items: readonly MenuItem[];
  style?: CSSProperties;
  /** What opened it, where a click is no click elsewhere. */
  opener: RefObject<HTMLElement | null> | undefined;
  /** It is to be closed; whether the focus goes back to what opened it. */
  onClose: (back: boolean) => void;
}

/** An open menu, as the ARIA practices have it: its first choice has the focus; arrow keys, Home, End, Escape. */
export function MenuList({ name, items, style, opener, onClose }: Props) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    choicesIn(list.current)[0]?.focus();
    const outside = (event: PointerEvent) => {
      const target = event.target as Node;
      if (!list.current?.contains(target) && !opener?.current?.contains(target)) onClose(false);
    };
    document.addEventListener("pointerdown", outside);
    return () => document.removeEventListener("pointerdown", outside);
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- what closes it is the same for as long as it is open
  }, [opener]);

  const onKeyDown = (event: KeyboardEvent) => {
    const all = choicesIn(list.current);
    const at = all.indexOf(document.activeElement as HTMLButtonElement);
    const act = {
      ArrowDown: () => all[(at + 1) % all.length]?.focus(),
      ArrowUp: () => all[(at - 1 + all.length) % all.length]?.focus(),
      Home: () => all[0]?.focus(),
      End: () => all.at(-1)?.focus(),
      Escape: () => onClose(true),
      Tab: () => onClose(true),
    }[event.key];
    event.stopPropagation();
    if (!act) return;
    event.preventDefault();
    act();
  };

  return (
    <div ref={list} className="menu" style={style} role="menu" tabIndex={-1} aria-label={name} onKeyDown={onKeyDown}>
      {items.map((item, at) =>
        item === "line" ? (
          <hr key={at} />
        ) : (
          <button
            key={item.label}
            type="button"
            role="menuitem"
            disabled={item.disabled}
            onClick={(event) => {
              event.stopPropagation();
              onClose(true);
              item.act();
            }}
          >
            {item.label}
            {item.keys && <kbd>{item.keys}</kbd>}
          </button>
        ),
      )}
    </div>
  );
}

const choicesIn = (list: HTMLElement | null): HTMLButtonElement[] => [
  ...(list?.querySelectorAll<HTMLButtonElement>("button:not(:disabled)") ?? []),
];

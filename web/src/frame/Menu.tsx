import { useEffect, useRef, useState, type KeyboardEvent } from "react";

/** Something to choose, or a line between groups. */
export type MenuItem = { label: string; disabled?: boolean; act: () => void } | "line";

interface Props {
  label: string;
  /** What a screen reader says of the button, when its label is a sign. */
  name?: string;
  className?: string;
  items: readonly MenuItem[];
  onOpen?: () => void;
}

/** A button with a menu, as the ARIA practices have it: arrow keys, Home, End, Escape. */
export function Menu({ label, name, className = "button", items, onOpen }: Props) {
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const list = useRef<HTMLDivElement>(null);

  useEffect(() => {
    if (!open) return undefined;
    choicesIn(list.current)[0]?.focus();
    const outside = (event: PointerEvent) => {
      const target = event.target as Node;
      if (!list.current?.contains(target) && !button.current?.contains(target)) setOpen(false);
    };
    document.addEventListener("pointerdown", outside);
    return () => document.removeEventListener("pointerdown", outside);
  }, [open]);

  const close = () => {
    setOpen(false);
    button.current?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const all = choicesIn(list.current);
    const at = all.indexOf(document.activeElement as HTMLButtonElement);
    const act = {
      ArrowDown: () => all[(at + 1) % all.length]?.focus(),
      ArrowUp: () => all[(at - 1 + all.length) % all.length]?.focus(),
      Home: () => all[0]?.focus(),
      End: () => all.at(-1)?.focus(),
      Escape: close,
      Tab: () => setOpen(false),
    }[event.key];
    if (!act) return;
    if (event.key !== "Tab") event.preventDefault();
    event.stopPropagation();
    act();
  };

  return (
    <span className="menu-holder">
      <button
        ref={button}
        type="button"
        className={className}
        aria-haspopup="menu"
        aria-expanded={open}
        aria-label={name}
        onClick={() => {
          if (!open) onOpen?.();
          setOpen(!open);
        }}
        onKeyDown={(event) => {
          if (event.key !== "ArrowDown" || open) return;
          event.preventDefault();
          onOpen?.();
          setOpen(true);
        }}
      >
        {label}
      </button>
      {open && (
        <div ref={list} className="menu" role="menu" tabIndex={-1} aria-label={name ?? label} onKeyDown={onKeyDown}>
          {items.map((item, at) =>
            item === "line" ? (
              <hr key={at} />
            ) : (
              <button
                key={item.label}
                type="button"
                role="menuitem"
                disabled={item.disabled}
                onClick={() => {
                  close();
                  item.act();
                }}
              >
                {item.label}
              </button>
            ),
          )}
        </div>
      )}
    </span>
  );
}

const choicesIn = (list: HTMLElement | null): HTMLButtonElement[] => [
  ...(list?.querySelectorAll<HTMLButtonElement>("button:not(:disabled)") ?? []),
];

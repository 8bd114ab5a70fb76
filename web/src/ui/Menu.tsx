import { useRef, useState } from "react";
import { MenuList, type MenuItem } from "./MenuList";

interface Props {
  label: string;
  /** What a screen reader says of the button, when its label is a sign. */
  name?: string;
  className?: string;
  items: readonly MenuItem[];
  onOpen?: () => void;
}

/** A button with a menu. */
export function Menu({ label, name, className = "button", items, onOpen }: Props) {
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
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
        <MenuList
          name={name ?? label}
          items={items}
          opener={button}
          onClose={(back) => {
            setOpen(false);
            if (back) button.current?.focus();
          }}
        />
      )}
    </span>
  );
}

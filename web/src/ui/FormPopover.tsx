import { Popover } from "antd";
import { useState, type ReactNode } from "react";
import type { PopoverProps } from "antd";
import { FocusScope } from "./FocusScope";

interface Props {
  /** What it is called. */
  name: string;
  /** Whether its name stands above it. */
  titled?: boolean;
  content: ReactNode;
  placement?: PopoverProps["placement"];
  /** Whether it is open to begin with. */
  begin?: boolean | undefined;
  /** Whether it is open, where something else decides that too. */
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  /** The button that opens it. */
  children: ReactNode;
}

/** A small form at the button that opens it: its first control has the focus, Escape closes it, and the button has the focus again. */
export function FormPopover({
  name,
  titled = false,
  content,
  placement,
  begin = false,
  open,
  onOpenChange,
  children,
}: Props) {
  const [own, setOwn] = useState(begin);
  const change = (next: boolean) => {
    setOwn(next);
    onOpenChange?.(next);
  };
  return (
    <Popover
      open={open ?? own}
      onOpenChange={change}
      trigger="click"
      placement={placement ?? "bottom"}
      destroyOnHidden
      content={
        <FocusScope dialog={name}>
          {titled && <h3 className="popover-title">{name}</h3>}
          {content}
        </FocusScope>
      }
    >
      {children}
    </Popover>
  );
}

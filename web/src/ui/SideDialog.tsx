import { Drawer } from "antd";
import type { ReactNode } from "react";
import { useOpener } from "./Dialog";
import { FocusScope } from "./FocusScope";

interface Props {
  open: boolean;
  title: string;
  size: number;
  onClose: () => void;
  children: ReactNode;
}

/** A dialog at the side of the page, with the same manners as one over it. */
export function SideDialog({ open, title, size, onClose, children }: Props) {
  const opener = useOpener(open);
  return (
    <Drawer open={open} onClose={onClose} title={title} size={size} destroyOnHidden>
      <FocusScope opener={opener}>{children}</FocusScope>
    </Drawer>
  );
}

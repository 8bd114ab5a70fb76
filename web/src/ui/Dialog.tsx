import { Modal, type ModalProps } from "antd";
import { useState, type ReactNode } from "react";
import { keepInside } from "./focus";
import { FocusScope } from "./FocusScope";

interface Props extends Omit<ModalProps, "focusable" | "destroyOnHidden" | "modalRender"> {
  /** Whether who had the focus before gets it back when it closes. */
  returns?: boolean;
}

/** A dialog: its first control has the focus at once, Tab stays inside, and who had the focus before gets it back. */
export function Dialog({ returns = true, children, ...rest }: Props) {
  const opener = useOpener(rest.open === true);
  return (
    <Modal {...rest} focusable={{ focusTriggerAfterClose: false }} destroyOnHidden modalRender={keptInside}>
      <FocusScope returns={returns} opener={opener}>
        {children}
      </FocusScope>
    </Modal>
  );
}

const keptInside = (dialog: ReactNode) => (
  // oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- only the way of Tab is listened to
  <div onKeyDown={(event) => keepInside(event.currentTarget, event)}>{dialog}</div>
);

/** Who has the focus when something opens, before it takes it. */
export function useOpener(open: boolean): Element | null {
  const [was, setWas] = useState(false);
  const [opener, setOpener] = useState<Element | null>(null);
  if (open !== was) {
    setWas(open);
    if (open) setOpener(document.activeElement);
  }
  return opener;
}

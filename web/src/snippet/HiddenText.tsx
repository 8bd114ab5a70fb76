import { Button } from "antd";

/** Stands for what is private until its owner wants to see it: somebody may be looking on. */
export function HiddenText({ onShow }: { onShow: () => void }) {
  return (
    <div className="hidden-text">
      <p>
        <strong>Private.</strong> What goes in, its plain twin and its note are hidden from whoever looks on.
      </p>
      <Button onClick={onShow}>Show them</Button>
    </div>
  );
}

import { Button } from "antd";
import "../ui/BothSides.css";

/** A part that was changed here and elsewhere: both stand side by side until one is chosen. */
export function Conflict(props: { mine: string; theirs: string; onMine: () => void; onTheirs: () => void }) {
  return (
    <div className="two-sides" role="alert">
      <p>
        This was changed elsewhere in the meantime. Both are kept until you choose one.
        {props.mine === props.theirs &&
          " Their words are the same; what differs is the formatting or how a live part works."}
      </p>
      <div className="both-sides">
        <section>
          <h3>On this page</h3>
          <pre>{props.mine || "nothing"}</pre>
          <Button size="small" onClick={props.onMine}>
            Keep this one
          </Button>
        </section>
        <section>
          <h3>Saved elsewhere</h3>
          <pre>{props.theirs || "nothing"}</pre>
          <Button size="small" onClick={props.onTheirs}>
            Take this one
          </Button>
        </section>
      </div>
    </div>
  );
}

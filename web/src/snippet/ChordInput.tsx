import { Button } from "antd";
import { useState } from "react";
import { keyName } from "../typing/keys";
import { keyLabel } from "./ruleWords";

/** A chord that is chosen by pressing it. */
export function ChordInput(props: { chord: string; label: string; onChange: (chord: string) => void }) {
  const [recording, setRecording] = useState(false);
  const [said, setSaid] = useState("");
  return (
    <span className="chord-input">
      <Button
        aria-label={`${props.label}: ${props.chord || "none yet"}. Press to record another.`}
        type={recording ? "primary" : "default"}
        onClick={() => {
          setSaid("");
          setRecording(true);
        }}
        onBlur={() => setRecording(false)}
        onKeyDown={(event) => {
          if (!recording) return;
          const key = keyName(event.nativeEvent);
          if (key === undefined) return;
          event.preventDefault();
          event.stopPropagation();
          if (key === "Escape") {
            setRecording(false);
            return;
          }
          if (!/^(Ctrl|Alt|Meta)\+/.test(key)) {
            setSaid("Hold Ctrl, Alt or Meta with it.");
            return;
          }
          setRecording(false);
          props.onChange(key);
        }}
      >
        {recording ? "Press the keys now …" : keyLabel(props.chord) || "Record a chord"}
      </Button>
      <span className="soft" role="status">
        {recording && said}
      </span>
    </span>
  );
}

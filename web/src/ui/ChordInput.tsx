import { Button } from "antd";
import { useEffect, useState } from "react";
import { keyName } from "./keys";
import { setRecordingChord } from "./chordRecording";
import { keyLabel } from "../words/ruleWords";
import "./ChordInput.css";

interface Props {
  chord: string;
  label: string;
  /** Whether a function key by itself will do. */
  functionKeys?: boolean;
  /** What is wrong with it, or who else answers to it. */
  said?: string | undefined;
  onChange: (chord: string) => void;
}

/** A chord that is chosen by pressing it. */
export function ChordInput({ chord, label, functionKeys = false, said, onChange }: Props) {
  const [recording, setRecording] = useState(false);
  const [hint, setHint] = useState("");
  useEffect(() => {
    if (!recording) return undefined;
    setRecordingChord(true);
    return () => setRecordingChord(false);
  }, [recording]);
  const wanted = functionKeys ? /^((Ctrl|Alt|Meta)\+|F\d)/ : /^(Ctrl|Alt|Meta)\+/;
  return (
    <span className="chord-input">
      <Button
        aria-label={`${label}: ${keyLabel(chord) || "none yet"}. Press to record another.`}
        type={recording ? "primary" : "default"}
        onClick={() => {
          setHint("");
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
            // Only the recording is left, not what it stands in.
            event.nativeEvent.stopImmediatePropagation();
            setRecording(false);
            return;
          }
          if (!wanted.test(key)) {
            setHint(
              functionKeys
                ? "Hold Ctrl, Alt or Meta with it, or press a function key."
                : "Hold Ctrl, Alt or Meta with it.",
            );
            return;
          }
          setRecording(false);
          onChange(key);
        }}
      >
        {recording ? "Press the keys now …" : keyLabel(chord) || "Record a chord"}
      </Button>
      <span className={recording ? "soft" : "caution"} role="status">
        {recording ? hint : said}
      </span>
    </span>
  );
}

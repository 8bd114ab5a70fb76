import { App } from "antd";
import { useEffect, useRef, useState } from "react";
import { openQuickAdd } from "../quick-add/quickAdd";
import { typingSession } from "../typing/TypingSession";
import { deskPlace } from "./desk";
import { KeyRecorder } from "./keyRecorder";

/** Records what is typed on the desk into a new snippet. */
export function RecordKeys() {
  const { message } = App.useApp();
  const recorder = useRef<KeyRecorder>(undefined);
  const [recording, setRecording] = useState(false);

  useEffect(() => {
    if (!recording) return undefined;
    const made = new KeyRecorder();
    recorder.current = made;
    const stops = [
      typingSession.on("focused", (field) => {
        if (field.place !== deskPlace) return;
        if (field.kind === "secret") void message.info("What is typed in this field is not recorded.");
        made.focused(field.app, field.name);
      }),
      typingSession.on("decided", ({ place, secret, key, held, answer }) => {
        if (place === deskPlace && !secret) made.decided(key, held, answer.steps);
      }),
    ];
    return () => stops.forEach((stop) => stop());
  }, [recording, message]);

  const toggle = () => {
    if (!recording) {
      setRecording(true);
      return;
    }
    setRecording(false);
    if (!recorder.current || recorder.current.empty) {
      void message.info("Nothing was typed, so nothing was recorded.");
      return;
    }
    const time = new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
    openQuickAdd({ name: `Recorded at ${time}`, html: recorder.current.toBody() });
  };

  return (
    <button type="button" className="record" aria-pressed={recording} onClick={toggle}>
      {recording ? "Stop recording" : "Record keys"}
    </button>
  );
}

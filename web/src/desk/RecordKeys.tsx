import { App } from "antd";
import { useCallback, useEffect, useState } from "react";
import { openGather, recordedName } from "../gather";
import { typingSession } from "../typing/TypingSession";
import { deskPlace } from "../words/deskApps";
import { onToggleRecording } from "./recording";

/** Records what is typed on the desk into a new snippet. */
export function RecordKeys() {
  const { message } = App.useApp();
  const [recording, setRecording] = useState(false);

  useEffect(() => {
    if (!recording) return undefined;
    return typingSession.on("focused", (field) => {
      if (field.place === deskPlace && field.kind === "secret")
        void message.info("What is typed in this field is not recorded.");
    });
  }, [recording, message]);

  const toggle = useCallback(async () => {
    setRecording(!recording);
    try {
      const html = await typingSession.record(deskPlace, !recording);
      if (!recording) return;
      if (html === null) void message.info("Nothing was typed, so nothing was recorded.");
      else openGather({ name: recordedName(), html });
    } catch (problem) {
      setRecording(false);
      void message.error((problem as Error).message, 6);
    }
  }, [recording, message]);
  useEffect(() => onToggleRecording(() => void toggle()), [toggle]);

  return (
    <button type="button" className="record" aria-pressed={recording} onClick={() => void toggle()}>
      {recording ? "Stop recording" : "Record keys"}
    </button>
  );
}

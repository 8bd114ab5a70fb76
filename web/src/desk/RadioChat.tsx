import { useEffect, useRef, type KeyboardEvent } from "react";
import { useTypingControl } from "../typing/useTypingControl";
import { deskPlace } from "../words/deskApps";
import { DeskWindow } from "./DeskWindow";
import { useKept } from "./useKept";

/** Short messages: Enter sends, Shift+Enter makes a line. */
export function RadioChat() {
  const field = useRef<HTMLTextAreaElement>(null);
  const end = useRef<HTMLLIElement>(null);
  const [messages, setMessages] = useKept("radio-chat", [
    { from: "Sea Thrift", text: "Gullhaven, is a berth free tonight?" },
  ]);
  useTypingControl(field, { place: deskPlace, app: "radio-chat", name: "Message", kind: "single-line" });
  useEffect(() => {
    end.current?.scrollIntoView({ block: "end" });
  }, [messages]);

  const onKeyDown = (event: KeyboardEvent<HTMLTextAreaElement>) => {
    if (event.key !== "Enter" || event.shiftKey) return;
    event.preventDefault();
    const text = event.currentTarget.value;
    if (text.trim() === "") return;
    event.currentTarget.value = "";
    setMessages((before) => [...before.slice(-99), { from: "Office", text }]);
  };

  return (
    <DeskWindow app="radio-chat">
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a region that scrolls must be reachable by keyboard */}
      <ol className="messages" tabIndex={0} aria-label="Messages">
        {messages.map((message, at) => (
          <li key={at} className={message.from === "Office" ? "own" : ""}>
            <span className="soft">{message.from}</span> {message.text}
          </li>
        ))}
        <li ref={end} aria-hidden className="end" />
      </ol>
      <textarea
        ref={field}
        data-first
        rows={2}
        aria-label="Message"
        placeholder="Enter sends, Shift+Enter makes a line"
        onKeyDown={onKeyDown}
      />
    </DeskWindow>
  );
}

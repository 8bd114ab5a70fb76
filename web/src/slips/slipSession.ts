import { toast } from "../ui/toasts";
import { TypingSession } from "../typing/TypingSession";

let session: TypingSession | undefined;

/**
 * What is typed into the fields of a slip: a keyboard of its own, since the other one waits for the slip's answer. A snippet that asks
 * something itself cannot go in there.
 */
export function slipSession(): TypingSession {
  if (session) return session;
  session = new TypingSession();
  const refused = (what: string) => toast(`${what}, and that cannot be asked over a slip. It stays as typed.`);
  session.on("slip", (slip) => {
    if (!slip) return;
    slip.leave();
    refused(`“${slip.message.snippet}” asks for something itself`);
  });
  session.on("question", (question) => {
    if (!question) return;
    question.answer(false);
    refused("This snippet opens something");
  });
  session.on("fault", (text) => toast(text, { key: "typing", kind: "fault" }));
  return session;
}

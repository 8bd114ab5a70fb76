import { useRef, useState, type FormEvent } from "react";
import { useTypingControl } from "../typing/useTypingControl";
import { deskPlace } from "../words/deskApps";
import { DeskWindow } from "./DeskWindow";
import { useKept } from "./useKept";

const fields = ["Name", "Address", "E-mail", "Phone"] as const;
const app = "permit-portal";

/** A form of somebody else's: several fields, and a pass-phrase that cannot be pasted. */
export function PermitPortal() {
  const [answers, setAnswers] = useKept<Record<string, string>>(app, {});
  const [said, setSaid] = useState("");
  const phrase = useRef<HTMLInputElement>(null);
  useTypingControl(phrase, { place: deskPlace, app, name: "Pass-phrase", kind: "secret" });

  const onSubmit = (event: FormEvent) => {
    event.preventDefault();
    const missing = fields.filter((name) => !answers[name]?.trim());
    if (phrase.current?.value === "") setSaid("The pass-phrase is missing.");
    else if (missing.length > 0) setSaid(`Still missing: ${missing.join(", ")}.`);
    else setSaid(`A permit for ${answers["Name"] ?? ""} was asked for.`);
  };

  return (
    <DeskWindow app="permit-portal">
      <form className="portal" onSubmit={onSubmit} noValidate>
        {fields.map((name, at) => (
          <PortalField
            key={name}
            name={name}
            first={at === 0}
            value={answers[name] ?? ""}
            onChange={(value) => setAnswers((before) => ({ ...before, [name]: value }))}
          />
        ))}
        <label htmlFor="portal-phrase">Pass-phrase</label>
        <input id="portal-phrase" ref={phrase} type="password" autoComplete="off" />
        <span />
        <button type="submit" className="portal-send">
          Ask for a permit
        </button>
        <p role="status" className="soft">
          {said}
        </p>
      </form>
    </DeskWindow>
  );
}

function PortalField(props: { name: string; first: boolean; value: string; onChange: (value: string) => void }) {
  const field = useRef<HTMLInputElement>(null);
  const id = `portal-${props.name}`;
  useTypingControl(field, { place: deskPlace, app, name: props.name, kind: "single-line" });
  return (
    <>
      <label htmlFor={id}>{props.name}</label>
      <input
        id={id}
        ref={field}
        data-first={props.first ? true : undefined}
        autoComplete="off"
        defaultValue={props.value}
        onChange={(event) => props.onChange(event.target.value)}
      />
    </>
  );
}

import { DeskWindow } from "./DeskWindow";
import { isAddress, titleOf } from "../words/deskApps";
import { closeOpened, useOpened, type OpenedThing } from "./openedThings";

/** The web and mail addresses that were opened. Nothing is loaded: the desk only shows them. */
export function WebTabs() {
  const tabs = useOpened().filter((thing) => isAddress(thing.target));
  return (
    <DeskWindow app="web-tabs">
      <Things things={tabs} label="Tabs" empty="No tab is open. A snippet that opens an address shows it here." />
    </DeskWindow>
  );
}

/** The documents, folders and applications that were opened. */
export function Files() {
  const files = useOpened().filter((thing) => !isAddress(thing.target));
  return (
    <DeskWindow app="files">
      <Things
        things={files}
        label="Opened"
        empty="Nothing was opened yet. Snippets open documents, folders and applications here."
      />
    </DeskWindow>
  );
}

function Things({ things, label, empty }: { things: OpenedThing[]; label: string; empty: string }) {
  if (things.length === 0) return <p className="soft opened-none">{empty}</p>;
  return (
    <ol className="opened" aria-label={label}>
      {things.toReversed().map((thing) => (
        <li key={thing.id}>
          <strong>{titleOf(thing.target)}</strong>
          <span className="soft target">{thing.target}</span>
          <span className="soft">{thing.at}</span>
          <button type="button" data-first className="plain-button" onClick={() => closeOpened(thing.id)}>
            Close
          </button>
        </li>
      ))}
    </ol>
  );
}

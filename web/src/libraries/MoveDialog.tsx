import { Button } from "antd";
import { useId, useState, type KeyboardEvent } from "react";
import { useLibraries } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { placesOf, type SnippetPlace } from "../items/places";

interface Props {
  many: number;
  onMove: (parentId: number) => void;
  onClose: () => void;
}

/** Every letter of what was typed stands in the way to the place, in this order. */
function fits({ label }: SnippetPlace, typed: string): boolean {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const way = label.toLowerCase();
  return words.every((word) => way.includes(word));
}

/** Asks for a library or folder by typing a part of its name. */
export function MoveDialog({ many, onMove, onClose }: Props) {
  const { data } = useLibraries();
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const list = useId();
  const places = (data ? placesOf(data) : []).filter((place) => fits(place, typed));
  const current = places[Math.min(at, places.length - 1)];

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, places.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter" && current) onMove(current.id);
    else return;
    event.preventDefault();
  };

  return (
    <Dialog
      open
      title={many === 1 ? "Move to …" : `Move ${many} rows to …`}
      width={520}
      onCancel={onClose}
      footer={
        <Button type="primary" disabled={!current} onClick={() => current && onMove(current.id)}>
          {current ? `Move to ${current.label}` : "Move"}
        </Button>
      }
    >
      <input
        className="place-input"
        role="combobox"
        aria-label="Library or folder"
        aria-expanded
        aria-controls={list}
        aria-activedescendant={current && `${list}-${current.id}`}
        placeholder="Type a part of the name"
        autoComplete="off"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
      />
      <div className="place-list" role="listbox" tabIndex={-1} id={list} aria-label="Places">
        {places.map((place, index) => (
          // oxlint-disable-next-line jsx-a11y/click-events-have-key-events -- the box has the keys
          <div
            key={place.id}
            id={`${list}-${place.id}`}
            role="option"
            tabIndex={-1}
            aria-selected={place === current}
            ref={place === current ? (element) => element?.scrollIntoView({ block: "nearest" }) : undefined}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => (index === at ? onMove(place.id) : setAt(index))}
          >
            {place.label}
          </div>
        ))}
        {places.length === 0 && <div className="soft">No library or folder is named so.</div>}
      </div>
    </Dialog>
  );
}

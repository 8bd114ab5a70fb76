import { useQuery } from "@tanstack/react-query";
import { useId, useRef, useState, type KeyboardEvent } from "react";
import { api, unwrap } from "../api/client";
import { useLater } from "../ui/useLater";

interface Props {
  filter: string;
  onFilter: (filter: string) => void;
  /** On to the rows. */
  onLeave: () => void;
}

export const filterBoxId = "filter";

/** A box that leaves of the table what one is after, with what could be typed next beneath it. */
export function FilterBox({ filter, onFilter, onLeave }: Props) {
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(-1);
  const box = useRef<HTMLInputElement>(null);
  const list = useId();
  const asked = useLater(filter, 60);
  const { data: suggestions = [] } = useQuery({
    queryKey: ["filter", asked],
    queryFn: () => unwrap(api.POST("/api/libraries/filter", { body: { filter: asked } })),
    enabled: open,
    placeholderData: (before) => before,
    gcTime: 0,
  });
  const shown = open ? suggestions : [];
  const current = at >= 0 ? shown[at] : undefined;

  const change = (next: string) => {
    onFilter(next);
    setAt(-1);
    setOpen(true);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    const last = shown.length - 1;
    if (event.key === "ArrowDown" && shown.length > 0) setAt(Math.min(at + 1, last));
    else if (event.key === "ArrowDown") onLeave();
    else if (event.key === "ArrowUp" && shown.length > 0) setAt(Math.max(at - 1, -1));
    else if (event.key === "Enter" && current) change(current.filter);
    else if (event.key === "Enter") {
      setOpen(false);
      onLeave();
    } else if (event.key === "Escape" && shown.length > 0 && at >= 0) setAt(-1);
    else if (event.key === "Escape" && filter !== "") change("");
    else if (event.key === "Escape") {
      setOpen(false);
      onLeave();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div className="filter">
      <input
        id={filterBoxId}
        ref={box}
        role="combobox"
        aria-label="Filter the table"
        aria-expanded={shown.length > 0}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={current ? `${list}-${at}` : undefined}
        placeholder="Filter: words, never used, case:exact …"
        autoComplete="off"
        spellCheck={false}
        value={filter}
        onChange={(event) => change(event.target.value)}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={onKeyDown}
      />
      {filter === "" ? (
        <kbd aria-hidden>/</kbd>
      ) : (
        <button
          type="button"
          className="filter-clear"
          aria-label="Show everything again"
          onClick={() => {
            change("");
            box.current?.focus();
          }}
        >
          ×
        </button>
      )}
      {shown.length > 0 && (
        <div className="filter-suggestions" role="listbox" tabIndex={-1} id={list} aria-label="What could be typed">
          {shown.map((suggestion, place) => (
            // oxlint-disable-next-line jsx-a11y/click-events-have-key-events -- the box has the keys
            <div
              key={suggestion.word}
              id={`${list}-${place}`}
              role="option"
              tabIndex={-1}
              aria-selected={place === at}
              // The box keeps the focus.
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => change(suggestion.filter)}
            >
              <code>{suggestion.word}</code> <span className="soft">{suggestion.meaning}</span>
            </div>
          ))}
        </div>
      )}
    </div>
  );
}

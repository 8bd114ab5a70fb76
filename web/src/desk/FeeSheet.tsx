import { useRef, type KeyboardEvent } from "react";
import { useTypingControl } from "../typing/useTypingControl";
import { deskPlace } from "../words/deskApps";
import { DeskWindow } from "./DeskWindow";
import { useKept } from "./useKept";

const columns = ["Vessel", "Length", "Nights", "Rate", "Note"] as const;
const rowCount = 6;

const firstCells = [
  ["Marram", "12", "3", "2.40", ""],
  ["Sea Thrift", "24", "1", "2.40", ""],
];

/** A grid of cells: Enter goes down, Tab to the right. */
export function FeeSheet() {
  const [cells, setCells] = useKept<string[][]>("fee-sheet", firstCells);
  const sheet = useRef<HTMLTableElement>(null);
  const set = (row: number, column: number, value: string) =>
    setCells((before) =>
      Array.from({ length: rowCount }, (_, at) =>
        columns.map((_name, place) => (at === row && place === column ? value : (before[at]?.[place] ?? ""))),
      ),
    );
  const go = (row: number, column: number) =>
    sheet.current?.querySelector<HTMLElement>(`[data-cell="${row}-${column}"]`)?.focus();

  return (
    <DeskWindow app="fee-sheet">
      <div className="sheet-holder">
        <table className="sheet" ref={sheet}>
          <thead>
            <tr>
              {columns.map((name) => (
                <th key={name} scope="col">
                  {name}
                </th>
              ))}
              <th scope="col">Fee</th>
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: rowCount }, (_, row) => (
              <tr key={row}>
                {columns.map((name, column) => (
                  <td key={name}>
                    <Cell
                      name={`${name} ${row + 1}`}
                      at={`${row}-${column}`}
                      first={row === 0 && column === 0}
                      value={cells[row]?.[column] ?? ""}
                      onChange={(value) => set(row, column, value)}
                      onEnter={(up) => go(Math.min(Math.max(row + (up ? -1 : 1), 0), rowCount - 1), column)}
                    />
                  </td>
                ))}
                <td className="fee">
                  <output aria-label={`Fee ${row + 1}`}>{fee(cells[row] ?? [])}</output>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </DeskWindow>
  );
}

/** Length × nights × rate, in whole cents. */
function fee([, length, nights, rate]: string[]): string {
  const numbers = [length, nights, rate].map((text) => (text?.trim() ? Number(text) : NaN));
  const [metres = NaN, count = NaN, price = NaN] = numbers;
  const cents = Math.round(metres * count * price * 100);
  return Number.isFinite(cents) ? (cents / 100).toFixed(2) : "";
}

interface CellProps {
  name: string;
  at: string;
  first: boolean;
  value: string;
  onChange: (value: string) => void;
  onEnter: (up: boolean) => void;
}

function Cell({ name, at, first, value, onChange, onEnter }: CellProps) {
  const field = useRef<HTMLTextAreaElement>(null);
  useTypingControl(field, { place: deskPlace, app: "fee-sheet", name, kind: "single-line" });
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "Enter" || event.altKey) return;
    event.preventDefault();
    onEnter(event.shiftKey);
  };
  return (
    <textarea
      ref={field}
      rows={1}
      aria-label={name}
      data-cell={at}
      data-first={first ? true : undefined}
      defaultValue={value}
      onChange={(event) => onChange(event.target.value)}
      onKeyDown={onKeyDown}
    />
  );
}

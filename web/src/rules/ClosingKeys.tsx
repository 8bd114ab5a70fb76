import { Checkbox, Select } from "antd";
import { useKeySets } from "../api/queries";
import { KeyPresses } from "../ui/KeyPresses";
import { nameOfKeys } from "./keySets";
import "./ClosingKeys.css";

const own = "";

/** A choice of closing keys: those of somebody else, a set by its name, or keys of one’s own that are pressed. */
export function ClosingKeys(props: {
  label: string;
  keys: string[] | null;
  otherwise: string[];
  onChange: (keys: string[] | null) => void;
}) {
  const { keys, otherwise, onChange } = props;
  const { data: sets = [] } = useKeySets();
  const shown = keys ?? otherwise;
  return (
    <div className="closing-key-choice">
      {props.label !== "" && (
        <Checkbox checked={keys !== null} onChange={(event) => onChange(event.target.checked ? otherwise : null)}>
          {props.label}
        </Checkbox>
      )}
      {keys !== null && (
        <Select
          aria-label="Set of closing keys"
          popupMatchSelectWidth={false}
          value={nameOfKeys(sets, keys) ?? own}
          options={[
            ...sets.map(({ name }) => ({ value: name, label: name })),
            ...(nameOfKeys(sets, keys) === undefined ? [{ value: own, label: "Keys of its own" }] : []),
          ]}
          onChange={(name: string) => {
            const chosen = sets.find((set) => set.name === name);
            if (chosen) onChange([...chosen.keys]);
          }}
        />
      )}
      <KeyPresses keys={shown} onChange={keys === null ? undefined : onChange} />
    </div>
  );
}

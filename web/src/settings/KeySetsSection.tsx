import { Button, Checkbox, Input } from "antd";
import { useState } from "react";
import { api, unwrap, type KeySet } from "../api/client";
import { keys, librariesChanged, queryClient, useKeySets } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { toast } from "../ui/toasts";
import { useRefusal } from "../ui/useRefusal";
import { KeyPresses } from "../ui/KeyPresses";

const newSet: KeySet = { name: "", keys: [], places: 0, fixed: false };

/** Closing keys with names, to be chosen in libraries and triggers. */
export function KeySetsSection() {
  const { data } = useKeySets();
  const [edited, setEdited] = useState<KeySet>();
  if (!data) return null;
  const remove = async ({ name, keys: pressed }: KeySet) => {
    const params = { path: { name } };
    queryClient.setQueryData(keys.keySets, await unwrap(api.DELETE("/api/key-sets/{name}", { params })));
    const body = { name, keys: pressed, everywhere: false };
    const back = async () =>
      queryClient.setQueryData(keys.keySets, await unwrap(api.PUT("/api/key-sets/{name}", { params, body })));
    toast(`The set “${name}” is gone. Where its keys hold they stay.`, {
      key: "undo",
      action: { label: "Undo", act: () => void back() },
    });
  };
  return (
    <section aria-labelledby="key-sets">
      <h2 id="key-sets">Closing-key sets</h2>
      <ul className="key-sets">
        {data.map((set) => (
          <li key={set.name}>
            <span className="key-set-name">{set.name}</span>
            <KeyPresses keys={set.keys} />
            <span className="soft">{set.places === 1 ? "holds in 1 place" : `holds in ${set.places} places`}</span>
            {set.fixed ? (
              <span className="soft">stays as it is</span>
            ) : (
              <span>
                <Button size="small" onClick={() => setEdited(set)}>
                  Change<span className="visually-hidden"> {set.name}</span>
                </Button>{" "}
                <Button size="small" type="text" onClick={() => void remove(set)}>
                  Take away<span className="visually-hidden"> {set.name}</span>
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      <Button onClick={() => setEdited(newSet)}>New set</Button>
      {edited && <KeySetDialog set={edited} onClose={() => setEdited(undefined)} />}
    </section>
  );
}

function KeySetDialog({ set, onClose }: { set: KeySet; onClose: () => void }) {
  const [name, setName] = useState(set.name);
  const [pressed, setPressed] = useState<string[]>(set.keys);
  const [everywhere, setEverywhere] = useState(true);
  const [fault, attempt] = useRefusal();
  const isNew = set.name === "";
  const save = () =>
    attempt(async () => {
      const params = { path: { name: isNew ? name.trim() : set.name } };
      const body = { name, keys: pressed, everywhere: everywhere && !isNew };
      queryClient.setQueryData(keys.keySets, await unwrap(api.PUT("/api/key-sets/{name}", { params, body })));
      onClose();
      await librariesChanged();
    });
  return (
    <Dialog
      open
      title={isNew ? "New set of closing keys" : `Closing keys “${set.name}”`}
      okText="Save"
      okButtonProps={{ disabled: name.trim() === "" || pressed.length === 0 }}
      onOk={() => void save()}
      onCancel={onClose}
    >
      <div className="key-set-form">
        <label>
          <span>Name</span>
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <KeyPresses keys={pressed} onChange={setPressed} />
        {set.places > 0 && !isNew && (
          <Checkbox checked={everywhere} onChange={(event) => setEverywhere(event.target.checked)}>
            {set.places === 1
              ? "Also in the place where it holds now"
              : `Also in the ${set.places} places where it holds now`}
          </Checkbox>
        )}
        {fault && (
          <p className="fault" role="alert">
            {fault}
          </p>
        )}
      </div>
    </Dialog>
  );
}

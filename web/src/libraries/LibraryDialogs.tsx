import { Button, Input, Modal, type InputRef } from "antd";
import { useRef, useState } from "react";
import { useLibraries } from "../api/queries";
import { LibraryRules } from "./LibraryRules";
import type { useLibraryActions } from "./useLibraryActions";
import { AntRoot } from "../theme/AntRoot";

/** What is asked over the table. */
export type Dialog =
  | { kind: "library" }
  | { kind: "folder"; parentId: number }
  | { kind: "rules"; libraryId: number }
  | { kind: "import"; file: File };

interface Props {
  dialog: Dialog;
  actions: ReturnType<typeof useLibraryActions>;
  onMade: (id: number) => void;
  onClose: () => void;
}

/** The dialogs of the libraries. */
export default function LibraryDialogs(props: Props) {
  return (
    <AntRoot>
      <OneDialog {...props} />
    </AntRoot>
  );
}

function OneDialog({ dialog, actions, onMade, onClose }: Props) {
  const { data } = useLibraries();
  switch (dialog.kind) {
    case "rules":
      return (
        <LibraryRules
          library={data?.libraries.find((library) => library.id === dialog.libraryId)}
          onClose={onClose}
          onChange={(change) => void actions.setRules(dialog.libraryId, change)}
        />
      );
    case "import":
      return (
        <Modal
          title={`Add libraries from ${dialog.file.name}`}
          open
          onCancel={onClose}
          footer={[
            <Button key="add" onClick={() => (void actions.importFile(dialog.file, false), onClose())}>
              Add as new
            </Button>,
            <Button
              key="replace"
              type="primary"
              onClick={() => (void actions.importFile(dialog.file, true), onClose())}
            >
              Replace those of the same name
            </Button>,
          ]}
        >
          If a library of the same name is here already, adding stops without a change; replacing puts what the file
          holds in its place, and what only the old one had goes into the bin.
        </Modal>
      );
    default:
      return (
        <NameDialog
          title={dialog.kind === "folder" ? "New folder" : "New library"}
          onDone={(name) => {
            onClose();
            if (name === undefined) return;
            const made = dialog.kind === "folder" ? actions.addFolder(dialog.parentId, name) : actions.addLibrary(name);
            void made.then((item) => item && onMade(item.id));
          }}
        />
      );
  }
}

function NameDialog(props: { title: string; onDone: (name: string | undefined) => void }) {
  const [name, setName] = useState("");
  const input = useRef<InputRef>(null);
  return (
    <Modal
      title={props.title}
      open
      okText="Add"
      // The dialog takes the focus to itself once it has opened; the name is what one wants to type.
      afterOpenChange={(open) => open && input.current?.focus()}
      onCancel={() => props.onDone(undefined)}
      onOk={() => props.onDone(name)}
      okButtonProps={{ disabled: name.trim() === "" }}
      destroyOnHidden
    >
      <Input
        ref={input}
        autoFocus
        value={name}
        placeholder="Name"
        aria-label="Name"
        onChange={(event) => setName(event.target.value)}
        onPressEnter={() => name.trim() !== "" && props.onDone(name)}
      />
    </Modal>
  );
}

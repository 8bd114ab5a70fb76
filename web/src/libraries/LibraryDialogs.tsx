import { Input } from "antd";
import { useState } from "react";
import { Dialog } from "../ui/Dialog";
import { ExportDialog, ImportDialog } from "../exchange/parts";
import type { FolderNode } from "../api/client";
import { useLibraries } from "../api/queries";
import { BulkEditDialog } from "./BulkEditDialog";
import { ListDialog } from "./ListDialog";
import { MoveDialog } from "./MoveDialog";
import { FolderRules, LibraryRules } from "./PlaceRules";
import type { useLibraryActions } from "../items/useLibraryActions";
import { AntRoot } from "../theme/AntRoot";

/** What is asked over the table. */
export type LibraryDialog =
  | { kind: "library" }
  | { kind: "folder"; parentId: number }
  | { kind: "rules"; libraryId: number }
  | { kind: "folder-rules"; folderId: number }
  | { kind: "list"; place: { id: number; label: string } | null; text: string }
  | { kind: "move"; ids: number[] }
  | { kind: "edit"; ids: number[] }
  | { kind: "export"; ids: number[] }
  | { kind: "import"; files: readonly File[]; place: { id: number; label: string } | null };

interface Props {
  dialog: LibraryDialog;
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
          place={data?.libraries.find((library) => library.id === dialog.libraryId)}
          onClose={onClose}
          onChange={(change) => void actions.setRules(dialog.libraryId, change)}
        />
      );
    case "folder-rules": {
      const library = data?.libraries.find((one) => folderIn(one.folders, dialog.folderId) !== undefined);
      return (
        <FolderRules
          place={library && folderIn(library.folders, dialog.folderId)}
          library={library}
          onClose={onClose}
          onChange={(change) => void actions.changeFolder(dialog.folderId, change)}
        />
      );
    }
    case "move":
      return (
        <MoveDialog
          many={dialog.ids.length}
          onClose={onClose}
          onMove={(parentId) => (void actions.move(dialog.ids, parentId, null), onClose())}
        />
      );
    case "edit":
      return (
        <BulkEditDialog
          many={dialog.ids.length}
          onClose={onClose}
          onEdit={(edit) => (void actions.editInBulk(dialog.ids, edit), onClose())}
        />
      );
    case "export":
      return (
        <ExportDialog ids={dialog.ids} onClose={onClose} onSave={(address) => void actions.save(dialog.ids, address)} />
      );
    case "list":
      return <ListDialog place={dialog.place} begin={dialog.text} onClose={onClose} />;
    case "import":
      return <ImportDialog files={dialog.files} place={dialog.place} onClose={onClose} />;
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

function folderIn(folders: readonly FolderNode[], id: number): FolderNode | undefined {
  for (const folder of folders) {
    const found = folder.id === id ? folder : folderIn(folder.folders, id);
    if (found) return found;
  }
  return undefined;
}

function NameDialog(props: { title: string; onDone: (name: string | undefined) => void }) {
  const [name, setName] = useState("");
  return (
    <Dialog
      title={props.title}
      open
      okText="Add"
      onCancel={() => props.onDone(undefined)}
      onOk={() => props.onDone(name)}
      okButtonProps={{ disabled: name.trim() === "" }}
    >
      <Input
        value={name}
        placeholder="Name"
        aria-label="Name"
        onChange={(event) => setName(event.target.value)}
        onPressEnter={() => name.trim() !== "" && props.onDone(name)}
      />
    </Dialog>
  );
}

import { LookDialog } from "./LookDialog";
import { openImport } from "./importing";

interface Props {
  files: readonly File[];
  place: { id: number; label: string } | null;
  onClose: () => void;
}

/** Files that are looked at before they are brought in. */
export function ImportDialog({ files, place, onClose }: Props) {
  return (
    <LookDialog
      title={`Bring in from ${files.length === 1 ? files[0]!.name : `${files.length} files`}`}
      name={["files", files]}
      open={() => openImport(files, place?.id ?? null)}
      hasOptions
      verb="Bring in"
      onClose={onClose}
    />
  );
}

import type { RefObject } from "react";

interface Props {
  ref: RefObject<HTMLInputElement | null>;
  /** Which files are offered, as the HTML attribute says it. */
  accept: string;
  label: string;
  onFile?: (file: File) => void;
  /** Where several may be chosen at once. */
  onFiles?: (files: readonly File[]) => void;
}

/** The file picker behind a button that clicks it; the same file can be chosen again. */
export function FileInput({ ref, accept, label, onFile, onFiles }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      multiple={onFiles !== undefined}
      hidden
      aria-label={label}
      onChange={(event) => {
        const files = [...(event.target.files ?? [])];
        event.target.value = "";
        if (files.length === 0) return;
        onFiles?.(files);
        onFile?.(files[0]!);
      }}
    />
  );
}

import type { RefObject } from "react";

interface Props {
  ref: RefObject<HTMLInputElement | null>;
  /** Which files are offered, as the HTML attribute says it. */
  accept: string;
  label: string;
  onFile: (file: File) => void;
}

/** The file picker behind a button that clicks it; the same file can be chosen again. */
export function FileInput({ ref, accept, label, onFile }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      hidden
      aria-label={label}
      onChange={(event) => {
        const file = event.target.files?.[0];
        event.target.value = "";
        if (file) onFile(file);
      }}
    />
  );
}

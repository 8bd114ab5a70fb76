import { useQuery } from "@tanstack/react-query";
import { Checkbox, Radio } from "antd";
import { useState } from "react";
import { api, unwrap } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { exportAddress, fileFormats, type FileFormat } from "../items/exporting";

interface Props {
  /** Libraries, folders and snippets; none for all there are. */
  ids: readonly number[];
  onSave: (address: string) => void;
  onClose: () => void;
}

/** What kind of file is made of the libraries, or of a part of them, and whether private snippets go along. */
export function ExportDialog({ ids, onSave, onClose }: Props) {
  const [format, setFormat] = useState<FileFormat>("json");
  const [withPrivate, setWithPrivate] = useState(false);
  const { data } = useQuery({
    queryKey: ["file-contents", ids],
    queryFn: () => unwrap(api.POST("/api/library-file/contents", { body: { ids: [...ids] } })),
    staleTime: 0,
  });
  const hidden = data?.private ?? 0;
  return (
    <Dialog
      open
      title={ids.length === 0 ? "Save all to a file" : "Save to a file"}
      okText="Save"
      onOk={() => {
        onSave(exportAddress(ids, format, withPrivate));
        onClose();
      }}
      onCancel={onClose}
    >
      <div className="export-form">
        <Radio.Group
          aria-label="Kind of file"
          value={format}
          onChange={(event) => setFormat(event.target.value as FileFormat)}
        >
          {Object.entries(fileFormats).map(([kind, { label, hint }]) => (
            <Radio key={kind} value={kind}>
              {label} <span className="soft">{hint}</span>
            </Radio>
          ))}
        </Radio.Group>
        {hidden > 0 && (
          <Checkbox checked={withPrivate} onChange={(event) => setWithPrivate(event.target.checked)}>
            {hidden === 1 ? "Take the private snippet along" : `Take the ${hidden} private snippets along`}{" "}
            <span className="soft">as readable text</span>
          </Checkbox>
        )}
        {data && (
          <p className="soft" role="status">
            {count(withPrivate ? data.snippets : data.snippets - hidden)}
            {hidden > 0 &&
              !withPrivate &&
              `; ${count(hidden)} ${hidden === 1 ? "stays out, being private" : "stay out, being private"}`}
          </p>
        )}
      </div>
    </Dialog>
  );
}

const count = (snippets: number): string => (snippets === 1 ? "1 snippet" : `${snippets} snippets`);

import { Button, Checkbox, Input } from "antd";
import { useState } from "react";
import { api, unwrap, type Mirror, type MirrorLook } from "../api/client";
import { useLibraries } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { useRefusal } from "../ui/useRefusal";
import { mirrorsAre } from "./mirrorsQuery";

/** Chooses a folder, and what is to be mirrored there: libraries of this machine, and what lies there already. */
export function AddMirrors({ mirrored, onClose }: { mirrored: readonly Mirror[]; onClose: () => void }) {
  const { data: tree } = useLibraries();
  const [folder, setFolder] = useState(mirrored[0]?.folder ?? "");
  const [look, setLook] = useState<MirrorLook>();
  const [own, setOwn] = useState<ReadonlySet<number>>(new Set());
  const [files, setFiles] = useState<ReadonlySet<string>>(new Set());
  const [pocket, setPocket] = useState(mirrored[0]?.pocket ?? false);
  const [fault, tried] = useRefusal();
  const taken = new Set(mirrored.map(({ libraryId }) => libraryId));
  const joining = new Set((look?.found ?? []).filter(({ file }) => files.has(file)).map(({ hereId }) => hereId));
  const free = (tree?.libraries ?? []).filter(({ id }) => !taken.has(id));

  const lookInto = () =>
    tried(async () => {
      const found = await unwrap(api.POST("/api/mirrors/look", { body: { folder } }));
      setLook(found);
      setFolder(found.folder);
      setFiles(new Set(found.found.map(({ file }) => file)));
    });
  const add = () =>
    tried(async () => {
      const libraryIds = [...own].filter((id) => !joining.has(id));
      await mirrorsAre(unwrap(api.POST("/api/mirrors", { body: { folder, libraryIds, files: [...files], pocket } })));
      onClose();
    });
  const toggled = <T,>(set: ReadonlySet<T>, one: T): ReadonlySet<T> => {
    const next = new Set(set);
    if (!next.delete(one)) next.add(one);
    return next;
  };

  return (
    <Dialog
      open
      width={560}
      title="Mirror libraries in a folder"
      okText="Mirror"
      okButtonProps={{ disabled: !look || own.size + files.size === 0 }}
      onOk={() => void add()}
      onCancel={onClose}
    >
      <div className="mirror-form">
        <label htmlFor="mirror-folder">Folder</label>
        <div className="mirror-look">
          <Input
            id="mirror-folder"
            className="typed"
            value={folder}
            placeholder="/home/you/shared/snippets"
            onChange={(event) => {
              setFolder(event.target.value);
              setLook(undefined);
            }}
            onPressEnter={() => void lookInto()}
          />
          <Button disabled={folder.trim() === ""} onClick={() => void lookInto()}>
            Look into it
          </Button>
        </div>
        <p className="soft">A folder of this machine that something carries: a synchronised one, or a clone.</p>
        {look && (
          <>
            {look.found.length > 0 && (
              <fieldset>
                <legend>Lies there already</legend>
                {look.found.map(({ file, name, snippets, hereId }) => (
                  <Checkbox key={file} checked={files.has(file)} onChange={() => setFiles(toggled(files, file))}>
                    {name}{" "}
                    <span className="soft">
                      {snippets} {snippets === 1 ? "snippet" : "snippets"},{" "}
                      {hereId === null ? "comes in as a library of its own" : "becomes one with the library here"}
                    </span>
                  </Checkbox>
                ))}
              </fieldset>
            )}
            <fieldset>
              <legend>Libraries of this machine</legend>
              {free.map(({ id, name }) => (
                <Checkbox
                  key={id}
                  checked={own.has(id) || joining.has(id)}
                  disabled={joining.has(id)}
                  onChange={() => setOwn(toggled(own, id))}
                >
                  {name}
                </Checkbox>
              ))}
              {free.length === 0 && <p className="soft">All of them are mirrored already.</p>}
            </fieldset>
            <Checkbox checked={pocket} onChange={(event) => setPocket(event.target.checked)}>
              Write the pocket file there too, for a phone
            </Checkbox>
            {look.problems.map((problem) => (
              <p key={problem} className="soft">
                {problem}
              </p>
            ))}
          </>
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

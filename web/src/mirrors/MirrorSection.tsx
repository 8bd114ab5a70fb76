import { Button, Switch } from "antd";
import { useEffect, useRef, useState } from "react";
import { useLocation } from "react-router";
import { api, unwrap, type Mirror } from "../api/client";
import { toast } from "../ui/toasts";
import { AddMirrors } from "./AddMirrors";
import { MirrorConflicts } from "./MirrorConflicts";
import { inFolders, stateWords } from "./mirrorWords";
import { mirrorsAre, useMirrors } from "./mirrorsQuery";
import "./mirrors.css";

/** Libraries that travel between machines as files in a folder. */
export function MirrorSection() {
  const { data: mirrors } = useMirrors();
  const [adding, setAdding] = useState(false);
  const { hash } = useLocation();
  const head = useRef<HTMLHeadingElement>(null);
  const there = mirrors !== undefined;
  // Who came for a choice to make is where it is made.
  useEffect(() => {
    if (there && hash === "#mirrors") head.current?.scrollIntoView({ block: "start" });
  }, [there, hash]);
  if (!mirrors) return null;
  const act = (answer: Promise<Mirror[]>) =>
    void mirrorsAre(answer).catch((problem: Error) => toast(problem.message, { kind: "fault" }));
  return (
    <section aria-labelledby="mirrors">
      <h2 id="mirrors" ref={head}>
        Mirror folders
      </h2>
      <p className="soft">
        A library can lie in a folder as a file that any file-synchronising tool or version control carries to your
        other machines. What changes on one of them comes to all, part by part; private snippets stay on this machine.
      </p>
      <div className="mirrors">
        {inFolders(mirrors).map(({ folder, libraries }) => (
          <div key={folder} className="mirror-folder">
            <h3 className="mirror-path">{folder}</h3>
            <ul>
              {libraries.map((mirror) => (
                <MirroredLibrary key={mirror.libraryId} mirror={mirror} act={act} />
              ))}
            </ul>
            <label className="mirror-pocket">
              <Switch
                size="small"
                checked={libraries[0]!.pocket}
                onChange={(pocket) =>
                  act(
                    unwrap(
                      api.PATCH("/api/mirrors/{libraryId}", {
                        params: { path: { libraryId: libraries[0]!.libraryId } },
                        body: { pocket },
                      }),
                    ),
                  )
                }
              />{" "}
              Write the pocket file of these libraries there too, for a phone
            </label>
          </div>
        ))}
      </div>
      <div className="mirror-buttons">
        <Button onClick={() => setAdding(true)}>{mirrors.length === 0 ? "Choose a folder" : "Mirror more"}</Button>
        {mirrors.length > 0 && <Button onClick={() => act(unwrap(api.POST("/api/mirrors/sync")))}>Look now</Button>}
      </div>
      {adding && <AddMirrors mirrored={mirrors} onClose={() => setAdding(false)} />}
    </section>
  );
}

function MirroredLibrary({ mirror, act }: { mirror: Mirror; act: (answer: Promise<Mirror[]>) => void }) {
  const params = { path: { libraryId: mirror.libraryId } };
  const stop = async () => {
    const { folder, libraryId, pocket } = mirror;
    await mirrorsAre(unwrap(api.DELETE("/api/mirrors/{libraryId}", { params })));
    const body = { folder, libraryIds: [libraryId], files: [], pocket };
    toast(`“${mirror.library}” is mirrored no more. Its file stays where it is.`, {
      key: "undo",
      action: { label: "Undo", act: () => act(unwrap(api.POST("/api/mirrors", { body }))) },
    });
  };
  return (
    <li className="mirror">
      <span className="mirror-name">{mirror.library}</span>
      <span className="mirror-file soft">{mirror.file}</span>
      <span className={`mirror-state ${mirror.state}`}>{stateWords(mirror)}</span>
      <Button size="small" type="text" onClick={() => void stop()}>
        Stop<span className="visually-hidden"> mirroring {mirror.library}</span>
      </Button>
      {mirror.words !== "" && mirror.state !== "undecided" && (
        <p className={`mirror-words ${mirror.state === "fault" ? "fault" : "soft"}`} role="status">
          {mirror.words}
          {mirror.unreadable && (
            <>
              {" "}
              <Button
                size="small"
                onClick={() => act(unwrap(api.POST("/api/mirrors/{libraryId}/write-anew", { params })))}
              >
                Keep it aside and write it anew
              </Button>
            </>
          )}
        </p>
      )}
      {mirror.conflicts.length > 0 && <MirrorConflicts mirror={mirror} act={act} />}
      {mirror.notes.length > 0 && (
        <details className="mirror-notes">
          <summary>What came of the last meetings</summary>
          <ul>
            {mirror.notes.map((note, at) => (
              // Notes may repeat; their place is all that tells them apart.
              // oxlint-disable-next-line react/no-array-index-key
              <li key={at}>{note}</li>
            ))}
          </ul>
        </details>
      )}
    </li>
  );
}

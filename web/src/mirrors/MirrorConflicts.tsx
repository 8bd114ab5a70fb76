import { Button } from "antd";
import { Link } from "react-router";
import { api, unwrap, type Mirror, type MirrorConflict } from "../api/client";
import { partWords } from "./mirrorWords";
import "../ui/BothSides.css";

/** Parts that were changed on two machines at once: both stand side by side until somebody chooses. */
export function MirrorConflicts({ mirror, act }: { mirror: Mirror; act: (answer: Promise<Mirror[]>) => void }) {
  const decide = ({ key, part, source, seen }: MirrorConflict, keep: string) =>
    act(
      unwrap(
        api.POST("/api/mirrors/{libraryId}/decide", {
          params: { path: { libraryId: mirror.libraryId } },
          body: { key, part, source, seen, keep },
        }),
      ),
    );
  return (
    <ul className="mirror-conflicts" aria-label={`To be decided in ${mirror.library}`}>
      {mirror.conflicts.map((conflict) => (
        <li key={`${conflict.key} ${conflict.part} ${conflict.source}`}>
          <p>
            {partWords(conflict.part)} of the{" "}
            {conflict.snippetId === null ? (
              conflict.title
            ) : (
              <Link to={`/snippets/${conflict.snippetId}`}>{conflict.title}</Link>
            )}{" "}
            was changed on two machines at once. Both are kept until you choose.
          </p>
          <div className="both-sides">
            <div>
              <h4>On this machine</h4>
              <pre>{conflict.here || "nothing"}</pre>
              <Button size="small" onClick={() => decide(conflict, "here")}>
                Keep this one
              </Button>
            </div>
            <div>
              <h4>{conflict.source === "" ? "In the folder" : `In “${conflict.source}”`}</h4>
              <pre>{conflict.there || "nothing"}</pre>
              <Button size="small" onClick={() => decide(conflict, "there")}>
                Take this one
              </Button>
            </div>
          </div>
          {conflict.snippetId !== null && (
            <Button size="small" type="text" onClick={() => decide(conflict, "both")}>
              Keep both: the other becomes a snippet of its own, switched off
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

import { useQuery } from "@tanstack/react-query";
import { diffWordsWithSpace } from "diff";
import { Button } from "antd";
import { useState } from "react";
import { api, unwrap, type SnippetDocument, type Version } from "../api/client";
import { keys, librariesChanged, queryClient } from "../api/queries";
import { wordsOf } from "../bodies";
import { SideDialog } from "../ui/SideDialog";
import { toast } from "../ui/toasts";
import { moment, partWords } from "../words/historyWords";
import { HiddenText } from "./HiddenText";
import { timingWords } from "../words/ruleWords";

interface Props {
  id: number;
  /** The version that is kept now: a new one is a reason to look again. */
  version: number;
  now: SnippetDocument;
  /** Whether it is private, and nobody wanted to see it yet. */
  hidden: boolean;
  onShow: () => void;
  onClose: () => void;
}

/** What a snippet was before, what changed each time, and the way back. */
export default function Versions({ id, version, now, hidden, onShow, onClose }: Props) {
  const { data, error } = useQuery({
    queryKey: ["versions", id, version],
    queryFn: () => unwrap(api.GET("/api/snippets/{id}/versions", { params: { path: { id } } })),
    placeholderData: (before) => before,
  });
  const [chosen, setChosen] = useState<number>();
  const shown = data?.find((other) => other.version === chosen) ?? data?.[1];

  const restore = async (to: Version) => {
    try {
      const answer = await unwrap(
        api.POST("/api/snippets/{id}/restore", { params: { path: { id } }, body: { version: to.version } }),
      );
      queryClient.setQueryData(keys.snippet(id), answer);
      toast(`“${answer.snippet.name}” is as it was on ${moment(to.savedAt)}. Ctrl+Z undoes it.`);
      await librariesChanged();
      onClose();
    } catch (problem) {
      toast((problem as Error).message, { kind: "fault" });
    }
  };

  return (
    <SideDialog open title="Earlier versions" size={760} onClose={onClose}>
      {error && <p className="fault">{error.message}</p>}
      {data && data.length < 2 && (
        <p className="soft">There is only this version yet. Each change makes another one.</p>
      )}
      {data && data.length > 1 && (
        <div className="versions">
          <ol className="version-list" aria-label="Versions, the latest first">
            {data.map((other, at) => (
              <li key={other.version}>
                <button
                  type="button"
                  aria-current={other === shown}
                  disabled={at === 0}
                  onClick={() => setChosen(other.version)}
                >
                  <strong>{at === 0 ? "Now" : moment(other.savedAt)}</strong>
                  <span className="soft">{other.changed.length > 0 ? partWords(other.changed) : "the first one"}</span>
                </button>
              </li>
            ))}
          </ol>
          {shown && (
            <div className="version-compare">
              <p className="soft">
                From {moment(shown.savedAt)} to now: <del>taken out since</del> <ins>put in since</ins>
              </p>
              {hidden ? <HiddenText onShow={onShow} /> : <Difference before={shown.snippet} after={now} />}
              <Button type="primary" onClick={() => void restore(shown)}>
                Go back to this version
              </Button>
            </div>
          )}
        </div>
      )}
    </SideDialog>
  );
}

/** Two states of a snippet, part by part, with the words that differ marked. */
function Difference({ before, after }: { before: SnippetDocument; after: SnippetDocument }) {
  const rows: [string, string, string][] = [
    ["Name", before.name ?? "", after.name ?? ""],
    ["What goes in", wordsOf(before), wordsOf(after)],
    ["In fields without formatting", wordsOf(before.twin ?? {}), wordsOf(after.twin ?? {})],
    ["What sets it off", triggerTexts(before), triggerTexts(after)],
    ["Note", before.note ?? "", after.note ?? ""],
  ];
  return (
    <dl className="difference">
      {rows
        .filter(([, was, is]) => was !== "" || is !== "")
        .map(([label, was, is]) => (
          <div key={label}>
            <dt>{label}</dt>
            <dd>
              {diffWordsWithSpace(was, is).map((piece, at) =>
                piece.added ? (
                  <ins key={at}>{piece.value}</ins>
                ) : piece.removed ? (
                  <del key={at}>{piece.value}</del>
                ) : (
                  <span key={at}>{piece.value}</span>
                ),
              )}
            </dd>
          </div>
        ))}
    </dl>
  );
}

const triggerTexts = (snippet: SnippetDocument): string =>
  (snippet.triggers ?? [])
    .map((trigger) => `${trigger.text} (${trigger.kind === "hotkey" ? "hotkey" : timingWords(trigger)})`)
    .join("\n");

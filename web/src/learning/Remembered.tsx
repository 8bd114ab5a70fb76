import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useMemo, useRef, useState } from "react";
import { api, unwrap, type Learning, type Phrase } from "../api/client";
import { keys, queryClient } from "../api/queries";
import { toast } from "../ui/toasts";
import { useSight } from "../ui/useSight";
import { appName } from "../words/ruleWords";
import { dayWords, phrasesWith, timesWords } from "./learningWords";

const rowHeight = 34;
/** Rows that are there beyond what is in sight. */
const beyond = 12;

/** All that is remembered, to be looked at and deleted. */
export function Remembered({ learning }: { learning: Learning }) {
  const { data, error } = useQuery({
    queryKey: [...keys.learning, "phrases"],
    queryFn: () => unwrap(api.GET("/api/learning/phrases")),
    staleTime: 0,
  });
  const [words, setWords] = useState("");
  const holder = useRef<HTMLDivElement>(null);
  const shown = useMemo(() => phrasesWith(data ?? [], words), [data, words]);
  const { first, last } = useSight(holder, rowHeight, 0, shown.length > 0);
  if (error) return <p className="fault">{error.message}</p>;
  if (!data) return <p className="soft">Fetching …</p>;
  return (
    <>
      <div className="remembered-head">
        <Input
          aria-label="Search what is remembered"
          placeholder="Search"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <span className="soft">
          {shown.length} of {data.length}; at most {learning.most} are kept, those that you type most
        </span>
        <Button danger disabled={data.length === 0} onClick={() => void deleteAll()}>
          Delete everything that was learned
        </Button>
      </div>
      {data.length === 0 ? (
        <p className="learning-none">Nothing is remembered.</p>
      ) : (
        // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a region that scrolls must be reachable by keyboard
        <div ref={holder} className="remembered" tabIndex={0} role="region" aria-label="What is remembered">
          <ul style={{ height: shown.length * rowHeight }}>
            {shown.slice(Math.max(0, first - beyond), last + beyond).map((phrase, at) => (
              <PhraseRow key={phrase.code} phrase={phrase} top={(Math.max(0, first - beyond) + at) * rowHeight} />
            ))}
          </ul>
        </div>
      )}
    </>
  );
}

function PhraseRow({ phrase, top }: { phrase: Phrase; top: number }) {
  const { code, texts, times, lastAt, apps, dismissed } = phrase;
  const forget = async () => {
    await unwrap(api.DELETE("/api/learning/phrases/{code}", { params: { path: { code } } }));
    await queryClient.invalidateQueries({ queryKey: keys.learning });
  };
  return (
    <li style={{ transform: `translateY(${top}px)`, height: rowHeight }}>
      <span className="remembered-text" title={texts.join("\n")}>
        {texts.at(-1)}
        {texts.length > 1 && <span className="soft"> and {texts.length - 1} like it</span>}
      </span>
      <span className="soft">
        {timesWords(times)}, last on {dayWords(lastAt)}, in {apps.map(appName).join(", ")}
        {dismissed && ", never proposed again"}
      </span>
      <Button size="small" type="text" onClick={() => void forget()}>
        Forget<span className="visually-hidden"> {texts.at(-1)}</span>
      </Button>
    </li>
  );
}

async function deleteAll(): Promise<void> {
  await unwrap(api.DELETE("/api/learning"));
  await queryClient.invalidateQueries({ queryKey: keys.learning });
  const restore = async () => {
    await unwrap(api.POST("/api/learning/restore"));
    await queryClient.invalidateQueries({ queryKey: keys.learning });
  };
  toast("Everything that was learned is deleted.", {
    key: "undo",
    action: { label: "Undo", act: () => void restore() },
  });
}

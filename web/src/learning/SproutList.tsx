import { useQuery } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useId, useMemo, useState } from "react";
import { Link } from "react-router";
import { api, unwrap, type Sprout } from "../api/client";
import { keys, librariesChanged, queryClient, useLibraries } from "../api/queries";
import { toast } from "../ui/toasts";
import { useRefusal } from "../ui/useRefusal";
import { choosePlace, placesOf, rememberedPlace, rememberPlace } from "../items/places";
import { undo } from "../items/undoing";
import { Grade } from "../words/Grade";
import { appName } from "../words/ruleWords";
import { sproutText, timesWords } from "./learningWords";

const sproutsKey = [...keys.learning, "sprouts"];

/** Phrases that are worth a snippet, those first that would save most. */
export function SproutList({ learns }: { learns: boolean }) {
  const { data, error } = useQuery({
    queryKey: sproutsKey,
    queryFn: () => unwrap(api.GET("/api/learning/sprouts")),
    staleTime: 0,
  });
  const { data: tree } = useLibraries();
  const places = useMemo(() => (tree ? placesOf(tree) : []), [tree]);
  const [place, setPlace] = useState(rememberedPlace);
  const placeId = useId();
  const chosen = choosePlace(places, place);
  if (error) return <p className="fault">{error.message}</p>;
  if (!data) return <p className="soft">Looking for sprouts …</p>;
  if (data.length === 0)
    return (
      <p className="learning-none">
        {learns
          ? "Nothing has sprouted yet. Type as you do every day: a phrase that you typed three times shows here, with an abbreviation for it."
          : "Phrases are not remembered, so nothing can sprout. “Change” lets you allow it."}
      </p>
    );
  return (
    <>
      {places.length > 1 && (
        <div className="sprout-place">
          <label htmlFor={placeId}>Snippets grow in</label>
          <Select
            id={placeId}
            value={chosen?.id}
            options={places.map(({ id, label }) => ({ value: id, label }))}
            onChange={(id: number) => {
              rememberPlace(id);
              setPlace(id);
            }}
          />
        </div>
      )}
      <ol className="sprouts">
        {data.map((sprout) => (
          <SproutRow key={sprout.code} sprout={sprout} parentId={chosen?.id} />
        ))}
      </ol>
    </>
  );
}

function SproutRow({ sprout, parentId }: { sprout: Sprout; parentId: number | undefined }) {
  const { code, abbreviation, times, keysAWeek, apps } = sprout;
  const [own, setOwn] = useState<string>();
  const [refusal, attempt] = useRefusal();
  const text = sproutText(sprout);
  const typed = own ?? abbreviation?.text ?? "";
  const path = { params: { path: { code } } };
  const changed = () => queryClient.invalidateQueries({ queryKey: keys.learning });
  const recall = async () => {
    await unwrap(api.POST("/api/learning/sprouts/{code}/recall", path));
    await changed();
  };
  // One with fields is not proposed again once it has grown.
  const varies = sprout.parts.some(({ text: same }) => same === null);
  const grow = () =>
    attempt(async () => {
      const body = { name: sprout.name, abbreviation: typed, parentId: parentId ?? null };
      const made = await unwrap(api.POST("/api/learning/sprouts/{code}/grow", { ...path, body }));
      toast(`${typed} puts in “${made.snippet.name}” from now on.`, {
        key: "undo",
        action: { label: "Undo", act: () => void undo().then(varies ? recall : changed) },
      });
      await Promise.all([librariesChanged(), changed()]);
    });
  const dismiss = () =>
    attempt(async () => {
      await unwrap(api.POST("/api/learning/sprouts/{code}/dismiss", path));
      toast("It is not proposed again.", { key: "undo", action: { label: "Undo", act: () => void recall() } });
      await changed();
    });
  return (
    <li>
      <form
        className="sprout"
        onSubmit={(event) => {
          event.preventDefault();
          void grow();
        }}
      >
        <p className="sprout-text">
          {sprout.parts.map((part, at) =>
            part.text === null ? (
              <span key={at} className="sprout-gap" title={part.texts?.join(" · ")}>
                {part.kind}
              </span>
            ) : (
              <span key={at}>{part.text}</span>
            ),
          )}
        </p>
        <p className="sprout-figures soft">
          {timesWords(times)} in {apps.map(appName).join(", ")}
        </p>
        <p className="sprout-keys">
          <strong>{keysAWeek}</strong> keys a week
        </p>
        <Input
          className="typed"
          aria-label={`Abbreviation for ${text}`}
          spellCheck={false}
          autoComplete="off"
          value={typed}
          onChange={(event) => setOwn(event.target.value)}
        />
        <span className="sprout-grade">
          {own === undefined && abbreviation !== null && (
            <>
              <Grade grade={abbreviation.grade} rate={abbreviation.per10kWords} />{" "}
              <span className="soft">
                {abbreviation.overlaps === 0 ? "no overlaps" : `overlaps with ${abbreviation.overlaps}`}
              </span>
            </>
          )}
        </span>
        <span className="sprout-acts">
          <Button type="primary" htmlType="submit" disabled={typed === ""}>
            Grow<span className="visually-hidden"> {text}</span>
          </Button>
          <Button type="text" onClick={() => void dismiss()}>
            Never<span className="visually-hidden"> propose {text}</span>
          </Button>
        </span>
        {refusal !== undefined && (
          <p className="fault sprout-fault" role="alert">
            {refusal} <Link to="/libraries">Look at your snippets</Link>
          </p>
        )}
      </form>
    </li>
  );
}

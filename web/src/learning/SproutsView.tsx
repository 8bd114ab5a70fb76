import { useQuery } from "@tanstack/react-query";
import { Button, Segmented } from "antd";
import { useState } from "react";
import { api, unwrap } from "../api/client";
import { keys } from "../api/queries";
import { Chances } from "./Chances";
import { LearningChoice } from "./LearningChoice";
import { choiceWords } from "./learningWords";
import { Remembered } from "./Remembered";
import { SproutList } from "./SproutList";
import "./learning.css";

type Part = "sprouts" | "chances" | "remembered";

/** What one's own typing tells: phrases worth a snippet, and chances that were missed. */
export default function SproutsView() {
  const { data, error } = useQuery({
    queryKey: keys.learning,
    queryFn: () => unwrap(api.GET("/api/learning")),
    staleTime: 0,
  });
  const [part, setPart] = useState<Part>("sprouts");
  const [choosing, setChoosing] = useState(false);
  if (error) return <div className="page fault">{error.message}</div>;
  if (!data) return <div className="loading soft">Looking …</div>;
  const { settings } = data;
  if (!settings.chosen || choosing)
    return (
      <div className="page learning">
        <h1>Sprouts</h1>
        <LearningChoice settings={settings} onDone={() => setChoosing(false)} />
      </div>
    );
  return (
    <div className="page learning">
      <div className="learning-head">
        <h1>Sprouts</h1>
        <Segmented<Part>
          aria-label="Show"
          options={[
            { value: "sprouts", label: "Worth a snippet" },
            { value: "chances", label: "Missed chances" },
            { value: "remembered", label: `Remembered (${data.phrases})` },
          ]}
          value={part}
          onChange={setPart}
        />
      </div>
      <p className="learning-state">
        {choiceWords(settings)} <Button onClick={() => setChoosing(true)}>Change</Button>
      </p>
      {part === "sprouts" && <SproutList learns={settings.learns} />}
      {part === "chances" && <Chances />}
      {part === "remembered" && <Remembered learning={data} />}
    </div>
  );
}

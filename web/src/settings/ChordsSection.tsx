import { Button } from "antd";
import { useState } from "react";
import { ApiError, api, unwrap, type ProgramChord } from "../api/client";
import { keys, queryClient, useChords } from "../api/queries";
import { ChordInput } from "../ui/ChordInput";

/** The chords of the program: each can be another one, and a clash is said at once. */
export function ChordsSection() {
  const { data } = useChords();
  const [fault, setFault] = useState<{ command: string; why: string }>();
  if (!data) return null;

  const change = async ({ command }: ProgramChord, chord: string) => {
    try {
      const settings = await unwrap(api.GET("/api/settings/typing"));
      const body = { ...settings, chords: { ...settings.chords, [command]: chord } };
      queryClient.setQueryData(keys.typingSettings, await unwrap(api.PUT("/api/settings/typing", { body })));
      setFault(undefined);
      await Promise.all([
        queryClient.invalidateQueries({ queryKey: keys.chords }),
        queryClient.invalidateQueries({ queryKey: keys.engine }),
      ]);
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setFault({ command, why: problem.message });
    }
  };

  return (
    <section aria-labelledby="chords">
      <h2 id="chords">Chords of this program</h2>
      <ul className="chord-list">
        {data.map((one) => (
          <li key={one.command}>
            <span>{one.does}</span>
            <ChordInput
              label={one.does}
              chord={one.chord}
              functionKeys={one.command === "help"}
              said={fault?.command === one.command ? fault.why : one.owner === null ? undefined : `Also: ${one.owner}`}
              onChange={(chord) => void change(one, chord)}
            />
            {one.chord !== one.usual && (
              <Button size="small" type="text" onClick={() => void change(one, one.usual)}>
                Usual one<span className="visually-hidden"> for: {one.does}</span>
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

import { useQuery } from "@tanstack/react-query";
import { App, Button, Checkbox, Select } from "antd";
import { useRef } from "react";
import { FileInput } from "../ui/FileInput";
import { api, unwrap, type DateSettings } from "../api/client";
import { queryClient } from "../api/queries";
import { BehindSection } from "./BehindSection";
import { ChordsSection } from "./ChordsSection";
import { MirrorSection } from "../mirrors/parts";
import { KeepingSection } from "./KeepingSection";
import { KeySetsSection } from "./KeySetsSection";
import { KeyboardSection } from "./KeyboardSection";
import { TypingSection } from "./TypingSection";

const weekdays = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];
const key = ["settings", "dates"];

/** How dates are worked out. */
export default function SettingsView() {
  const { message } = App.useApp();
  const picker = useRef<HTMLInputElement>(null);
  const { data, error } = useQuery({ queryKey: key, queryFn: () => unwrap(api.GET("/api/settings/dates")) });
  const { data: choices } = useQuery({
    queryKey: ["date-choices"],
    queryFn: () => unwrap(api.GET("/api/dates/choices")),
    staleTime: Infinity,
  });
  const save = async (part: Partial<DateSettings>) => {
    if (!data) return;
    try {
      queryClient.setQueryData(key, await unwrap(api.PUT("/api/settings/dates", { body: { ...data, ...part } })));
      void message.success("Saved");
    } catch (problem) {
      void message.error((problem as Error).message, 6);
    }
  };
  if (error) return <div className="page fault">{error.message}</div>;
  if (!data) return <div className="loading soft">Opening the settings …</div>;
  const holidays = (data.holidays.match(/BEGIN:VEVENT/g) ?? []).length;
  return (
    <div className="page settings">
      <h1>Settings</h1>
      <TypingSection />
      <ChordsSection />
      <KeySetsSection />
      <KeyboardSection />
      <MirrorSection />
      <KeepingSection />
      <BehindSection />
      <section aria-labelledby="dates">
        <h2 id="dates">Dates</h2>
        <label>
          Time zone
          <Select
            showSearch
            value={data.zone}
            options={(choices?.zones ?? []).map((zone) => ({ value: zone, label: zone }))}
            onChange={(zone) => void save({ zone })}
          />
        </label>
        <label>
          Language and region
          <Select
            showSearch
            value={data.locale}
            options={(choices?.locales ?? []).map((locale) => ({ value: locale, label: locale }))}
            onChange={(locale) => void save({ locale })}
          />
        </label>
        <fieldset>
          <legend>Days that are not worked</legend>
          <Checkbox.Group
            value={data.weekend}
            options={weekdays.map((day) => ({ value: day, label: day[0]!.toUpperCase() + day.slice(1) }))}
            onChange={(weekend) => void save({ weekend })}
          />
        </fieldset>
        <div className="holidays">
          <span>
            Holidays: {holidays === 0 ? "none yet" : `${holidays} entries in the calendar`}
            <span className="soft"> (an iCalendar file)</span>
          </span>
          <Button size="small" onClick={() => picker.current?.click()}>
            Choose a file
          </Button>
          {holidays > 0 && (
            <Button size="small" onClick={() => void save({ holidays: "" })}>
              Take it out
            </Button>
          )}
          <FileInput
            ref={picker}
            accept=".ics,text/calendar"
            label="Holiday calendar"
            onFile={(file) => void file.text().then((text) => save({ holidays: text }))}
          />
        </div>
      </section>
    </div>
  );
}

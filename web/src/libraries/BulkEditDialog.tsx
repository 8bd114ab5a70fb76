import { Button, Select } from "antd";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap, type BulkRules } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { ClosingKeys } from "../rules/ClosingKeys";
import { defaultClosingKeys, deliveries, leftEdges, letterCases, scopes, timings } from "../words/ruleWords";
import { ScopeApps } from "../rules/ScopeApps";

type Edit = Omit<BulkRules, "ids" | "libraryKeys"> & { libraryKeys?: boolean };

interface Props {
  many: number;
  onEdit: (edit: Edit) => void;
  onClose: () => void;
}

const stays = "";
const long = (words: Record<string, { long: string }>) =>
  Object.fromEntries(Object.entries(words).map(([value, word]) => [value, word.long]));

/** The same rules and tags for many snippets at once; what is not chosen stays as it is in each of them. */
export function BulkEditDialog({ many, onEdit, onClose }: Props) {
  const [edit, setEdit] = useState<Edit>({});
  const set = (part: Edit) => setEdit({ ...edit, ...part });
  const { data: tags = [] } = useQuery({ queryKey: ["tags"], queryFn: () => unwrap(api.GET("/api/tags")), gcTime: 0 });
  const scope = edit.scope ?? null;
  const changes = Object.values(edit).some((value) =>
    Array.isArray(value) ? value.length > 0 : value != null && value !== false,
  );
  const tagged = tags.map((tag) => ({ value: tag, label: tag }));
  return (
    <Dialog
      open
      title={many === 1 ? "Change rules and tags" : `Change rules and tags of ${many} rows`}
      width={600}
      onCancel={onClose}
      footer={
        <Button type="primary" disabled={!changes} onClick={() => onEdit(edit)}>
          Change
        </Button>
      }
    >
      <div className="library-rules">
        <p className="soft">Holds for all triggers of the snippets; what says “stays” is left as it is.</p>
        <div className="defaults-form">
          <Choice label="Goes off" words={long(timings)} value={edit.timing} onChange={(timing) => set({ timing })} />
          <Choice
            label="Left edge"
            words={long(leftEdges)}
            value={edit.leftEdge}
            onChange={(leftEdge) => set({ leftEdge })}
          />
          <Choice
            label="Letter case"
            words={long(letterCases)}
            value={edit.case}
            onChange={(letterCase) => set({ case: letterCase })}
          />
          <Choice
            label="Stays behind"
            words={{ true: "The closing key stays behind the text", false: "The closing key is dropped" }}
            value={edit.keepClosingKey == null ? null : String(edit.keepClosingKey)}
            onChange={(keep) => set({ keepClosingKey: keep === null ? null : keep === "true" })}
          />
          <Choice
            label="Closing keys"
            words={{ library: "Those of their library", own: "Closing keys of their own" }}
            value={edit.libraryKeys ? "library" : edit.closingKeys ? "own" : null}
            onChange={(keys) =>
              set({ libraryKeys: keys === "library", closingKeys: keys === "own" ? [...defaultClosingKeys] : null })
            }
          />
          {edit.closingKeys && (
            <ClosingKeys
              label=""
              keys={edit.closingKeys}
              otherwise={defaultClosingKeys}
              onChange={(closingKeys) => set({ closingKeys })}
            />
          )}
          <Choice
            label="Works"
            words={long(scopes)}
            value={scope?.mode}
            onChange={(mode) =>
              set({ scope: mode === null ? null : { mode, apps: mode === "everywhere" ? [] : ["post"] } })
            }
          />
          {scope && scope.mode !== "everywhere" && (
            <ScopeApps
              apps={scope.apps ?? []}
              onChange={(apps) => set({ scope: { mode: scope.mode ?? "only-in", apps } })}
            />
          )}
          <Choice label="Goes in" words={deliveries} value={edit.delivery} onChange={(delivery) => set({ delivery })} />
          <label className="defaults-rule">
            <span>Add tags</span>
            <Select
              mode="tags"
              aria-label="Add tags"
              tokenSeparators={[","]}
              placeholder="none"
              value={edit.moreTags ?? []}
              options={tagged}
              onChange={(moreTags: string[]) => set({ moreTags })}
            />
          </label>
          <label className="defaults-rule">
            <span>Take away</span>
            <Select
              mode="multiple"
              aria-label="Take tags away"
              placeholder="none"
              value={edit.fewerTags ?? []}
              options={tagged}
              onChange={(fewerTags: string[]) => set({ fewerTags })}
            />
          </label>
        </div>
      </div>
    </Dialog>
  );
}

function Choice(props: {
  label: string;
  words: Record<string, string>;
  value: string | null | undefined;
  onChange: (value: string | null) => void;
}) {
  return (
    <label className="defaults-rule">
      <span>{props.label}</span>
      <Select
        aria-label={props.label}
        value={props.value ?? stays}
        options={[
          { value: stays, label: <span className="soft">stays</span> },
          ...Object.entries(props.words).map(([value, label]) => ({ value, label })),
        ]}
        onChange={(value: string) => props.onChange(value === stays ? null : value)}
      />
    </label>
  );
}

import { Checkbox, Select } from "antd";
import type { Defaults, FolderNode, LibraryNode } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { ClosingKeys } from "../rules/ClosingKeys";
import { defaultClosingKeys, deliveries, leftEdges, letterCases, scopes, timings } from "../words/ruleWords";
import { ScopeApps } from "../rules/ScopeApps";
import type { FolderChange, RulesChange } from "../items/useLibraryActions";

interface Props<Place, Change> {
  place: Place | undefined;
  onChange: (change: Change) => void;
  onClose: () => void;
}

/** What a library decides for all its triggers, and what new ones begin with. */
export function LibraryRules({ place, onChange, onClose }: Props<LibraryNode, RulesChange>) {
  return (
    <Dialog
      open={place !== undefined}
      title={`Rules of ${place?.name ?? ""}`}
      footer={null}
      onCancel={onClose}
      width={600}
    >
      {place && (
        <div className="library-rules">
          <h2>Closing keys</h2>
          <ClosingKeys
            label=""
            keys={place.closingKeys ?? defaultClosingKeys}
            otherwise={defaultClosingKeys}
            onChange={(keys) => onChange({ ownClosingKeys: keys ?? [] })}
          />
          <h2>Capitals and corrections</h2>
          <Checkbox
            checked={place.capsLockShouts}
            onChange={(event) => onChange({ capsLockShouts: event.target.checked })}
          >
            Caps Lock shouts: with Caps Lock on, texts go in in capitals
          </Checkbox>
          <Checkbox
            checked={place.backspaceTakesBack}
            onChange={(event) => onChange({ backspaceTakesBack: event.target.checked })}
          >
            Backspace takes back: right after a text went in, Backspace brings back what was typed
          </Checkbox>
          <DefaultsForm
            said={place.defaults ?? {}}
            around={{}}
            libraryKeys={place.closingKeys ?? defaultClosingKeys}
            onChange={(defaults) => onChange({ defaults })}
          />
        </div>
      )}
    </Dialog>
  );
}

/** What new snippets begin with in a folder. */
export function FolderRules({
  place,
  library,
  onChange,
  onClose,
}: Props<FolderNode, FolderChange> & { library: LibraryNode | undefined }) {
  return (
    <Dialog
      open={place !== undefined}
      title={`Folder ${place?.name ?? ""}`}
      footer={null}
      onCancel={onClose}
      width={600}
    >
      {place && (
        <div className="library-rules">
          <DefaultsForm
            said={place.defaults ?? {}}
            around={place.around}
            libraryKeys={library?.closingKeys ?? defaultClosingKeys}
            onChange={(defaults) => onChange({ defaults })}
          />
        </div>
      )}
    </Dialog>
  );
}

interface DefaultsProps {
  said: Defaults;
  /** What holds where nothing is said here. */
  around: Defaults;
  libraryKeys: string[];
  onChange: (said: Defaults) => void;
}

/** What new snippets begin with; what is not chosen is as around, in the end as usual. */
function DefaultsForm({ said, around, libraryKeys, onChange }: DefaultsProps) {
  const set = (part: Partial<Defaults>) => onChange({ ...said, ...part });
  const scope = said.scope ?? null;
  return (
    <>
      <h2>New snippets begin with</h2>
      <p className="soft">What is there already stays as it is.</p>
      <div className="defaults-form">
        <Rule
          label="Goes off"
          words={timings}
          said={said.timing}
          around={around.timing ?? "closing-key"}
          onChange={(timing) => set({ timing, keepClosingKey: null })}
        />
        <Rule
          label="Left edge"
          words={leftEdges}
          said={said.leftEdge}
          around={around.leftEdge ?? null}
          otherwise="as fits the abbreviation"
          onChange={(leftEdge) => set({ leftEdge })}
        />
        <Rule
          label="Letter case"
          words={letterCases}
          said={said.case}
          around={around.case ?? "either"}
          onChange={(letterCase) => set({ case: letterCase })}
        />
        <Rule
          label="Stays behind"
          words={{
            true: { long: "The closing key stays behind the text" },
            false: { long: "The closing key is dropped" },
          }}
          said={said.keepClosingKey == null ? null : String(said.keepClosingKey)}
          around={around.keepClosingKey == null ? null : String(around.keepClosingKey)}
          otherwise="the closing key, unless pressed twice"
          onChange={(keep) => set({ keepClosingKey: keep === null ? null : keep === "true" })}
        />
        <Rule
          label="Works"
          words={scopes}
          said={scope?.mode ?? null}
          around={around.scope?.mode ?? "everywhere"}
          onChange={(mode) =>
            set({
              scope:
                mode === null
                  ? null
                  : { mode, apps: mode === "everywhere" ? [] : scope?.apps?.length ? scope.apps : ["post"] },
            })
          }
        />
        {scope && scope.mode !== "everywhere" && (
          <>
            <span />
            <ScopeApps
              apps={scope.apps ?? []}
              onChange={(apps) => set({ scope: { mode: scope.mode ?? "only-in", apps } })}
            />
          </>
        )}
        <Rule
          label="Goes in"
          words={Object.fromEntries(Object.entries(deliveries).map(([way, long]) => [way, { long }]))}
          said={said.delivery}
          around={around.delivery ?? "automatic"}
          onChange={(delivery) => set({ delivery })}
        />
      </div>
      <ClosingKeys
        label="Closing keys of their own instead of the library’s"
        keys={said.closingKeys ?? null}
        otherwise={around.closingKeys ?? libraryKeys}
        onChange={(closingKeys) => set({ closingKeys })}
      />
    </>
  );
}

const notSaid = "";

function Rule(props: {
  label: string;
  words: Record<string, { long: string }>;
  said: string | null | undefined;
  around: string | null;
  /** What holds when nobody says anything. */
  otherwise?: string;
  onChange: (value: string | null) => void;
}) {
  const { label, words, said, around, otherwise, onChange } = props;
  const usual = around === null ? (otherwise ?? "") : (words[around]?.long ?? around);
  const inside = usual.charAt(0).toLowerCase() + usual.slice(1);
  return (
    <label className="defaults-rule">
      <span>{label}</span>
      <Select
        aria-label={label}
        value={said ?? notSaid}
        options={[
          { value: notSaid, label: <span className="soft">As usual: {inside}</span> },
          ...Object.entries(words).map(([value, { long }]) => ({ value, label: long })),
        ]}
        onChange={(value: string) => onChange(value === notSaid ? null : value)}
      />
    </label>
  );
}

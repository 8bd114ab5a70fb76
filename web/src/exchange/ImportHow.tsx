import { Checkbox, Input, Select } from "antd";
import type { Import, ImportOptions } from "../api/client";
import { useLibraries } from "../api/queries";
import { placesOf } from "../items/places";
import { kinds, sameNames, separators, withColumn } from "./importing";

interface Props {
  import: Import;
  onChange: (part: Partial<ImportOptions>) => void;
}

const nothing = "";
const encodings = ["utf-8", "windows-1252", "utf-16le", "utf-16be"];

/** How a file is read, and where what is in it comes to; everything that was found out can be told otherwise. */
export function ImportHow({ import: { options, table }, onChange }: Props) {
  const { data } = useLibraries();
  const { kind } = options;
  const columns = options.columns ?? [];
  const isWhole = kind === "library-file" || kind === "yaml" || columns.includes("library");
  return (
    <>
      <div className="import-how">
        <label>
          <span>Read as</span>
          <Select
            aria-label="Read as"
            value={kind ?? nothing}
            options={Object.entries(kinds).map(([value, label]) => ({ value, label }))}
            onChange={(value: string) => onChange({ kind: value })}
          />
        </label>
        {kind !== "library-file" && kind !== "documents" && options.encoding && (
          <label>
            <span>Encoding</span>
            <Select
              aria-label="Encoding"
              value={options.encoding}
              options={encodings.map((value) => ({ value, label: value }))}
              onChange={(encoding: string) => onChange({ encoding })}
            />
          </label>
        )}
        {kind === "table" && (
          <>
            <label>
              <span>Separator</span>
              <Select
                aria-label="Separator"
                value={options.separator ?? nothing}
                options={Object.entries(separators).map(([value, label]) => ({ value, label }))}
                onChange={(separator: string) => onChange({ separator })}
              />
            </label>
            <Checkbox
              checked={options.heading === true}
              onChange={(event) => onChange({ heading: event.target.checked })}
            >
              The first row names the columns
            </Checkbox>
          </>
        )}
        {kind === "contacts" && (
          <label>
            <span>Abbreviations begin with</span>
            <Input
              aria-label="Abbreviations begin with"
              className="mono import-sign"
              maxLength={4}
              defaultValue={options.sign ?? ""}
              onBlur={(event) => event.target.value !== options.sign && onChange({ sign: event.target.value })}
              onPressEnter={(event) => onChange({ sign: event.currentTarget.value })}
            />
          </label>
        )}
        {isWhole ? (
          <label>
            <span>A library whose name is there</span>
            <Select
              aria-label="A library whose name is there"
              value={options.replace}
              options={[
                { value: false, label: "stops it" },
                { value: true, label: "takes its place; what only the old one has goes into the bin" },
              ]}
              onChange={(replace: boolean) => onChange({ replace })}
            />
          </label>
        ) : (
          <>
            <label>
              <span>Comes to</span>
              <Select
                aria-label="Comes to"
                showSearch={{ optionFilterProp: "label" }}
                value={String(options.parentId ?? data?.libraries[0]?.id ?? nothing)}
                options={
                  data && data.libraries.length > 0
                    ? placesOf(data).map(({ id, label }) => ({ value: String(id), label }))
                    : [{ value: nothing, label: "a new library" }]
                }
                onChange={(parentId: string) => parentId !== nothing && onChange({ parentId: Number(parentId) })}
              />
            </label>
            <label>
              <span>A name that is there</span>
              <Select
                aria-label="A name that is there"
                value={options.sameName ?? "change"}
                options={Object.entries(sameNames).map(([value, label]) => ({ value, label }))}
                onChange={(sameName: string) => onChange({ sameName })}
              />
            </label>
          </>
        )}
      </div>
      {table && (
        <div className="import-columns">
          <table>
            <thead>
              <tr>
                {table.head.map((name, at) => (
                  <th key={at} scope="col">
                    <span className="import-head">{name}</span>
                    <Select
                      aria-label={`${name} holds`}
                      size="small"
                      popupMatchSelectWidth={false}
                      value={columns[at] ?? nothing}
                      options={[
                        { value: nothing, label: <span className="soft">passed over</span> },
                        ...table.choices.map(({ id, label }) => ({ value: id, label })),
                      ]}
                      onChange={(id: string) => onChange({ columns: withColumn(columns, at, id) })}
                    />
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {table.first.map((cells, row) => (
                <tr key={row}>
                  {table.head.map((_, at) => (
                    <td key={at} className={columns[at] ? "" : "soft"}>
                      {cells[at]}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}

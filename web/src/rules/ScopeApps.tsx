import { Select } from "antd";
import type { ReactNode } from "react";
import type { SeenApp } from "../api/client";
import { useKeyboard } from "../api/queries";
import { AppIcon } from "../ui/AppIcon";
import { applications } from "../words/ruleWords";

interface ScopeAppsProps {
  apps: readonly string[];
  onChange: (apps: string[]) => void;
}

/** The applications of a scope: the desk's own, and those of the desktop that were typed in. */
export function ScopeApps({ apps, onChange }: ScopeAppsProps) {
  const { data } = useKeyboard();
  const seen = data?.apps ?? [];
  const known = new Set([...applications, ...seen].map((app) => app.id));
  const rest = apps.filter((id) => !known.has(id));
  return (
    <Select
      mode="multiple"
      aria-label="Applications"
      style={{ width: "100%" }}
      value={[...apps]}
      options={[
        { label: "On the desk", options: applications.map((app) => ({ value: app.id, label: app.name })) },
        ...(seen.length + rest.length > 0
          ? [
              {
                label: "On this desktop",
                options: [
                  ...seen.map((app) => ({ value: app.id, label: app.name })),
                  ...rest.map((id) => ({ value: id, label: id })),
                ],
              },
            ]
          : []),
      ]}
      optionRender={({ value, label }) => choiceOf(seen, String(value), label)}
      onChange={(chosen: string[]) => chosen.length > 0 && onChange(chosen)}
    />
  );
}

/** An application as it is offered, with its icon where it has one. */
function choiceOf(seen: readonly SeenApp[], id: string, label: ReactNode): ReactNode {
  const app = seen.find((one) => one.id === id);
  if (!app) return label;
  return (
    <>
      <AppIcon app={app} /> {label}
    </>
  );
}

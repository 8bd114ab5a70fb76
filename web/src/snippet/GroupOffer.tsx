import { Button } from "antd";
import type { SnippetDocument } from "../api/client";
import { groupsTyped, withGroups } from "./patternGroups";

interface Props {
  snippet: SnippetDocument;
  onTake: (body: Pick<SnippetDocument, "body" | "text">) => void;
}

/** `$1` in the text of a pattern goes in as it stands; what the pattern's group matched is a part of its own, which is offered. */
export function GroupOffer({ snippet, onTake }: Props) {
  const isPattern = (snippet.triggers ?? []).some((trigger) => trigger.kind === "pattern");
  const groups = isPattern ? groupsTyped(snippet) : [];
  if (groups.length === 0) return null;
  const signs = groups.map((group) => `$${group}`).join(" and ");
  return (
    <p className="group-offer" role="status">
      <span className="mono">{signs}</span> would go in just so.{" "}
      <Button size="small" onClick={() => onTake(withGroups(snippet))}>
        Put in what the pattern’s {groups.length === 1 ? `group ${groups[0]}` : "groups"} matched
      </Button>
    </p>
  );
}

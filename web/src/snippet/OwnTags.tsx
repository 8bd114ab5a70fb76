import { useQuery } from "@tanstack/react-query";
import { Select } from "antd";
import { useState } from "react";
import { api, unwrap } from "../api/client";

/** Words of one's own by which a snippet is found. */
export function OwnTags({ tags, onChange }: { tags: string[]; onChange: (tags: string[]) => void }) {
  const [opened, setOpened] = useState(false);
  const { data: known = [] } = useQuery({
    queryKey: ["tags"],
    queryFn: () => unwrap(api.GET("/api/tags")),
    enabled: opened,
    staleTime: 0,
  });
  return (
    <Select
      mode="tags"
      variant="borderless"
      className="own-tags-field"
      aria-label="Tags"
      placeholder="Tags"
      tokenSeparators={[","]}
      popupMatchSelectWidth={false}
      value={tags}
      options={known.map((tag) => ({ value: tag, label: tag }))}
      onOpenChange={(open) => open && setOpened(true)}
      onChange={onChange}
    />
  );
}

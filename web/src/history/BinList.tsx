import { useQuery } from "@tanstack/react-query";
import { Button, Popconfirm } from "antd";
import { api, unwrap, type Binned } from "../api/client";
import { keys } from "../api/queries";
import { toast } from "../ui/toasts";
import { attempt } from "../items/useLibraryActions";
import { moment } from "../words/historyWords";

/** What was deleted: where it was and when, and the way back to that place. */
export function BinList() {
  const { data, error } = useQuery({
    queryKey: [...keys.history, "bin"],
    queryFn: () => unwrap(api.GET("/api/bin")),
  });
  if (error) return <p className="fault">{error.message}</p>;
  if (!data) return <p className="soft">Looking …</p>;
  if (data.length === 0) return <p className="soft">The bin is empty. What is deleted stays here for a while.</p>;

  const restore = (item: Binned) =>
    attempt(async () => {
      await unwrap(api.POST("/api/bin/{id}/restore", { params: { path: { id: item.id } } }));
      toast(`“${item.name}” is back${item.where === "" ? "" : ` in ${item.where}`}.`);
    });
  const discard = (item: Binned) =>
    attempt(async () => {
      await unwrap(api.DELETE("/api/bin/{id}", { params: { path: { id: item.id } } }));
      toast(`“${item.name}” is gone for good.`);
    });

  return (
    <table className="history-table">
      <thead>
        <tr>
          <th>What</th>
          <th>Where it was</th>
          <th>Deleted</th>
          <th>Stays for</th>
          <th>
            <span className="visually-hidden">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {data.map((item) => (
          <tr key={item.id}>
            <td>
              <strong>{item.name}</strong>
              <span className="soft">
                {" "}
                {item.kind}
                {item.kind !== "snippet" && `, ${item.snippets} snippets`}
              </span>
            </td>
            <td className="soft">{item.where || "the libraries"}</td>
            <td className="soft">{moment(item.deletedAt)}</td>
            <td className="soft">{item.daysLeft === 1 ? "a day of use" : `${item.daysLeft} days of use`}</td>
            <td className="history-buttons">
              <Button size="small" aria-label={`Bring ${item.name} back`} onClick={() => void restore(item)}>
                Bring back
              </Button>
              <Popconfirm
                title={`Delete “${item.name}” for good?`}
                description="This cannot be undone."
                okText="Delete for good"
                onConfirm={() => void discard(item)}
              >
                <Button size="small" type="text" aria-label={`Delete ${item.name} for good`}>
                  Delete for good
                </Button>
              </Popconfirm>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import { Tabs } from "antd";
import { useSearchParams } from "react-router";
import { BackupList } from "./BackupList";
import { BinList } from "./BinList";
import { ChangeList } from "./ChangeList";
import { SetAsideList } from "./SetAsideList";
import { useUndoKeys } from "../items/undoing";
import "./history.css";

/** What was done, what was deleted, and the backups: everything that can be had back. */
export default function HistoryView() {
  useUndoKeys();
  const [address, setAddress] = useSearchParams();
  return (
    <div className="page history">
      <h1>History</h1>
      <p className="soft">Nothing you made is lost: undo what was done, bring things back, or go back to a backup.</p>
      <Tabs
        activeKey={address.get("show") ?? "changes"}
        onChange={(show) => setAddress({ show }, { replace: true })}
        items={[
          { key: "changes", label: "Last changes", children: <ChangeList /> },
          { key: "bin", label: "Bin", children: <BinList /> },
          { key: "backups", label: "Backups", children: <BackupList /> },
        ]}
      />
      <SetAsideList />
    </div>
  );
}

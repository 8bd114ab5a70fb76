import { Tabs } from "antd";
import { useSearchParams } from "react-router";
import { useBoard } from "../api/queries";
import { ForecastList } from "./ForecastList";
import { OverlapList } from "./OverlapList";
import { ReplayDesk } from "./ReplayDesk";
import { TakenBackList } from "./TakenBackList";
import "./safety.css";

/** What gets in the way of what, and what goes off by accident: worked out, not guessed. */
export default function SafetyView() {
  const { data: board, error } = useBoard();
  const [address, setAddress] = useSearchParams();
  if (error) return <div className="page fault">{error.message}</div>;
  if (!board) return <div className="loading soft">Opening the safety board …</div>;
  const open = board.overlaps.filter((overlap) => !overlap.ignored).length;
  const title = (name: string, count: number) => (
    <>
      {name} <span className="count">{count}</span>
    </>
  );
  return (
    <div className="page safety">
      <h1>Safety</h1>
      <p className="soft lead">
        {board.triggers} triggers are on. The engine itself typed every one of them, and {board.wordList.split(",")[0]}{" "}
        as people write it, to find what is below.
      </p>
      <Tabs
        activeKey={address.get("part") ?? "overlaps"}
        onChange={(part) => setAddress({ part }, { replace: true })}
        items={[
          { key: "overlaps", label: title("Overlaps", open), children: <OverlapList board={board} /> },
          {
            key: "misfires",
            label: title("Misfires", board.misfires.length),
            children: <ForecastList board={board} />,
          },
          { key: "replay", label: "Replay of your own text", children: <ReplayDesk /> },
          {
            key: "taken-back",
            label: title("Taken back", board.takenBack.length),
            children: <TakenBackList board={board} />,
          },
        ]}
      />
    </div>
  );
}

import { Button } from "antd";
import { Dialog } from "../ui/Dialog";
import type { OpenQuestion } from "../typing/told";

/** Shows what a snippet from a file would open, before it opens it for the first time. */
export default function OpenQuestions({ question }: { question: OpenQuestion | undefined }) {
  return (
    <Dialog
      open={question !== undefined}
      title="Open this?"
      closable={false}
      returns={false}
      onCancel={() => question?.answer(false)}
      footer={[
        <Button key="no" onClick={() => question?.answer(false)}>
          Leave it
        </Button>,
        <Button key="yes" type="primary" data-first onClick={() => question?.answer(true)}>
          Open
        </Button>,
      ]}
    >
      {question && <OpenTargets targets={question.targets} />}
    </Dialog>
  );
}

/** What would be opened, and why it is asked. */
export function OpenTargets({ targets }: { targets: readonly string[] }) {
  return (
    <>
      <p>This snippet came from a file and has not opened anything yet. It would open:</p>
      <ul>
        {targets.map((target) => (
          <li key={target} className="mono">
            {target}
          </li>
        ))}
      </ul>
    </>
  );
}

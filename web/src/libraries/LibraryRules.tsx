import { Checkbox, Modal } from "antd";
import type { LibraryNode } from "../api/client";
import { ClosingKeys } from "../snippet/ClosingKeys";
import { defaultClosingKeys } from "../snippet/ruleWords";

interface Props {
  library: LibraryNode | undefined;
  onChange: (change: { ownClosingKeys?: string[]; capsLockShouts?: boolean; backspaceTakesBack?: boolean }) => void;
  onClose: () => void;
}

/** What a library decides for all its triggers. */
export function LibraryRules({ library, onChange, onClose }: Props) {
  return (
    <Modal
      open={library !== undefined}
      title={`Rules of ${library?.name ?? ""}`}
      footer={null}
      onCancel={onClose}
      width={560}
    >
      {library && (
        <div className="library-rules">
          <h2>Closing keys</h2>
          <ClosingKeys
            label="Its own closing keys instead of the usual ones"
            keys={library.closingKeys ?? null}
            otherwise={defaultClosingKeys}
            onChange={(keys) => onChange({ ownClosingKeys: keys ?? [] })}
          />
          <h2>Capitals and corrections</h2>
          <Checkbox
            checked={library.capsLockShouts}
            onChange={(event) => onChange({ capsLockShouts: event.target.checked })}
          >
            Caps Lock shouts: with Caps Lock on, texts go in in capitals
          </Checkbox>
          <Checkbox
            checked={library.backspaceTakesBack}
            onChange={(event) => onChange({ backspaceTakesBack: event.target.checked })}
          >
            Backspace takes back: right after a text went in, Backspace brings back what was typed
          </Checkbox>
        </div>
      )}
    </Modal>
  );
}

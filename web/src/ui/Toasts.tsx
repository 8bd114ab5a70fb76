import { dismiss, useToasts } from "./toasts";

/** The messages of the moment, over the view. */
export function Toasts() {
  const toasts = useToasts();
  return (
    <div className="toasts" aria-live="polite">
      {toasts.map(({ key, text, detail, kind, action }) => (
        <div key={key} className={`toast ${kind}`} role={kind === "fault" ? "alert" : undefined}>
          <div>
            <p>{text}</p>
            {detail !== undefined && <p className="soft toast-detail">{detail}</p>}
          </div>
          {action && (
            <button
              type="button"
              className="toast-action"
              onClick={() => {
                dismiss(key);
                action.act();
              }}
            >
              {action.label}
            </button>
          )}
          <button type="button" className="toast-close" aria-label="Close this message" onClick={() => dismiss(key)}>
            ×
          </button>
        </div>
      ))}
    </div>
  );
}

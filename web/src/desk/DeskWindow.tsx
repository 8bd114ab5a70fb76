import type { ReactNode } from "react";
import { deskApps, deskWindows, useWindows, type DeskAppId } from "../words/deskApps";

/** The frame of one application on the desk. */
export function DeskWindow({ app, tools, children }: { app: DeskAppId; tools?: ReactNode; children: ReactNode }) {
  const { arrangement, close, fill, move } = useWindows();
  const number = deskApps.findIndex((other) => other.id === app) + 1;
  const name = deskWindows.find((other) => other.id === app)?.name ?? app;
  const filled = arrangement.filled === app;
  return (
    <section
      className={`window ${app}`}
      data-window={app}
      aria-label={name}
      hidden={arrangement.filled !== null && !filled}
    >
      <header>
        <span>{name}</span>
        {number > 0 && <kbd>Alt+{number}</kbd>}
        <span className="spacer" />
        {tools}
        <button type="button" aria-label={`Move ${name} forward`} onClick={() => move(app, -1)}>
          ←
        </button>
        <button type="button" aria-label={`Move ${name} back`} onClick={() => move(app, 1)}>
          →
        </button>
        <button type="button" aria-pressed={filled} aria-label={`${name} fills the desk`} onClick={() => fill(app)}>
          {filled ? "smaller" : "larger"}
        </button>
        <button type="button" aria-label={`Close ${name}`} onClick={() => close(app)}>
          close
        </button>
      </header>
      {children}
    </section>
  );
}

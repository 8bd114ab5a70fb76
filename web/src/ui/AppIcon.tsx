import type { SeenApp } from "../api/client";

/** An application's own icon; a letter stands in where it has none. */
export function AppIcon({ app }: { app: SeenApp }) {
  return app.hasIcon ? (
    <img className="app-icon" src={`/api/keyboard/icons/${encodeURIComponent(app.id)}`} alt="" />
  ) : (
    <span className="app-icon app-letter" aria-hidden>
      {app.name.slice(0, 1).toUpperCase()}
    </span>
  );
}

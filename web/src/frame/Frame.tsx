import { App } from "antd";
import { Suspense, use, useEffect, useState } from "react";
import { NavLink, Outlet } from "react-router";
import { api, unwrap, type EngineState } from "../api/client";
import { keys, queryClient, useEngine } from "../api/queries";
import { ToggleTheme } from "../theme/useTheme";
import { typingSession } from "../typing/TypingSession";
import { FillSlips } from "../slips/FillSlip";
import { HelpOverlay } from "./HelpOverlay";
import { DeskIcon, SafetyIcon, SettingsIcon, ShelfIcon, SproutIcon } from "./icons";
import { ProofLine } from "./ProofLine";
import { WhyDrawer } from "./WhyDrawer";

/** What stands around every view: the rail, the engine's state, and the proof line. */
export function Frame() {
  const toggleTheme = use(ToggleTheme);
  const [help, setHelp] = useState(false);
  const [why, setWhy] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "F1") {
        event.preventDefault();
        setHelp(true);
      }
      if (event.ctrlKey && event.altKey && event.key.toLowerCase() === "w") {
        event.preventDefault();
        setWhy(true);
      }
      if (event.ctrlKey && event.altKey && event.key.toLowerCase() === "p") {
        event.preventDefault();
        document.getElementById("proof-line")?.focus();
      }
    };
    document.addEventListener("keydown", onKey);
    return () => document.removeEventListener("keydown", onKey);
  }, []);

  return (
    <div className="frame">
      <nav className="rail" aria-label="Views">
        <img className="rail-mark" src="/sprout.svg" alt="Dash Sprout" />
        <NavLink to="/libraries">
          <ShelfIcon />
          Libraries
        </NavLink>
        <NavLink to="/desk">
          <DeskIcon />
          Desk
        </NavLink>
        <NavLink to="/safety">
          <SafetyIcon />
          Safety
        </NavLink>
        <NavLink to="/settings">
          <SettingsIcon />
          Settings
        </NavLink>
      </nav>
      <header className="top">
        <EngineSwitch />
        <span className="spacer" />
        <button type="button" className="plain-button" onClick={() => setWhy(true)}>
          Why did nothing happen?
        </button>
        <button type="button" className="plain-button" onClick={toggleTheme}>
          Light / dark
        </button>
        <button type="button" className="plain-button" onClick={() => setHelp(true)}>
          Keys <kbd>F1</kbd>
        </button>
      </header>
      <main className="view">
        <Suspense fallback={<div className="loading soft">Opening …</div>}>
          <Outlet />
        </Suspense>
      </main>
      <ProofLine />
      <FillSlips />
      <WhyDrawer open={why} onClose={() => setWhy(false)} />
      <HelpOverlay open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

function EngineSwitch() {
  const { message } = App.useApp();
  const { data } = useEngine();
  useEffect(() => typingSession.onEngine((state) => queryClient.setQueryData(keys.engine, state)), []);
  useEffect(() => {
    if (data) typingSession.setChords(data.chords);
  }, [data]);
  const listening = data?.listening ?? true;
  const change = async () => {
    try {
      const state: EngineState = await unwrap(api.PUT("/api/engine", { body: { listening: !listening } }));
      queryClient.setQueryData(keys.engine, state);
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return (
    <button
      type="button"
      role="switch"
      aria-checked={listening}
      className="engine-switch"
      onClick={() => void change()}
      title={
        listening
          ? "Abbreviations go off as you type. Press to let the engine rest."
          : "Nothing goes off now. Press to let the engine listen."
      }
    >
      <SproutIcon resting={!listening} />
      {listening ? "listening" : "resting"}
    </button>
  );
}

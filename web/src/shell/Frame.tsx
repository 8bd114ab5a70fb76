import { lazy, Suspense, use, useEffect, useRef, useState } from "react";
import { NavLink, Outlet } from "react-router";
import { useEngine } from "../api/queries";
import { addOpened, toggleRecording } from "../desk";
import { isDeskApp } from "../words/deskApps";
import { finderOrigin, type FinderOrigin, loadFinder } from "../finder";
import { onGather, openGather, type GatherStart, loadGather } from "../gather";
import { loadFillSlip, loadOpenQuestions } from "../slips";
import { isRecordingChord } from "../ui/chordRecording";
import { keyLabel } from "../words/ruleWords";
import { ToggleTheme } from "../theme/useTheme";
import { keyName } from "../ui/keys";
import { pageClipboard } from "../typing/pageClipboard";
import { typingSession } from "../typing/TypingSession";
import type { OpenQuestion, OpenSlip } from "../typing/told";
import { changeRest, EngineSwitch } from "./EngineSwitch";
import {
  DeskIcon,
  HistoryIcon,
  LibrariesIcon,
  SafetyIcon,
  SavingsIcon,
  SettingsIcon,
  PacksIcon,
  SproutsIcon,
} from "./icons";
import { Menu } from "../ui/Menu";
import { Notices } from "./Notices";
import { ProofLine } from "./ProofLine";
import { Toasts } from "../ui/Toasts";
import { toast } from "../ui/toasts";
import { useFocusNet } from "./useFocusNet";
import { useFollowing } from "./useFollowing";
import { whenIdle } from "../ui/whenIdle";

// What lies over a view is loaded once the view is there, and mounted when it is first used.
const overlays = {
  slip: loadFillSlip,
  question: loadOpenQuestions,
  finder: loadFinder,
  gather: loadGather,
  why: () => import("./WhyDrawer"),
  help: () => import("./HelpOverlay"),
};
const AntRoot = lazy(async () => ({ default: (await import("../theme/AntRoot")).AntRoot }));
const FillSlips = lazy(overlays.slip);
const OpenQuestions = lazy(overlays.question);
const Finder = lazy(overlays.finder);
const Gather = lazy(overlays.gather);
const WhyDrawer = lazy(overlays.why);
const HelpOverlay = lazy(overlays.help);

/** What stands around every view: the rail, the engine's state, and the proof line. */
export function Frame() {
  const toggleTheme = use(ToggleTheme);
  const [help, setHelp] = useState(false);
  const [why, setWhy] = useState(false);
  const [finder, setFinder] = useState<FinderOrigin>();
  const [gather, setGather] = useState<GatherStart>();
  const [slip, setSlip] = useState<OpenSlip>();
  const [question, setQuestion] = useState<OpenQuestion>();
  const [used, setUsed] = useState<ReadonlySet<string>>(new Set());
  const open = Object.entries({ slip, question, finder, gather: gather, why, help })
    .filter(([, content]) => Boolean(content))
    .map(([name]) => name);
  if (open.some((name) => !used.has(name))) setUsed(new Set([...used, ...open]));
  useFollowing();
  useFocusNet();
  useEffect(() => {
    const stops = [
      onGather(setGather),
      typingSession.on("slip", setSlip),
      typingSession.on("question", setQuestion),
      typingSession.on("missed", ({ trigger, snippet }) =>
        toast(`${keyLabel(trigger)} puts this in`, {
          key: "missed",
          detail: `You typed “${snippet}” in full.`,
          seconds: 5,
        }),
      ),
      typingSession.on("fault", (text) => toast(text, { key: "typing", kind: "fault" })),
    ];
    return () => stops.forEach((stop) => stop());
  }, []);
  useEffect(() => {
    return whenIdle(() => void Promise.all(Object.values(overlays).map((load) => load())));
  }, []);
  /** What was pressed last before it was known which keys are the program's own. */
  const early = useRef<string>(undefined);
  const { data: engine } = useEngine();
  const chords = engine?.settings.chords;
  const listening = engine?.listening ?? true;

  useEffect(() => {
    const gatherSelected = () => {
      const selected = selectedText();
      openGather(selected === "" ? { text: pageClipboard.current.plain, mayRead: true } : { text: selected });
    };
    const rest = () =>
      void changeRest({ listening: !listening }).catch((error: unknown) =>
        toast((error as Error).message, { kind: "fault" }),
      );
    const record = () => {
      if (!toggleRecording())
        toast("Keys are recorded on the desk, and in every application once the keyboard link is on.");
    };
    const acts = new Map<string, () => void>();
    if (chords) {
      acts.set(chords.help, () => setHelp(true));
      acts.set(chords.why, () => setWhy(true));
      acts.set(chords.proofLine, () => document.getElementById("proof-line")?.focus());
      acts.set(chords.finder, () => setFinder(finderOrigin()));
      acts.set(chords.gather, gatherSelected);
      acts.set(chords.rest, rest);
      acts.set(chords.record, record);
    }
    // Before any field sees them: these are the program's own keys wherever one types, but for where a chord is being recorded.
    const onKey = (event: KeyboardEvent) => {
      if (!chords) early.current = keyName(event);
      const act = acts.get(keyName(event) ?? "");
      if (!act || isRecordingChord()) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      // What was typed before comes first.
      void typingSession.settled().then(act);
    };
    document.addEventListener("keydown", onKey, { capture: true });
    if (chords) {
      acts.get(early.current ?? "")?.();
      early.current = undefined;
    }
    return () => document.removeEventListener("keydown", onKey, { capture: true });
  }, [chords, listening]);

  useEffect(() => {
    const onCopy = (event: ClipboardEvent) => {
      // The field has filled the event in by now, or the browser takes the selection.
      const plain = event.clipboardData?.getData("text/plain");
      pageClipboard.copied(plain ? plain : selectedText(), event.clipboardData?.getData("text/html") || undefined);
    };
    document.addEventListener("copy", onCopy);
    document.addEventListener("cut", onCopy);
    return () => {
      document.removeEventListener("copy", onCopy);
      document.removeEventListener("cut", onCopy);
    };
  }, []);

  useEffect(
    () =>
      typingSession.on("aside", ({ kind, text }) => {
        if (kind === "open" && !(text.startsWith("app:") && isDeskApp(text.slice(4)))) addOpened(text);
        // On the desk one sees it open.
        if (kind === "open" && location.pathname === "/desk") return;
        toast(kind === "open" ? "Opened on the desk" : "Notice", { detail: text, seconds: kind === "open" ? 3 : 8 });
      }),
    [],
  );

  return (
    <div className="frame">
      <nav className="rail" aria-label="Views">
        <img className="rail-mark" src="/sprout.svg" alt="Dash Sprout" />
        <NavLink to="/libraries">
          <LibrariesIcon />
          Libraries
        </NavLink>
        <NavLink to="/packs">
          <PacksIcon />
          Packs
        </NavLink>
        <NavLink to="/desk">
          <DeskIcon />
          Desk
        </NavLink>
        <NavLink to="/safety">
          <SafetyIcon />
          Safety
        </NavLink>
        <NavLink to="/sprouts">
          <SproutsIcon />
          Sprouts
        </NavLink>
        <NavLink to="/savings">
          <SavingsIcon />
          Savings
        </NavLink>
        <NavLink to="/history">
          <HistoryIcon />
          History
        </NavLink>
        <NavLink to="/settings">
          <SettingsIcon />
          Settings
        </NavLink>
      </nav>
      <header className="top">
        <EngineSwitch />
        <button type="button" className="find-button" onClick={() => setFinder(finderOrigin())}>
          <span>
            Find <span className="wide-only">a snippet</span>
          </span>
          <kbd className="wide-only">{keyLabel(chords?.finder ?? "")}</kbd>
        </button>
        <span className="spacer" />
        <button type="button" className="plain-button wide-only" onClick={() => setWhy(true)}>
          Why did nothing happen?
        </button>
        <button type="button" className="plain-button wide-only" onClick={toggleTheme}>
          Light / dark
        </button>
        <button type="button" className="plain-button wide-only" onClick={() => setHelp(true)}>
          Keys <kbd>{keyLabel(chords?.help ?? "")}</kbd>
        </button>
        <span className="narrow-only">
          <Menu
            label="⋯"
            name="More"
            className="plain-button"
            items={[
              { label: "Why did nothing happen?", act: () => setWhy(true) },
              { label: "Light / dark", act: toggleTheme },
              { label: "Keys", act: () => setHelp(true) },
            ]}
          />
        </span>
      </header>
      <main className="view" id="view" tabIndex={-1}>
        <Notices />
        <Suspense fallback={<div className="loading soft">Opening …</div>}>
          <Outlet />
        </Suspense>
      </main>
      <ProofLine />
      <Toasts />
      <Suspense>
        {used.size > 0 && (
          <AntRoot>
            {used.has("slip") && <FillSlips slip={slip} />}
            {used.has("question") && <OpenQuestions question={question} />}
            {used.has("finder") && <Finder origin={finder} onClose={() => setFinder(undefined)} />}
            {used.has("gather") && <Gather start={gather} onClose={() => setGather(undefined)} />}
            {used.has("why") && <WhyDrawer open={why} onClose={() => setWhy(false)} />}
            {used.has("help") && <HelpOverlay open={help} onClose={() => setHelp(false)} />}
          </AntRoot>
        )}
      </Suspense>
    </div>
  );
}

/** The text selected on the page, in a field or elsewhere. */
function selectedText(): string {
  const element = document.activeElement;
  if (element instanceof HTMLInputElement || element instanceof HTMLTextAreaElement)
    return element.type === "password"
      ? ""
      : element.value.slice(element.selectionStart ?? 0, element.selectionEnd ?? 0);
  return document.getSelection()?.toString() ?? "";
}

import { QueryClientProvider } from "@tanstack/react-query";
import { Component, lazy, Suspense, type ComponentType, type ReactNode } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { queryClient } from "../api/queries";
import { Frame } from "./Frame";
import { loadCompanion } from "../companion";
import { loadDesk } from "../desk";
import { loadDrill } from "../drill";
import { loadHistory } from "../history";
import { loadSprouts } from "../learning";
import { askForFirstRows, loadLibraries } from "../libraries";
import { loadPacks } from "../packs";
import { loadSafety } from "../safety";
import { loadSavings } from "../savings";
import { loadSettings } from "../settings";
import { loadSnippet } from "../snippet";
import { ThemeName, ToggleTheme, useTheme } from "../theme/useTheme";

/** A view that uses Ant Design, which is loaded with it. */
const withAnt = (load: () => Promise<{ default: ComponentType }>) =>
  lazy(async () => {
    const [{ AntRoot }, { default: View }] = await Promise.all([import("../theme/AntRoot"), load()]);
    return {
      default: () => (
        <AntRoot>
          <View />
        </AntRoot>
      ),
    };
  });

const LibrariesView = lazy(loadLibraries);
// What the first view needs is asked for side by side, not one after the other.
if (location.pathname === "/" || location.pathname === "/libraries") {
  void loadLibraries();
  void askForFirstRows();
}

const SnippetView = withAnt(loadSnippet);
const SettingsView = withAnt(loadSettings);
const SafetyView = withAnt(loadSafety);
const HistoryView = withAnt(loadHistory);
const SavingsView = withAnt(loadSavings);
const DrillView = withAnt(loadDrill);
const SproutsView = withAnt(loadSprouts);
const PacksView = withAnt(loadPacks);
const CompanionPage = withAnt(loadCompanion);
const DeskView = withAnt(loadDesk);

export function App() {
  const [theme, toggleTheme] = useTheme();
  return (
    <QueryClientProvider client={queryClient}>
      <ThemeName value={theme}>
        <ToggleTheme value={toggleTheme}>
          <BrowserRouter>
            <BrokenPage>
              <Routes>
                <Route
                  path="/companion"
                  element={
                    <Suspense>
                      <CompanionPage />
                    </Suspense>
                  }
                />
                <Route element={<Frame />}>
                  <Route index element={<Navigate to="/libraries" replace />} />
                  <Route path="/libraries" element={<LibrariesView />} />
                  <Route path="/snippets/:id" element={<SnippetView />} />
                  <Route path="/sprouts" element={<SproutsView />} />
                  <Route path="/savings" element={<SavingsView />} />
                  <Route path="/drill" element={<DrillView />} />
                  <Route path="/packs" element={<PacksView />} />
                  <Route path="/desk" element={<DeskView />} />
                  <Route path="/safety" element={<SafetyView />} />
                  <Route path="/history" element={<HistoryView />} />
                  <Route path="/settings" element={<SettingsView />} />
                  <Route path="*" element={<Navigate to="/libraries" replace />} />
                </Route>
              </Routes>
            </BrokenPage>
          </BrowserRouter>
        </ToggleTheme>
      </ThemeName>
    </QueryClientProvider>
  );
}

/** Says what broke instead of an empty page. */
class BrokenPage extends Component<{ children: ReactNode }, { error: Error | undefined }> {
  override state: { error: Error | undefined } = { error: undefined };

  static getDerivedStateFromError(error: unknown): { error: Error } {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  override render(): ReactNode {
    if (!this.state.error) return this.props.children;
    return (
      <div className="page" role="alert">
        <h1>This page broke</h1>
        <p>{this.state.error.message}</p>
        <p>
          Nothing saved is lost. <a href="/libraries">Open the libraries again</a>
        </p>
      </div>
    );
  }
}

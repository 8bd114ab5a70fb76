import { QueryClientProvider } from "@tanstack/react-query";
import { Component, lazy, Suspense, type ComponentType, type ReactNode } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { queryClient } from "./api/queries";
import { Frame } from "./frame/Frame";
import { askForFirstRows } from "./libraries/rowsQuery";
import { ThemeName, ToggleTheme, useTheme } from "./theme/useTheme";

/** A view that uses Ant Design, which is loaded with it. */
const withAnt = (load: () => Promise<{ default: ComponentType }>) =>
  lazy(async () => {
    const [{ AntRoot }, { default: View }] = await Promise.all([import("./theme/AntRoot"), load()]);
    return {
      default: () => (
        <AntRoot>
          <View />
        </AntRoot>
      ),
    };
  });

const loadLibraries = () => import("./libraries/LibrariesView");
const LibrariesView = lazy(loadLibraries);
// What the first view needs is asked for side by side, not one after the other.
if (location.pathname === "/" || location.pathname === "/libraries") {
  void loadLibraries();
  void askForFirstRows();
}

const SnippetView = withAnt(() => import("./snippet/SnippetView"));
const SettingsView = withAnt(() => import("./settings/SettingsView"));
const SafetyView = withAnt(() => import("./safety/SafetyView"));
const HistoryView = withAnt(() => import("./history/HistoryView"));
const SavingsView = withAnt(() => import("./savings/SavingsView"));
const DrillView = withAnt(() => import("./drill/DrillView"));
const SproutsView = withAnt(() => import("./learning/SproutsView"));
const PacksView = withAnt(() => import("./packs/PacksView"));
const CompanionPage = withAnt(() => import("./companion/CompanionPage"));
const DeskView = withAnt(() => import("./desk/DeskView"));

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

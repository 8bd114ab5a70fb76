import { QueryClientProvider } from "@tanstack/react-query";
import { App as AntApp, ConfigProvider } from "antd";
import { lazy } from "react";
import { createBrowserRouter, Navigate, RouterProvider, useRouteError } from "react-router";
import { queryClient } from "./api/queries";
import { Frame } from "./frame/Frame";
import { themeFor } from "./theme/theme";
import { ToggleTheme, useTheme } from "./theme/useTheme";

const LibrariesView = lazy(() => import("./libraries/LibrariesView"));
const SnippetView = lazy(() => import("./snippet/SnippetView"));
const SettingsView = lazy(() => import("./settings/SettingsView"));
const SafetyView = lazy(() => import("./safety/SafetyView"));
const DeskView = lazy(() => import("./desk/DeskView"));

export function App() {
  const [theme, toggleTheme] = useTheme();
  return (
    <ConfigProvider theme={themeFor(theme)} button={{ autoInsertSpace: false }} wave={{ disabled: true }}>
      <AntApp message={{ maxCount: 3 }} notification={{ placement: "topRight" }}>
        <QueryClientProvider client={queryClient}>
          <ToggleTheme value={toggleTheme}>
            <RouterProvider router={router} />
          </ToggleTheme>
        </QueryClientProvider>
      </AntApp>
    </ConfigProvider>
  );
}

const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <BrokenPage />,
    children: [
      { index: true, element: <Navigate to="/libraries" replace /> },
      { path: "/libraries", element: <LibrariesView /> },
      { path: "/snippets/:id", element: <SnippetView /> },
      { path: "/desk", element: <DeskView /> },
      { path: "/safety", element: <SafetyView /> },
      { path: "/settings", element: <SettingsView /> },
      { path: "*", element: <Navigate to="/libraries" replace /> },
    ],
  },
]);

function BrokenPage() {
  const error = useRouteError();
  return (
    <div className="page" role="alert">
      <h1>This page broke</h1>
      <p>{error instanceof Error ? error.message : String(error)}</p>
      <p>
        Nothing saved is lost. <a href="/libraries">Open the libraries again</a>
      </p>
    </div>
  );
}

import "@fontsource/atkinson-hyperlegible/400.css";
import "@fontsource/atkinson-hyperlegible/400-italic.css";
import "@fontsource/atkinson-hyperlegible/700.css";
import "@fontsource/jetbrains-mono/400.css";
import "@fontsource/jetbrains-mono/700.css";
import "antd/dist/reset.css";
import "./theme/theme.css";
import "./shell/frame.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./shell/App";

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);

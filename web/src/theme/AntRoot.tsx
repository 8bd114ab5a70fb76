import { App, ConfigProvider } from "antd";
import { use, type ReactNode } from "react";
import { themeFor } from "./theme";
import { ThemeName } from "./useTheme";

/** Ant Design in our own look, for a view or dialog that uses it. It is loaded with them, not with the first view. */
export function AntRoot({ children }: { children: ReactNode }) {
  return (
    <ConfigProvider
      theme={themeFor(use(ThemeName))}
      button={{ autoInsertSpace: false }}
      // A browser writes what stands in fields to its profile, to bring them back; what is private has no place there.
      input={{ autoComplete: "off" }}
      textArea={{ autoComplete: "off" }}
      wave={{ disabled: true }}
    >
      <App component={false} message={{ maxCount: 3 }} notification={{ placement: "topRight" }}>
        {children}
      </App>
    </ConfigProvider>
  );
}

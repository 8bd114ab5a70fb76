import { theme, type ThemeConfig } from "antd";

const sans = '"Atkinson Hyperlegible", system-ui, sans-serif';

const palette = {
  light: {
    ink: "#14342b",
    soft: "#47635a",
    paper: "#f6f1e4",
    raised: "#fdfaf2",
    sunk: "#ece4d1",
    line: "#d6cbb2",
    shoot: "#35701a",
    caution: "#8f5200",
    fault: "#a02c1c",
  },
  dark: {
    ink: "#ece5d3",
    soft: "#b3bfae",
    paper: "#0f231d",
    raised: "#163028",
    sunk: "#0a1a15",
    line: "#2f4d42",
    shoot: "#9ad565",
    caution: "#f0b65a",
    fault: "#ff9a88",
  },
} as const;

export type ThemeName = keyof typeof palette;

/** Ant Design in the colours and shapes of this program. */
export function themeFor(name: ThemeName): ThemeConfig {
  const c = palette[name];
  return {
    algorithm: name === "dark" ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: c.shoot,
      colorLink: c.shoot,
      colorInfo: c.shoot,
      colorSuccess: c.shoot,
      colorWarning: c.caution,
      colorError: c.fault,
      colorText: c.ink,
      colorTextSecondary: c.soft,
      colorTextTertiary: c.soft,
      colorTextDescription: c.soft,
      colorTextPlaceholder: c.soft,
      colorTextDisabled: c.soft,
      colorBgBase: c.paper,
      colorBgLayout: c.paper,
      colorBgContainer: c.raised,
      colorBgElevated: c.raised,
      colorBorder: c.line,
      colorBorderSecondary: c.line,
      colorTextLightSolid: name === "dark" ? "#0f231d" : "#fffdf5",
      fontFamily: sans,
      fontFamilyCode: '"JetBrains Mono", ui-monospace, monospace',
      fontSize: 15,
      borderRadius: 3,
      controlHeight: 32,
      boxShadow: "0 2px 0 rgba(20,52,43,.08)",
      boxShadowSecondary: `0 0 0 1px ${c.line}, 0 8px 24px rgba(10,26,21,.25)`,
      wireframe: false,
      motion: false,
    },
    components: {
      Button: { primaryShadow: "none", defaultShadow: "none", dangerShadow: "none", fontWeight: 700 },
      Input: { activeShadow: "none" },
      Tooltip: { colorBgSpotlight: c.ink, colorTextLightSolid: c.paper },
    },
  };
}

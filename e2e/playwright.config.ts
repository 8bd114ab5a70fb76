import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { defineConfig } from "@playwright/test";

const port = Number(process.env["DASH_SPROUT_TEST_PORT"] ?? 5297);
// Set once: the workers read this file again.
process.env["DASH_SPROUT_TEST_DATA"] ??= mkdtempSync(join(tmpdir(), "dash-sprout-e2e-"));

export default defineConfig({
  testDir: "tests",
  workers: 1,
  // A test that passes only when it is run again is printed as flaky.
  retries: 1,
  fullyParallel: false,
  // Long enough for a machine that is busy with other things: a wait that is over early costs nothing.
  timeout: 180_000,
  expect: { timeout: 30_000 },
  reporter: [["list"]],
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    trace: "off",
    video: "off",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: ["--no-sandbox", "--disable-dev-shm-usage", "--disable-gpu", "--disable-background-networking"],
    },
  },
  webServer: {
    command: `dotnet DashSprout.Server.dll --port ${port} --data "${process.env["DASH_SPROUT_TEST_DATA"]}"`,
    cwd: "../artifacts/server",
    url: `http://localhost:${port}/healthz`,
    reuseExistingServer: false,
    timeout: 240_000,
  },
});

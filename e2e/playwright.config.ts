import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: "tests",
  // One for each core of a small machine; each has a program of its own.
  workers: 2,
  // A test that passes only when it is run again is printed as flaky.
  retries: 1,
  fullyParallel: false,
  // Long enough for a machine that is busy with other things: a wait that is over early costs nothing.
  timeout: 180_000,
  expect: { timeout: 30_000 },
  reporter: [["list"]],
  use: {
    viewport: { width: 1280, height: 800 },
    trace: "off",
    video: "off",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: ["--no-sandbox", "--disable-dev-shm-usage", "--disable-gpu", "--disable-background-networking"],
    },
  },
});

// Drives the first minute of a new user in Chromium, at a person's pace, and prints how long it takes and how many keys.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";

const root = new URL("..", import.meta.url).pathname;
const { chromium } = createRequire(join(root, "e2e/package.json"))("@playwright/test");
const port = 5294;
const address = `http://localhost:${port}`;
const rounds = 5;

/** Milliseconds between two keys: forty words a minute, five characters to the word (common practice). */
const pace = 300;

const code = "omw";
const text = "On my way, ten minutes.";

const data = () => mkdtempSync(join(tmpdir(), "dash-sprout-first-"));
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-dev-shm-usage", "--disable-gpu", "--disable-background-networking"],
});
const seconds = [];
let keys = 0;
try {
  for (let round = 0; round < rounds; round++) seconds.push(await once());
} finally {
  await browser.close();
}
seconds.sort((one, other) => one - other);
console.log("\n| From page load to the first expansion of one's own | median | slowest | wanted |");
console.log("| --- | --- | --- | --- |");
console.log(
  `| seconds, at ${pace} ms a key | ${seconds[Math.floor(rounds / 2)].toFixed(1)} | ${seconds.at(-1).toFixed(1)} | under 20 |`,
);
console.log(`| keys besides the text | ${keys} | | under 30 |`);

/** An empty program, a fresh browser: abbreviation, Tab, text, the proof line, and the abbreviation again. */
async function once() {
  const folder = data();
  const args = ["DashSprout.Server.dll", "--port", String(port), "--data", folder, "--empty", "true"];
  const server = spawn("dotnet", args, { cwd: join(root, "artifacts/server"), stdio: "ignore" });
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  try {
    await ready();
    const page = await context.newPage();
    let pressed = 0;
    const type = async (what) => {
      for (const key of what) {
        await page.keyboard.press(key);
        pressed++;
        await page.waitForTimeout(pace);
      }
    };
    const start = performance.now();
    await page.goto(address);
    await page.locator(".letters-input:focus").waitFor();
    await type([...code, "Tab", ...text]);
    await type(["Control+Alt+p", ...code, "Space"]);
    await page.waitForFunction((wanted) => document.querySelector("#proof-line").value === `${wanted} `, text);
    keys = pressed - text.length;
    return (performance.now() - start) / 1000;
  } finally {
    await context.close();
    const ended = new Promise((resolve) => server.once("exit", resolve));
    server.kill();
    await ended;
    rmSync(folder, { recursive: true, force: true });
  }
}

async function ready() {
  for (let tries = 0; tries < 400; tries++) {
    if (
      await fetch(`${address}/healthz`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error("The program was not ready within 20 seconds.");
}

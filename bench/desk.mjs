// Drives the real page in Chromium with 20 000 snippets and prints how long people wait.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";

const root = new URL("..", import.meta.url).pathname;
const { chromium } = createRequire(join(root, "e2e/package.json"))("@playwright/test");
const port = 5295;
const address = `http://localhost:${port}`;
const count = 20_000;
const keyCount = 500;

const consonants = "bcdfghjklmnpqrstvwxz";
const abbreviation = (number) => {
  let text = number % 2 === 0 ? ";" : "q";
  for (let rest = number; rest > 0 || text.length < 4; rest = Math.floor(rest / consonants.length))
    text += consonants[rest % consonants.length];
  return text;
};
const places = ["quay", "berth", "lock", "buoy", "channel", "breakwater", "slipway", "jetty"];
const snippet = (number) => ({
  name: `Notice ${number} for the ${places[number % places.length]}`,
  text: `The text of notice ${number}: the ${places[(number * 7) % places.length]} is clear until ${number % 24} hours.`,
  triggers: [
    { kind: "abbreviation", text: abbreviation(number), timing: number % 3 === 0 ? "at-once" : "closing-key" },
  ],
});
const long = {
  name: "Long text",
  text: "All is quiet at the quay. ".repeat(193).slice(0, 5000),
  triggers: [{ kind: "abbreviation", text: "zlong", timing: "at-once" }],
};
const short = { name: "Short text", text: "breakwater", triggers: [{ kind: "abbreviation", text: "zbk" }] };

const show = (ms) => `${ms.toFixed(1)} ms`;
const at = (numbers, part) =>
  numbers.toSorted((a, b) => a - b)[Math.min(Math.floor(numbers.length * part), numbers.length - 1)];
const row = (what, median, p95, wanted) =>
  console.log(`| ${what} | ${show(median)} | ${p95 === undefined ? "" : show(p95)} | ${wanted} |`);

const data = mkdtempSync(join(tmpdir(), "dash-sprout-bench-"));
const server = spawn("dotnet", ["DashSprout.Server.dll", "--port", String(port), "--data", data, "--empty", "true"], {
  cwd: join(root, "artifacts/server"),
  stdio: "ignore",
});
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-dev-shm-usage", "--disable-gpu", "--disable-background-networking"],
});
try {
  await ready();
  // An empty program would open on a new snippet.
  await fetch(`${address}/api/snippets`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: '{"snippet":{"name":"Small","text":"small"}}',
  });
  const small = await firstView();
  const folders = Array.from({ length: 40 }, (_, folder) => ({
    name: `Folder ${folder}`,
    snippets: Array.from({ length: count / 40 }, (__, place) => snippet(folder * (count / 40) + place)),
  }));
  const libraries = [{ name: "Bench", folders, snippets: [long, short] }];
  const answer = await fetch(`${address}/api/library-file`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ format: "dash-sprout-library", version: 1, libraries }),
  });
  if (!answer.ok) throw new Error(await answer.text());

  // What the program works out after an import is done before anybody waits for a page.
  while ((await (await fetch(`${address}/api/safety`)).json()).state !== "ready")
    await new Promise((resolve) => setTimeout(resolve, 250));

  console.log(`## The page with ${count.toLocaleString("en")} snippets`);
  console.log();
  console.log("| what | median | 95th percentile | wanted |");
  console.log("| --- | ---: | ---: | ---: |");
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

  row("first view usable, cold, with one library", small.ms, undefined, "");
  const all = await firstView();
  row("first view usable, cold, with all", all.ms, undefined, "700 ms");
  console.log(
    `| script until the first view is usable, before compression | ${all.kilobytes.toFixed(0)} kB | | 300 kB |`,
  );
  const saves = await saveTimes();
  row("a save, on disk when it is acknowledged, 100 saves", at(saves, 0.5), at(saves, 0.95), "10 ms");

  await page.goto(`${address}/desk`);
  const letter = page.getByRole("textbox", { name: "Letter" });
  await letter.click();
  // Keys are told of once the page is connected.
  for (let round = 0; round < 100 && (await page.locator(".key-log li").count()) === 0; round++) {
    await page.keyboard.type("x");
    await page.waitForTimeout(100);
  }

  // From the key's own time stamp to the frame after the text has changed.
  await page.evaluate(() => {
    window.waits = [];
    let pressed = 0;
    const editor = document.querySelector(".tiptap");
    document.addEventListener("keydown", (event) => (pressed = event.timeStamp), { capture: true });
    new MutationObserver(() => {
      const from = pressed;
      pressed = 0;
      if (from > 0) requestAnimationFrame(() => setTimeout(() => window.waits.push(performance.now() - from)));
    }).observe(editor, { subtree: true, childList: true, characterData: true });
  });
  const prose = "the tide is at seven and zbk the quay is clear; nobody waits at the bridge "
    .repeat(10)
    .slice(0, keyCount);
  await page.keyboard.type(prose, { delay: 25 });
  await page.waitForFunction((wanted) => window.waits.length >= wanted, keyCount * 0.95);
  const keys = await page.evaluate(() => window.waits);
  row(`key pressed to text shown, ${keyCount} keys`, at(keys, 0.5), at(keys, 0.95), "20 ms");

  const puts = [];
  for (let round = 0; round < 9; round++) {
    await page.keyboard.press("Control+a");
    await page.keyboard.press("Delete");
    await page.waitForFunction(() => document.querySelector(".tiptap").textContent === "", undefined, {
      timeout: 5000,
    });
    await page.keyboard.type("zlon", { delay: 40 });
    // The page listens before the key is sent, and gives up after ten seconds.
    await page.evaluate(() => {
      const editor = document.querySelector(".tiptap");
      window.shown = new Promise((resolve, reject) => {
        let from = 0;
        document.addEventListener("keydown", (event) => (from = event.timeStamp), { capture: true, once: true });
        setTimeout(() => reject(new Error("The long text did not come within ten seconds.")), 10_000);
        const look = () => {
          if (from > 0 && editor.textContent.length >= 4990) resolve(performance.now() - from);
          else requestAnimationFrame(look);
        };
        look();
      });
    });
    await page.keyboard.press("g");
    puts.push(await page.evaluate(() => window.shown));
  }
  row("text of 5 000 characters put in", at(puts, 0.5), at(puts, 0.95), "200 ms");

  const busy = [1, 2].map(() => spawn(process.execPath, ["-e", "for (;;);"], { stdio: "ignore" }));
  try {
    const late = await lag(page);
    row("screen behind at 5 ms a key, two cores busy, 400 keys", at(late, 0.5), at(late, 0.95), "");
  } finally {
    busy.forEach((one) => one.kill());
  }

  const answers = await page.evaluate(async () => {
    const queries = [
      "b",
      "qu",
      "quay",
      "notice 1234",
      "breakwater is clear",
      "slipwy clear",
      "lock until 7",
      ";bcd",
      "jet",
      "the text of",
    ];
    const times = [];
    for (let round = 0; round < 6; round++)
      for (const query of queries) {
        const start = performance.now();
        const found = await (await fetch(`/api/finder?query=${encodeURIComponent(query)}`)).json();
        if (found.length === 0) throw new Error(`Nothing was found for ${query}.`);
        if (round > 0) times.push(performance.now() - start);
      }
    return times;
  });
  row("the finder's answer, 10 queries", at(answers, 0.5), at(answers, 0.95), "50 ms");
  const filtered = await page.evaluate(filterTimes);
  row("what a filter of the table leaves, 8 filters", at(filtered, 0.5), at(filtered, 0.95), "50 ms");
  await page.goto(`${address}/libraries`);
  await page.locator(".snippet-row").first().waitFor();
  const frames = await page.evaluate(scrollTimes);
  row("a frame while the table is scrolled", at(frames, 0.5), at(frames, 0.95), "16.7 ms");
} finally {
  await browser.close();
  server.kill();
  rmSync(data, { recursive: true, force: true });
}

/** Runs in the page: how long the rows take that a filter leaves. */
async function filterTimes() {
  const filters = [
    "quay",
    "notice 1234",
    "timing:at-once",
    "never used",
    "overlaps",
    "changed since today",
    "not has fields jetty",
    "slipway 7",
  ];
  const times = [];
  for (let round = 0; round < 6; round++)
    for (const filter of filters) {
      const start = performance.now();
      const answer = await fetch("/api/libraries/rows", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({
          view: { closed: [], filter: `${filter}${" ".repeat(round)}`, sort: null, descending: false },
          from: 0,
          count: 80,
        }),
      });
      await answer.json();
      if (!answer.ok) throw new Error(`${filter}: ${answer.status}`);
      if (round > 0) times.push(performance.now() - start);
    }
  return times;
}

/** Runs in the page: how long a frame takes while the table is scrolled by 60 rows a second. */
async function scrollTimes() {
  const table = document.querySelector(".table");
  const times = [];
  let last = performance.now();
  for (let frame = 0; frame < 300; frame++) {
    table.scrollTop += 38;
    await new Promise((resolve) => requestAnimationFrame(resolve));
    const now = performance.now();
    times.push(now - last);
    last = now;
  }
  return times;
}

/** How far the screen is behind the keys of somebody who types faster than anybody does. */
async function lag(page) {
  const log = page.getByRole("textbox", { name: "Log" });
  await log.click();
  await log.fill("");
  await page.evaluate(() => {
    const field = document.querySelector('textarea[aria-label="Log"]');
    window.late = [];
    const pressed = [];
    // At the window, before the page withholds any of them.
    window.addEventListener("keydown", (event) => pressed.push(event.timeStamp), { capture: true });
    const look = () => {
      while (window.late.length < Math.min(field.value.length, pressed.length))
        window.late.push(performance.now() - pressed[window.late.length]);
      requestAnimationFrame(look);
    };
    look();
  });
  // Nobody waits for a key to be taken before the next one is sent.
  const client = await page.context().newCDPSession(page);
  const sent = [];
  for (const text of "nobody waits at the bridge and the quay is clear ".repeat(9).slice(0, 400)) {
    sent.push(client.send("Input.dispatchKeyEvent", { type: "keyDown", text, key: text }));
    sent.push(client.send("Input.dispatchKeyEvent", { type: "keyUp", key: text }));
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  await Promise.all(sent);
  await page.waitForFunction(() => window.late.length >= 400, undefined, { timeout: 60_000 });
  return page.evaluate(() => window.late);
}

/** From the address to the first row of the table, in a browser that has nothing of the page yet. */
async function firstView() {
  const times = [];
  let kilobytes = 0;
  for (let round = 0; round < 7; round++) {
    const cold = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const view = await cold.newPage();
    const start = performance.now();
    await view.goto(`${address}/libraries`);
    await view.locator(".library-row").first().waitFor();
    times.push(performance.now() - start);
    // The scripts without which the rows cannot be there: those that were asked for before the rows came.
    kilobytes = await view.evaluate(() => {
      const entries = performance.getEntriesByType("resource");
      const rowsCame = entries.find((entry) => entry.name.endsWith("/api/libraries/rows"))?.responseEnd ?? Infinity;
      return (
        entries
          .filter((entry) => entry.name.endsWith(".js") && entry.startTime <= rowsCame)
          .reduce((sum, entry) => sum + entry.decodedBodySize, 0) / 1000
      );
    });
    await cold.close();
  }
  return { ms: at(times, 0.5), kilobytes };
}

/** How long a change of one snippet takes over HTTP. */
async function saveTimes() {
  const [found] = await (await fetch(`${address}/api/finder?query=Short`)).json();
  const times = [];
  const same = { enabled: true, private: false, leaveOnClipboard: false, body: null };
  for (let round = 0; round < 100; round++) {
    const edit = {
      before: { ...same, text: round === 0 ? "breakwater" : `breakwater ${round - 1}` },
      after: { ...same, text: `breakwater ${round}` },
    };
    const start = performance.now();
    const answer = await fetch(`${address}/api/snippets/${found.snippetId}`, {
      method: "PATCH",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(edit),
    });
    const { unsaved } = await answer.json();
    times.push(performance.now() - start);
    if (unsaved.length > 0) throw new Error(unsaved[0].why);
  }
  return times;
}

async function ready() {
  for (let round = 0; round < 150; round++) {
    if (
      await fetch(`${address}/healthz`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error("The server did not start. Run ./start once, so that artifacts/server is there.");
}

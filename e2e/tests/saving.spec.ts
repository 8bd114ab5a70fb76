import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { expect, test } from "./program";
import { OwnServer } from "./server";

/** What is typed into a snippet's page is saved, whatever happens beside it. */

let server: OwnServer;
test.beforeEach(async () => {
  server = await OwnServer.start();
});
test.afterEach(() => server.end());

const isSaved = (page: Page) => expect(page.getByText("Saved", { exact: true })).toBeVisible();

async function open(page: Page, name: string, text: string): Promise<void> {
  await server.addLibrary("Berths", [{ name, text }]);
  await page.goto(server.url);
  await page.locator(".table-body [role=row]").filter({ hasText: name }).first().dblclick();
  await expect(page.getByRole("textbox", { name: "What goes in" })).toBeVisible();
}

test("a second new snippet is saved under the name that its text gives it", async ({ page }) => {
  await server.addLibrary("Berths", [
    { name: "New snippet", text: "a" },
    { name: "Old", text: "b" },
  ]);
  await page.goto(`${server.url}/snippets/new`);
  await expect(page.getByLabel("Typed letters")).toBeFocused();
  await page.keyboard.type("cd2");
  await page.keyboard.press("Tab");
  await page.keyboard.type("see you at noon");
  await isSaved(page);
  await expect(page.getByRole("textbox", { name: "Name" })).toHaveValue("see you at noon");
  await page.goto(server.url);
  await expect(page.locator(".table-body [role=row]").filter({ hasText: "see you at noon" }).first()).toBeVisible();
  await expect(page.getByText("unsaved work")).toHaveCount(0);
});

test("a strip that is added while a save is under way stays, and takes what is typed into it", async ({ page }) => {
  await open(page, "Deposit", "first");
  // The answer to a save takes its time.
  let answers = () => {};
  const answered = new Promise<void>((resolve) => (answers = resolve));
  await page.route(
    (url) => /\/api\/snippets\/\d+$/.test(url.pathname),
    async (route) => {
      await answered;
      await route.continue();
    },
    { times: 1 },
  );
  const sent = page.waitForRequest((request) => request.method() === "PATCH");
  await page.getByRole("textbox", { name: "What goes in" }).fill("second");
  await sent;
  await page.getByRole("button", { name: "Add an abbreviation" }).click();
  await expect(page.getByLabel("Typed letters")).toBeVisible();
  answers();
  await isSaved(page);
  await page.getByLabel("Typed letters").fill("txx");
  await isSaved(page);
  await page.reload();
  await expect(page.getByLabel("Typed letters")).toHaveValue("txx");
  await expect(page.getByRole("textbox", { name: "What goes in" })).toHaveValue("second");
});

test("what a tab that was closed had not saved is saved by another one, and no tab deletes it", async ({
  page,
  context,
}) => {
  await open(page, "Deposit", "first");
  const address = page.url();
  const clean = await context.newPage();
  await clean.goto(address);
  await expect(clean.getByRole("textbox", { name: "What goes in" })).toHaveValue("first");
  await server.kill();
  await page.getByRole("textbox", { name: "What goes in" }).fill("second");
  await expect(page.getByText("Kept in this browser").first()).toBeVisible();
  await page.close();
  await server.start();
  await clean.bringToFront();
  await clean.reload();
  await expect
    .poll(async () => (await (await fetch(`${server.url}/api/library-file`)).text()).includes("second"))
    .toBe(true);
  await clean.goto(address);
  await expect(clean.getByRole("textbox", { name: "What goes in" })).toHaveValue("second");
});

test("a snippet that becomes private gets a neutral name where its own came from the text", async ({ page }) => {
  await open(page, "4111 1111 quay", "4111 1111 quay");
  await page.getByRole("checkbox", { name: /private/i }).click();
  await expect(
    page.getByText("Its name told how its text begins, so it is called “Private snippet” now."),
  ).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Name" })).toHaveValue("Private snippet");
  await page.goto(server.url);
  await expect(page.locator(".table-body [role=row]").filter({ hasText: "Private snippet" }).first()).toBeVisible();
  await expect(page.getByText("4111")).toHaveCount(0);
});

test("nothing of a private snippet stays in the browser's profile, saved or not", async () => {
  const profile = mkdtempSync(join(tmpdir(), "dash-sprout-profile-"));
  try {
    await server.addLibrary("Berths", [
      { name: "Gate", text: "zqheron41", note: "zqheron42", private: true },
      { name: "Open", text: "zqtern43" },
    ]);
    const browser = await chromium.launchPersistentContext(profile, {
      ...test.info().project.use.launchOptions,
    });
    const page = await browser.newPage();
    // Leaving asks, since nothing of it is kept.
    page.on("dialog", (dialog) => void dialog.accept());
    const field = page.getByRole("textbox", { name: "What goes in" });
    for (const name of ["Open", "Gate"]) {
      await page.goto(server.url);
      await page.locator(".table-body [role=row]").filter({ hasText: name }).first().dblclick();
      await expect(field.or(page.getByRole("button", { name: "Show them" }))).toBeVisible();
    }
    await page.getByRole("button", { name: "Show them" }).click();
    await expect(field).toHaveValue("zqheron41");
    await server.kill();
    await field.fill("zqheron44");
    await expect(page.getByText("Not saved yet; leave this page open")).toBeVisible();
    await page.close({ runBeforeUnload: false });
    await browser.close();
    const files = readdirSync(profile, { recursive: true, withFileTypes: true }).filter((file) => file.isFile());
    const marks = files.flatMap((file) => {
      const text = readFileSync(join(file.parentPath, file.name), "latin1");
      return /zqheron\d+|z\0q\0h\0e\0r\0o\0n/.test(text) ? [file.name] : [];
    });
    expect(marks).toEqual([]);
  } finally {
    rmSync(profile, { recursive: true, force: true });
  }
});

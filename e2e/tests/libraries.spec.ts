import type { Page } from "@playwright/test";
import { answered, openProofLine, openSnippet } from "./app";
import { expect, test } from "./program";

const row = (page: Page, text: string) => page.locator(".table-body [role=row]").filter({ hasText: text }).first();
const body = (page: Page) => page.getByRole("textbox", { name: "What goes in" });
const proofLine = (page: Page) => page.locator("input#proof-line");

async function typeOnProofLine(page: Page, typed: string): Promise<void> {
  await proofLine(page).fill("");
  await openProofLine(page);
  await page.keyboard.type(typed);
}

test("open, code, text, done: a new snippet works at once", async ({ page }) => {
  await page.goto("/libraries");
  await row(page, "Berth desk").focus();
  await page.keyboard.press("n");
  await expect(page.getByRole("heading", { name: "What goes in" })).toBeVisible();
  await page.getByLabel("Name", { exact: true }).fill("Mooring lines");
  await body(page).fill("Please bring four mooring lines.");
  await page.getByLabel("Typed letters").fill("mln");
  await expect(page.getByRole("status")).toHaveText("Saved");

  await page.getByRole("link", { name: "Desk" }).click();
  await page.getByRole("textbox", { name: "Letter" }).click();
  await answered(page);
  await page.keyboard.type("mln ");
  await expect(page.getByRole("textbox", { name: "Letter" })).toHaveText(/^Please bring four mooring lines\.\s$/);
});

test("a bad abbreviation is refused at its field and the last good one stays", async ({ page }) => {
  await openSnippet(page, "Waiting list");
  const letters = page.getByLabel("Typed letters");
  await letters.fill("w t");
  await expect(page.getByRole("alert")).toContainText("White space at place 2");
  await expect(page.getByRole("status")).toHaveText("A part is not saved");
  await letters.fill("wtl");
  await expect(page.getByRole("status")).toHaveText("Saved");
});

test("every rule is set at its segment", async ({ page }) => {
  await openSnippet(page, "Say again");
  await page.getByRole("button", { name: /Goes off/ }).click();
  await page.getByText("At once, on its last character").click();
  await expect(page.getByRole("status")).toHaveText("Saved");
  await page.keyboard.press("Escape");
  await typeOnProofLine(page, "sag");
  await expect(proofLine(page)).toHaveValue("Say again, please. You came through broken.");
});

test("a part that was changed on both sides stands side by side until one is chosen", async ({ page, browser }) => {
  await openSnippet(page, "Refund");
  await page.context().setOffline(true);
  await body(page).fill("From this page.");
  await page.getByLabel("Note to yourself").fill("Mine alone");
  await expect(page.getByRole("status")).toContainText("Kept in this browser");

  const elsewhere = await browser.newPage();
  await elsewhere.goto(page.url());
  await body(elsewhere).fill("From the other page.");
  await expect(elsewhere.getByRole("status")).toHaveText("Saved");

  await page.context().setOffline(false);
  const conflict = page.locator(".two-sides");
  await expect(conflict).toContainText("From the other page.");
  await expect(conflict).toContainText("From this page.");
  await expect(page.getByRole("status")).toHaveText("Two versions of a part");
  // The note changed on one side only, so it was saved and is there already.
  await expect(elsewhere.getByLabel("Note to yourself")).toHaveValue("Mine alone");
  await conflict.getByRole("button", { name: "Keep this one" }).click();
  await expect(page.getByRole("status")).toHaveText("Saved");
  await expect(body(elsewhere)).toHaveValue("From this page.");
  await elsewhere.close();
});

test("what is renamed on one page is renamed on the other", async ({ page, context }) => {
  await openSnippet(page, "Refund");
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel("Name", { exact: true }).fill("Money back");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Money back");
  await other.getByLabel("Name", { exact: true }).fill("Refund");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Refund");
  await other.close();
});

test("rename, switch, move, delete and undo from the keyboard", async ({ page }) => {
  await page.goto("/libraries");
  const deposit = page.getByRole("row").filter({ hasText: "dpst" });
  await deposit.focus();
  await page.keyboard.press("F2");
  await page.keyboard.type("Deposit for a night\n");
  await expect(deposit).toContainText("Deposit for a night");

  await deposit.focus();
  await page.keyboard.press(" ");
  await expect(deposit.getByRole("switch")).not.toBeChecked();
  await typeOnProofLine(page, "dpst ");
  await expect(proofLine(page)).toHaveValue("dpst ");
  await expect(page.getByLabel("Proof line").locator(".trace-text")).toContainText("is off");
  await deposit.focus();
  await page.keyboard.press(" ");
  await expect(deposit.getByRole("switch")).toBeChecked();

  const place = () => deposit.getAttribute("aria-rowindex").then(Number);
  const before = await place();
  await deposit.focus();
  await page.keyboard.press("Alt+ArrowUp");
  await expect.poll(place).toBe(before - 1);

  await deposit.focus();
  await page.keyboard.press("Delete");
  await expect(deposit).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(deposit).toContainText("Deposit for a night");
});

test("libraries and folders are added, and an export can be read again", async ({ page }) => {
  await page.goto("/libraries");
  await expect(row(page, "Berth desk")).toBeVisible();
  await page.getByRole("button", { name: "More" }).click();
  await page.getByText("New library").click();
  await page.getByPlaceholder("Name").fill("Night watch");
  await page.keyboard.press("Enter");
  const library = page.getByRole("row").filter({ hasText: "Night watch" });
  await expect(library).toHaveCount(1);

  await page.getByRole("button", { name: "More" }).click();
  await page.getByText("Save all to a file …").click();
  const saving = page.getByRole("dialog", { name: "Save all to a file" });
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    saving.getByRole("button", { name: "Save" }).click(),
  ]);
  const file = await download.path();
  // The same libraries are here already: nothing would change by replacing them.
  await page.locator("input[type=file]").setInputFiles(file);
  const dialog = page.getByRole("dialog", { name: /^Bring in from/ });
  await expect(dialog.getByRole("alert")).toContainText("There is a library named");
  await dialog.getByRole("combobox", { name: "A library whose name is there" }).click();
  await page
    .locator(".ant-select-dropdown")
    .getByTitle(/^takes its place/)
    .click();
  await expect(dialog.getByText(/the same as here/)).toBeVisible();
  await expect(dialog.getByRole("button", { name: "Bring in", exact: true })).toBeDisabled();
});

test("a new folder's name is typed at once", async ({ page }) => {
  await page.goto("/libraries");
  await page.locator(".table-body [role=row]").first().focus();
  await page.getByRole("button", { name: "More" }).click();
  await page.getByText("New folder").click();
  await expect(page.getByRole("dialog", { name: "New folder" }).getByLabel("Name")).toBeFocused();
  await page.keyboard.type("Winter berths\n");
  await expect(page.getByRole("row", { name: /Winter berths/ })).toBeFocused();
});

test("nothing is loaded from outside", async ({ page }) => {
  const outside: string[] = [];
  page.on("request", (request) => {
    const { hostname } = new URL(request.url());
    if (hostname !== "localhost" && !request.url().startsWith("data:")) outside.push(request.url());
  });
  for (const path of ["/libraries", "/desk"]) {
    await page.goto(path);
    await page.getByRole("switch", { name: "listening" }).waitFor();
  }
  expect(outside).toEqual([]);
});

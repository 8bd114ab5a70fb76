import type { Page } from "@playwright/test";
import { openSnippet, snippetId } from "./app";
import { expect, test } from "./program";
import { OwnServer } from "./server";

const row = (page: Page, text: string) => page.locator(".table-body [role=row]").filter({ hasText: text }).first();
const body = (page: Page) => page.getByRole("textbox", { name: "What goes in" });
const status = (page: Page) => page.getByRole("status");

test.describe("on the harbour office's data", () => {
  test("Ctrl+Z and Ctrl+Shift+Z undo and do again, from the keyboard alone, and the list says what", async ({
    page,
  }) => {
    await page.goto("/libraries");
    await row(page, "Berth full").focus();
    await page.keyboard.press("F2");
    await page.keyboard.type("No berth\n");
    await expect(row(page, "No berth")).toBeFocused();
    await page.keyboard.press("Control+z");
    await expect(page.getByText("Undone: Renamed the snippet “Berth full” to “No berth”")).toBeVisible();
    await expect(row(page, "Berth full")).toBeVisible();
    await page.keyboard.press("Control+Shift+z");
    await expect(row(page, "No berth")).toBeVisible();
    await page.keyboard.press("Control+z");
    await expect(row(page, "Berth full")).toBeVisible();

    await page.getByRole("link", { name: "History" }).click();
    const change = page.getByRole("row").filter({ hasText: "Renamed the snippet “Berth full” to “No berth”" });
    await expect(change).toContainText("undone");
    await change.getByRole("button", { name: /Do again/ }).click();
    await expect(change).not.toContainText("undone");
    await page.keyboard.press("Control+z");
    await expect(change).toContainText("undone");
  });

  test("an earlier version is compared word by word and comes back", async ({ page }) => {
    await openSnippet(page, "Berth full");
    const text = await body(page).inputValue();
    await body(page).fill(text.replace("sorry", "afraid"));
    await expect(status(page)).toHaveText("Saved");
    await page.getByRole("button", { name: "Earlier versions" }).click();
    const drawer = page.getByRole("dialog", { name: "Earlier versions" });
    await expect(drawer.locator("dd del")).toHaveText("sorry");
    await expect(drawer.locator("dd ins")).toHaveText("afraid");
    await drawer.getByRole("button", { name: "Go back to this version" }).click();
    await expect(body(page)).toHaveValue(text);
    await expect(status(page)).toHaveText("Saved");
  });

  test("what was deleted lies in the bin with its place and comes back to it", async ({ page }) => {
    await page.goto("/libraries");
    const place = await row(page, "Waiting list").getAttribute("aria-rowindex");
    await row(page, "Waiting list").focus();
    await page.keyboard.press("Delete");
    await expect(row(page, "Waiting list")).toHaveCount(0);
    await page.goto("/history?show=bin");
    const binned = page.getByRole("row").filter({ hasText: "Waiting list" });
    await expect(binned).toContainText("Berth desk › Bookings");
    await binned.getByRole("button", { name: "Bring Waiting list back" }).click();
    await expect(binned).toHaveCount(0);
    await page.goto("/libraries");
    await expect(row(page, "Waiting list")).toHaveAttribute("aria-rowindex", place!);
  });

  test("every part of a snippet is saved for itself: a bad abbreviation holds no text back", async ({ page }) => {
    await openSnippet(page, "Deposit");
    const text = await body(page).inputValue();
    await page.getByRole("button", { name: "Add an abbreviation" }).click();
    // One that is still empty is not asked for; one that cannot be is told beside it.
    await expect(page.getByRole("alert")).toHaveCount(0);
    await page.getByLabel("Typed letters").last().fill("d p");
    await body(page).fill(`${text} Thank you.`);
    await page.getByLabel("Note to yourself").fill("asked for daily");
    await expect(page.getByRole("alert")).toContainText("White space at place 2");
    await expect(status(page)).toHaveText("A part is not saved");
    const id = await snippetId(page, "Deposit");
    const kept = (await (await page.request.get(`/api/snippets/${id}`)).json()) as {
      snippet: { text: string; note: string };
    };
    expect([kept.snippet.text, kept.snippet.note]).toEqual([`${text} Thank you.`, "asked for daily"]);
    await body(page).fill(text);
    await page.getByLabel("Note to yourself").fill("");
    await page
      .getByRole("button", { name: /^Remove/ })
      .last()
      .click();
    await expect(status(page)).toHaveText("Saved");
  });
});

test.describe("with a program of its own", () => {
  let server: OwnServer;
  test.beforeAll(async () => {
    server = await OwnServer.start();
    await server.addLibrary("Berths", [{ name: "Deposit", text: "first", triggers: [] }]);
  });
  test.afterAll(() => server.end());

  const openDeposit = async (page: Page) => {
    const found = (await (await fetch(`${server.url}/api/finder?query=Deposit`)).json()) as { snippetId: number }[];
    await page.goto(`${server.url}/snippets/${found[0]!.snippetId}`);
    await expect(body(page)).toBeVisible();
  };

  test("what is written while the program is away is saved when it is back, page left or not", async ({ page }) => {
    await openDeposit(page);
    await server.kill();
    await body(page).fill("written without a program");
    await expect(status(page)).toContainText("Kept in this browser");
    // Another view, within the page.
    await page.getByRole("link", { name: "History" }).click();
    await server.start();
    await expect
      .poll(async () => (await (await fetch(`${server.url}/api/library-file`)).text()).includes("written without"))
      .toBe(true);
  });

  test("a page that is closed with unsaved work saves it the next time, and says so", async ({ page, context }) => {
    await openDeposit(page);
    await server.kill();
    await body(page).fill("written, then closed");
    await expect(status(page)).toContainText("Kept in this browser");
    await page.close();
    await server.start();
    const next = await context.newPage();
    await next.goto(`${server.url}/libraries`);
    await expect(next.getByText("“Deposit” had unsaved work; it is saved now.")).toBeVisible();
    await openDeposit(next);
    await expect(body(next)).toHaveValue("written, then closed");
  });

  test("a backup is made, everything is deleted, and one click brings it back; so does undoing that", async ({
    page,
  }) => {
    await page.goto(`${server.url}/history?show=backups`);
    await page.getByRole("button", { name: "Make a backup now" }).click();
    const backup = page.getByRole("row").filter({ hasText: "asked for" });
    await expect(backup).toContainText("2 libraries, 1 snippets");
    await page.getByRole("link", { name: "Libraries" }).click();
    await row(page, "Berths").focus();
    await page.keyboard.press("Delete");
    await expect(row(page, "Berths")).toHaveCount(0);

    await page.goto(`${server.url}/history?show=backups`);
    await backup.getByRole("button", { name: /^Restore/ }).click();
    await expect(page.getByText(/^Everything is as it was on/)).toBeVisible();
    await page.getByRole("link", { name: "Libraries" }).click();
    await expect(row(page, "Berths")).toBeVisible();
    await page.keyboard.press("Control+z");
    await expect(row(page, "Berths")).toHaveCount(0);
    await page.keyboard.press("Control+z");
  });

  test("a new snippet is made where there is no library at all", async ({ page }) => {
    await page.goto(`${server.url}/libraries`);
    for (let rows = await row(page, "").count(); rows > 0; rows = await row(page, "").count()) {
      const first = await row(page, "").getAttribute("id");
      await row(page, "").focus();
      await page.keyboard.press("Delete");
      await expect(page.locator(`#${first}`)).toHaveCount(0);
    }
    await page.getByRole("button", { name: "New snippet" }).click();
    await expect(page.getByLabel("Name", { exact: true })).toHaveValue("New snippet");
    await expect(page.getByLabel("Where it lies")).toContainText("My snippets");
  });
});

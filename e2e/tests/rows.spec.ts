import type { Page } from "@playwright/test";
import { expect, test } from "./program";
import { OwnServer } from "./server";

const count = 3000;
let server: OwnServer;

test.beforeAll(async () => {
  server = await OwnServer.start();
  const snippets = Array.from({ length: count }, (_, at) => ({ name: `Snippet ${at}`, text: `text ${at}` }));
  await server.addLibrary("Many", snippets);
});
test.afterAll(() => server.end());

const row = (page: Page, name: string) =>
  page.locator(".table-body [role=row]").filter({ has: page.getByText(name, { exact: true }) });

/** Opens the table with the focus on its first row. */
async function open(page: Page): Promise<string[]> {
  const asked: string[] = [];
  page.on("request", (request) => {
    if (request.url().endsWith("/api/libraries/rows")) asked.push(request.postData() ?? "");
  });
  await page.goto(`${server.url}/libraries`);
  await row(page, "My snippets").focus();
  return asked;
}

test("of many rows only those in sight are asked for, and the keys reach every one of them", async ({ page }) => {
  const asked = await open(page);
  await expect(row(page, "Snippet 0")).toBeVisible();
  expect(await page.locator(".table-body [role=row]").count()).toBeLessThan(120);

  await page.keyboard.press("End");
  await expect(row(page, `Snippet ${count - 1}`)).toBeFocused();
  await page.keyboard.press("ArrowUp");
  await expect(row(page, `Snippet ${count - 2}`)).toBeFocused();
  await page.keyboard.press("PageUp");
  await expect(row(page, `Snippet ${count - 14}`)).toBeFocused();
  // The library it lies in is far above and not here at all.
  await page.keyboard.press("ArrowLeft");
  await expect(row(page, "Many")).toBeFocused();
  await page.keyboard.press("ArrowLeft");
  await expect(row(page, "Snippet 0")).toHaveCount(0);
  await expect(row(page, "Many")).toHaveAttribute("aria-expanded", "false");
  await page.keyboard.press("ArrowRight");
  await expect(row(page, "Snippet 0")).toBeVisible();
  await page.keyboard.press("Home");
  await expect(row(page, "My snippets")).toBeFocused();
  for (const body of asked) expect((JSON.parse(body) as { count: number }).count).toBeLessThanOrEqual(80);
});

test("what is changed far down stays in sight and keeps the focus", async ({ page }) => {
  await open(page);
  await page.keyboard.press("End");
  const last = row(page, `Snippet ${count - 1}`);
  await expect(last).toBeFocused();
  await page.keyboard.press("Alt+ArrowUp");
  await expect(last).toHaveAttribute("aria-rowindex", `${count + 2}`);
  await expect(last).toBeFocused();
  await page.keyboard.press("F2");
  await page.keyboard.type("Renamed\n");
  await expect(row(page, "Renamed")).toBeFocused();
  await page.keyboard.press(" ");
  await expect(row(page, "Renamed").getByRole("switch")).not.toBeChecked();
  await page.keyboard.press("Delete");
  await expect(row(page, "Renamed")).toHaveCount(0);
  await expect(row(page, `Snippet ${count - 2}`)).toBeFocused();
  for (const undone of ["Deleted", "Switched", "Renamed", "Moved"]) {
    await page.keyboard.press("Control+z");
    await expect(page.locator(".toast").filter({ hasText: `Undone: ${undone}` })).toBeVisible();
  }
  await expect(last).toHaveAttribute("aria-rowindex", `${count + 3}`);
});

test("a folder that is made is shown, wherever it lies", async ({ page }) => {
  await open(page);
  await page.keyboard.press("End");
  await expect(row(page, `Snippet ${count - 1}`)).toBeFocused();
  await page.getByRole("button", { name: "More" }).focus();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("menuitem", { name: "New folder" })).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "More" })).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await page.getByPlaceholder("Name").fill("Far above");
  await page.keyboard.press("Enter");
  await expect(row(page, "Far above")).toBeFocused();
  await expect(row(page, "Far above")).toBeInViewport();
});

import type { Page } from "@playwright/test";
import { openDesk, openSnippet } from "./app";
import { expect, test } from "./program";

/** A phone's width: a snippet is found and copied, and nothing is wider than the screen. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

async function fits(page: Page, what: string): Promise<void> {
  const wide = await page.evaluate(() => {
    const out = Array.from(document.querySelectorAll<HTMLElement>("body *")).filter((element) => {
      const box = element.getBoundingClientRect();
      if (box.width === 0 || box.height === 0 || box.right <= innerWidth + 1) return false;
      // What scrolls inside something of its own is not wider than the page.
      for (let outer = element.parentElement; outer; outer = outer.parentElement) {
        const style = getComputedStyle(outer);
        if (style.overflowX !== "visible" && outer.getBoundingClientRect().right <= innerWidth + 1) return false;
      }
      return true;
    });
    return out
      .slice(0, 3)
      .map((element) => `${element.tagName}.${element.className} ${element.textContent?.slice(0, 30)}`);
  });
  expect(wide, what).toEqual([]);
  // The view itself scrolls downwards only.
  const sideways = await page.evaluate(() =>
    ["html", "#view", ".ant-modal-wrap"].flatMap((name) =>
      Array.from(document.querySelectorAll(name))
        .filter((area) => area.scrollWidth > area.clientWidth + 1)
        .map((area) => `${name}: ${area.scrollWidth} in ${area.clientWidth}`),
    ),
  );
  expect(sideways, what).toEqual([]);
}

for (const [name, path, ready] of [
  ["libraries", "/libraries", ".snippet-row"],
  ["desk", "/desk", ".tiptap"],
  ["overlaps", "/safety", ".finding-list"],
  ["misfires", "/safety?part=misfires", ".finding-table"],
  ["replay", "/safety?part=replay", ".replay"],
  ["changes", "/history", ".history-actions"],
  ["backups", "/history?show=backups", ".history-table"],
  ["settings", "/settings", ".chord-list"],
] as const)
  test(`the ${name} view fits`, async ({ page }) => {
    await page.goto(path);
    await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
    await page.locator(ready).first().waitFor();
    await fits(page, name);
  });

test("the snippet page fits", async ({ page }) => {
  await openSnippet(page, "Berth confirmation");
  await expect(page.locator(".pane").first()).toBeVisible();
  await fits(page, "snippet page");
});

test("a snippet is found and copied with two taps", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await page.goto("/libraries");
  await page.getByRole("button", { name: /^Find/ }).tap();
  await expect(page.getByRole("combobox", { name: "Find a snippet" })).toBeFocused();
  await fits(page, "finder");
  await page.keyboard.type("moored");
  await expect(page.getByRole("combobox", { name: "Find a snippet" })).toHaveValue("moored");
  await expect(page.getByRole("option").first()).toContainText("Moored");
  await page.getByRole("option").first().tap();
  await expect(page.getByText("“Moored” is on the clipboard.")).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(
    "Moored, lines checked, shore power connected.",
  );
});

test("a slip fits", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type(";bcf");
  await expect(page.getByRole("dialog").getByLabel("Skipper")).toBeVisible();
  await fits(page, "slip");
  await page.keyboard.press("Escape");
});

test("everything a row’s keys do is done by touch", async ({ page }) => {
  await page.goto("/libraries");
  const row = page.locator(".table-body [role=row]").filter({ hasText: "Kind regards" }).first();
  await row.getByRole("button", { name: "What can be done with Kind regards" }).tap();
  await expect(page.getByRole("menuitem", { name: "Rename" })).toBeVisible();
  await fits(page, "row menu");
  await page.getByRole("menuitem", { name: "Switch off" }).tap();
  await expect(row.getByRole("switch")).toHaveAttribute("aria-checked", "false");
  await row.getByRole("switch").tap();
  await expect(row.getByRole("switch")).toHaveAttribute("aria-checked", "true");
});

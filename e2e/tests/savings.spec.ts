import { openDesk } from "./app";
import { press } from "./focus";
import { expect, test } from "./program";
import { OwnServer } from "./server";

/** What typing with snippets has saved. */

test("what was typed on the desk is counted, shown, copied in words and deleted", async ({ page, context }) => {
  const server = await OwnServer.start();
  try {
    await context.grantPermissions(["clipboard-read", "clipboard-write"], { origin: server.url });
    await server.addLibrary("Berth desk", [
      { name: "Regards", text: "Kind regards", triggers: [{ kind: "abbreviation", text: ";kr", timing: "at-once" }] },
    ]);
    await page.goto(`${server.url}/savings`);
    await expect(page.getByText("Nothing is counted yet.")).toBeVisible();

    await openDesk(page, server.url);
    await page.keyboard.type(";kr");
    await expect(page.getByRole("textbox", { name: "Letter" })).toHaveText("Kind regards");
    await page.goto(`${server.url}/savings`);
    const snippets = page.getByRole("region", { name: "Snippets" });
    await expect(snippets.getByRole("row", { name: /^Regards/ })).toContainText("9");
    await expect(page.getByText("at 40 words a minute, until yours is known")).toBeVisible();
    await page.getByText("The same as a table").click();
    await expect(page.locator(".savings-days tbody tr")).toHaveCount(30);

    await page.getByRole("button", { name: "Copy the week in words" }).click();
    await expect(page.getByText("in words.")).toBeVisible();
    expect(await page.evaluate(() => navigator.clipboard.readText())).toContain("- Regards: 9 keystrokes");

    await page.getByRole("button", { name: "Delete all counts" }).click();
    await expect(page.getByText("Nothing is counted yet.")).toBeVisible();
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(snippets.getByRole("row", { name: /^Regards/ })).toBeVisible();
    await page.getByText("7 days").click();
    await press(page, "Tab");
    await expect(page.locator(".savings-days tbody tr")).toHaveCount(7);
  } finally {
    await server.end();
  }
});

test("a drill asks, shows what is not known, and remembers", async ({ page }) => {
  const server = await OwnServer.start();
  try {
    await server.addLibrary("Berth desk", [
      { name: "Regards", text: "Kind regards", triggers: [{ kind: "abbreviation", text: ";kr", timing: "at-once" }] },
      { name: "Quay", text: "Quay 3", triggers: [{ kind: "abbreviation", text: ";q", timing: "at-once" }] },
    ]);
    await page.goto(`${server.url}/drill`);
    await expect(page.getByText("2 abbreviations are due.")).toBeVisible();
    await expect(page.getByRole("button", { name: "Begin" })).toBeFocused();
    await press(page, "Enter");
    const field = page.getByLabel(/What do you type for it/);
    await expect(field).toBeFocused();
    // They come in the order of their abbreviations, none of them used yet.
    await expect(page.locator(".drill-name")).toHaveText("Regards");
    await expect(async () => {
      await field.fill("");
      await page.keyboard.type(";q");
      await expect(page.getByRole("status")).toContainText("That sets “Quay” off.", { timeout: 500 });
    }).toPass();
    await page.keyboard.type(";kr");
    await expect(page.locator(".drill-name")).toHaveText("Quay");
    await press(page, "Escape");
    await expect(page.getByRole("status")).toContainText(";q");
    await page.keyboard.type(";q");
    // It comes once more at the end.
    await expect(page.getByRole("status")).not.toContainText(";q");
    await page.keyboard.type(";q");
    await expect(page.getByText("Done: 2 known, 1 to learn.")).toBeVisible();
    await page.reload();
    await expect(page.getByRole("row", { name: /2 1$/ })).toBeVisible();
  } finally {
    await server.end();
  }
});

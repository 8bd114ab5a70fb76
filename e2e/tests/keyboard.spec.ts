import { expect, test } from "./program";

test("the settings say how the keyboard link stands, and what to do", async ({ page }) => {
  await page.goto("/settings");
  const section = page.getByRole("region", { name: "Keyboard" });
  await expect(section.getByRole("status")).toHaveText("Not linked.");
  await section.getByRole("button", { name: "Check the link" }).click();
  await expect(section.getByRole("list", { name: "What the check found" })).toContainText(
    "The keyboard link is switched off. Switch it on, then check again.",
  );
  await expect(section).toContainText("Applications show here once you have typed in them");
});

test("a setting of the keyboard is kept", async ({ page }) => {
  await page.goto("/settings");
  const tray = page.getByRole("checkbox", { name: "Show Dash Sprout in the desktop’s tray" });
  await expect(tray).toBeVisible();
  const before = await tray.isChecked();
  // The box shows what is kept, so it changes once the program has answered.
  await tray.click();
  await expect(tray).toBeChecked({ checked: !before });
  await page.reload();
  await expect(tray).toBeChecked({ checked: !before });
  await tray.click();
  await expect
    .poll(
      async () =>
        ((await (await page.request.get("/api/keyboard")).json()) as { settings: { tray: boolean } }).settings.tray,
    )
    .toBe(before);
});

test("the companion page is empty until the link shows something", async ({ page }) => {
  await page.goto("/companion");
  await expect(page.getByRole("main")).toBeEmpty();
  await expect(page.getByRole("navigation")).toHaveCount(0);
});

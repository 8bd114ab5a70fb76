import type { Page } from "@playwright/test";
import { openDesk } from "./app";
import { expect, test } from "./program";

const letter = (page: Page) => page.getByRole("textbox", { name: "Letter" });
const editor = (page: Page) => page.getByRole("textbox", { name: "What goes in" });

async function newSnippet(page: Page, name: string, abbreviation: string): Promise<void> {
  await page.goto("/libraries");
  await page.locator(".table-body [role=row]").first().focus();
  await page.keyboard.press("n");
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByLabel("Typed letters").fill(abbreviation);
  await expect(page.getByRole("status").first()).toHaveText("Saved");
}

test("a fill slip is filled from the keyboard, amounts recalculate, and the text goes in formatted", async ({
  page,
}) => {
  await openDesk(page);
  await page.keyboard.type("Hello ;bcf");
  const slip = page.getByRole("dialog");
  await expect(slip.getByLabel(/Skipper/)).toBeFocused();
  await page.keyboard.type("Marram\n");
  await expect(slip.getByLabel(/Vessel/)).toBeFocused();
  await page.keyboard.type("Sea Thrift\n3\n");
  await expect(slip.getByRole("region", { name: "Preview" })).toContainText("the fee is 68.40 €");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Space");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(slip).toHaveCount(0);
  await expect(letter(page)).toContainText("Hello Dear Marram,");
  await expect(letter(page).locator("strong")).toHaveText("68.40 €");
  await expect(letter(page)).not.toContainText("insurance");
  await page.keyboard.type("X");
  await expect(letter(page)).toContainText("GullhavenX");
});

test("an empty number is said beside its field and the put-in key waits; Escape leaves what was typed", async ({
  page,
}) => {
  await openDesk(page);
  await page.keyboard.type("x ;bcf");
  const slip = page.getByRole("dialog");
  await slip.getByLabel(/Nights/).fill("");
  await slip.getByLabel(/Skipper/).fill("Marram");
  await page.keyboard.press("Control+Enter");
  await expect(slip.getByText("Nights is needed.")).toBeVisible();
  await expect(slip.getByText("Vessel is needed.")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(slip).toHaveCount(0);
  await expect(letter(page)).toHaveText("x ;bcf");
  await expect(letter(page)).toBeFocused();
  await page.keyboard.type(" y");
  await expect(letter(page)).toHaveText("x ;bcf y");
});

test("the caret, a table, a list and key presses arrive where the body says", async ({ page }) => {
  await openDesk(page);
  const log = page.getByRole("textbox", { name: "Log" });
  await log.click();
  await page.keyboard.type(";omid");
  await expect(log).toHaveValue("**mid**");
  await page.keyboard.press("End");
  await page.keyboard.type("\n\n;t3x");
  await expect(log).toHaveValue("**mid**\n\n| Berth | Vessel | Until |\n| --- | --- | --- |\n| x |  |  |");
  await page.getByLabel("harbour$").click();
  await page.keyboard.type("gcm fixed");
  await expect(page.getByLabel("harbour$")).toHaveValue('git commit -m "fixed"');
  await letter(page).click();
  await page.keyboard.type(";t3north");
  await expect(letter(page).locator("td").first()).toHaveText("north");
  await page.getByLabel("To", { exact: true }).fill("");
  await page.getByLabel("To", { exact: true }).click();
  await page.keyboard.type(";pp");
  await expect(page.getByLabel("To", { exact: true })).toHaveValue("Harbour Office Gullhaven");
  await expect(page.getByLabel("Subject")).toHaveValue("Quay 3, Gullhaven");
});

test("formatting and live parts are written in the editor and go in", async ({ page }) => {
  await newSnippet(page, "Tide note", "tdn");
  await page.getByText("Formatted, with live parts").click();
  await editor(page).click();
  await page.keyboard.press("Control+b");
  await page.keyboard.type("Tide");
  await page.keyboard.press("Control+b");
  await page.keyboard.type(" on ");
  await page.keyboard.press("Alt+i");
  await page.keyboard.type("date or");
  await page.keyboard.press("Enter");
  const chip = editor(page).locator(".chip");
  await expect(chip).toHaveText(new RegExp(String(new Date().getFullYear())));
  await chip.click();
  await page.getByLabel("Pattern").fill("'day' d");
  await page.getByLabel("Pattern").press("Tab");
  await page.getByRole("spinbutton", { name: "Move by: how many" }).fill("1");
  await expect(chip).toHaveText(/^day \d+$/);
  const day = await chip.textContent();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("status").first()).toHaveText("Saved");
  await expect(page.getByRole("region", { name: "Markdown" })).toContainText(`**Tide** on ${day}`);

  await openDesk(page);
  await page.keyboard.type("tdn ");
  await expect(letter(page)).toHaveText(`Tide on ${day} `);
  await expect(letter(page).locator("strong")).toHaveText("Tide");
});

test("the source shows what is wrong and where, and what is dropped", async ({ page }) => {
  await newSnippet(page, "Source note", "srn");
  await page.getByText("Source", { exact: true }).click();
  const source = page.getByLabel("What goes in, as source");
  await source.fill('<p>Fee: <output data-formula="nights *"></output></p>');
  await expect(page.getByRole("alert").first()).toContainText("Line 1, column 9: The formula is wrong at position 9");
  await page.getByRole("button", { name: "Go there" }).click();
  expect(
    await source.evaluate((area: HTMLTextAreaElement) => area.value.slice(area.selectionStart, area.selectionEnd)),
  ).toBe('<output data-formula="nights *">');
  await source.fill('<p>Fee: <output data-formula="nights * 2"></output></p>');
  await expect(page.getByRole("alert").first()).toContainText("uses “nights”, which is no field");
  await source.fill(
    '<p onclick="x()">Fee: <input name="nights" type="number" value="3"> × 2 = <output data-formula="nights * 2"></output></p>',
  );
  await expect(page.getByText("onclick on <p> was dropped")).toBeVisible();
  await expect(page.getByRole("status").first()).toHaveText("Saved");
  await expect(page.getByRole("region", { name: "Plain" })).toContainText("Fee: 3 × 2 = 6");
});

test("a picture is dropped into a body and shows on the desk", async ({ page }) => {
  await newSnippet(page, "Map note", "mpn");
  await page.getByText("Formatted, with live parts").click();
  await page.getByLabel("Picture file").setInputFiles("../src/DashSprout.Server/Demo/fairway.png");
  await expect(editor(page).locator("img[alt=fairway]")).toHaveAttribute("src", /^\/api\/media\//);
  await expect(page.getByRole("status").first()).toHaveText("Saved");
  await openDesk(page);
  await page.keyboard.type("mpn ");
  await expect
    .poll(() =>
      letter(page)
        .locator("img[alt=fairway]")
        .evaluate((image: HTMLImageElement) => image.naturalWidth),
    )
    .toBe(220);
});

import type { Page } from "@playwright/test";
import { openDesk } from "./app";
import { expect, test } from "./program";

const letter = (page: Page) => page.getByRole("textbox", { name: "Letter" });

test("text goes in where one types, and the caret stands behind it", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("Hello ;bc teh brk, ");
  await expect(letter(page)).toHaveText(
    "Hello Your berth is confirmed. Please call the harbour office on channel 12 when you pass the breakwater. the breakwater, ",
  );
  await page.keyboard.type("X");
  await expect(letter(page)).toHaveText(/breakwater, X$/);
});

test("lines become paragraphs in a rich field, and Enter as a closing key comes behind them", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("kr\nEnd");
  await expect(letter(page).locator("p")).toHaveText(["Kind regards", "Harbour Office Gullhaven", "End"]);
});

test("fast typing loses nothing and keeps the order", async ({ page }) => {
  await openDesk(page);
  const log = page.getByRole("textbox", { name: "Log" });
  await log.click();
  const typed =
    "Rounds: ntr Then the quay; mrd and brk and gh, teh tide; recieve adn sby. vsp! cof? wich is all 1234567890 ".padEnd(
      200,
      "xyz ",
    );
  await page.keyboard.type(typed, { delay: 0 });
  const wanted = typed
    .replace("ntr ", "Rounds made, nothing to report. ")
    .replace("mrd ", "Moored, lines checked, shore power connected. ")
    .replace("brk ", "breakwater ")
    .replace("gh,", "Gullhaven,")
    .replace("teh ", "the ")
    .replace("recieve ", "receive ")
    .replace("adn ", "and ")
    .replace("sby.", "All vessels, all vessels, this is Gullhaven Harbour. Stand by on channel 12..")
    .replace("vsp!", "Visibility below one sea mile, fog signal sounded.!")
    .replace("cof?", "Cast off, berth left clean.?")
    .replace("wich ", "which ");
  expect(typed.length).toBe(200);
  await expect(log).toHaveValue(wanted);
});

test("Enter runs a command only after its abbreviation went off", async ({ page }) => {
  await openDesk(page);
  await page.getByLabel("harbour$").click();
  await page.keyboard.type("bft\n");
  await expect(page.getByRole("log")).toContainText("harbour$ berths --free --date today");
  await expect(page.getByRole("log")).toContainText("berth 7");
  await expect(page.getByLabel("harbour$")).toHaveValue("");
});

test("scopes keep a console abbreviation out of the post, and the trace says so", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("tdt ");
  await expect(letter(page)).toHaveText(/^tdt\s$/);
  await expect(page.getByLabel("Keys, latest first")).toContainText("tdt stays quiet: not in this application");
});

test("a giving-way abbreviation goes off after a pause", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("br");
  await expect(letter(page)).toHaveText("berth");
});

test("taking back restores what was typed, and a hotkey puts in at the caret", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("mrd ");
  await expect(letter(page)).toHaveText(/Moored/);
  await page.keyboard.press("Control+Alt+z");
  await expect(letter(page)).toHaveText(/^mrd\s$/);
  await page.keyboard.press("Control+Alt+b");
  await expect(letter(page)).toHaveText(/^mrd Your berth is confirmed/);
});

test("a resting engine leaves everything as typed", async ({ page }) => {
  await openDesk(page);
  await page.getByRole("switch", { name: /listening|resting/ }).click();
  await expect(page.getByRole("switch", { name: /resting/ })).not.toBeChecked();
  await letter(page).click();
  await page.keyboard.type(";bc ");
  await expect(letter(page)).toHaveText(/^;bc\s$/);
  await page.getByRole("switch", { name: /listening|resting/ }).click();
  await expect(page.getByRole("switch", { name: "listening" })).toBeChecked();
});

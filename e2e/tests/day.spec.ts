import type { Page } from "@playwright/test";
import { openDesk, typeWithTabs } from "./app";
import { expect, test } from "./program";

const letter = (page: Page) => page.getByRole("textbox", { name: "Letter" });
const clipboard = (page: Page) => page.getByRole("list", { name: "Clipboard, latest first" });

test("a morning's work in one run", async ({ page }) => {
  await openDesk(page);

  // The morning's tabs open; nothing is put in and the abbreviation is gone.
  await page.keyboard.type(";tabs");
  const tabs = page.getByRole("region", { name: "Web tabs" });
  await expect(tabs.getByRole("listitem")).toHaveCount(3);
  await expect(tabs.getByRole("listitem").last()).toContainText("tides.example.org");
  await expect(letter(page)).toHaveText("");
  await page.keyboard.press("Alt+7");
  await page.keyboard.press("Alt+0");
  await expect(tabs).toHaveCount(0);

  // A confirmation with its slip.
  await letter(page).click();
  await page.keyboard.type(";bcf");
  const slip = page.getByRole("dialog", { name: "Berth confirmation" });
  await expect(slip.locator("[data-answer]").first()).toBeFocused();
  await page.keyboard.type("Lyra Fenn\nDunlin\n3");
  await page.keyboard.press("Control+Enter");
  await expect(letter(page)).toContainText("Dear Lyra Fenn");
  await expect(letter(page)).toBeFocused();

  // The log, in Markdown, with its preview.
  await page.keyboard.press("Alt+2");
  const log = page.getByRole("textbox", { name: "Log" });
  await expect(log).toBeFocused();
  await page.keyboard.type("**Berth 7** given away, mrd ");
  await expect(log).toHaveValue("**Berth 7** given away, Moored, lines checked, shore power connected. ");
  await page.getByRole("button", { name: "preview", exact: true }).click();
  await expect(page.getByRole("region", { name: "Preview" }).locator("strong")).toHaveText("Berth 7");

  // The radio: several lines arrive as one message.
  await page.keyboard.press("Alt+3");
  await expect(page.getByRole("textbox", { name: "Message" })).toBeFocused();
  await page.keyboard.type("kr ");
  await expect(page.getByRole("textbox", { name: "Message" })).toHaveValue("Kind regards\nHarbour Office Gullhaven ");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("list", { name: "Messages" }).getByRole("listitem").nth(1)).toHaveText(
    "Office Kind regards\nHarbour Office Gullhaven ",
  );
  await expect(page.getByRole("textbox", { name: "Message" })).toHaveValue("");

  // The fee sheet: Enter goes down, Tab to the right, lines stay in the cell.
  await page.keyboard.press("Alt+4");
  await expect(page.getByRole("textbox", { name: "Vessel 1" })).toBeFocused();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("textbox", { name: "Vessel 3" })).toBeFocused();
  await typeWithTabs(page, "Dunlin\t10\t2\t2.40\tkr ");
  await expect(page.getByRole("textbox", { name: "Note 3" })).toHaveValue("Kind regards\nHarbour Office Gullhaven ");
  await expect(page.getByLabel("Fee 3")).toHaveText("48.00");

  // The portal's four fields in one go, and the pass-phrase that cannot be pasted.
  await page.keyboard.press("Alt+6");
  const portal = page.getByRole("region", { name: "Permit portal" });
  await expect(portal.getByLabel("Name")).toBeFocused();
  await page.keyboard.type(";pp");
  await expect(portal.getByLabel("Phone")).toHaveValue("555-0142");
  await expect(portal.getByLabel("Name")).toHaveValue("Harbour Office Gullhaven");
  await expect(portal.getByLabel("Address")).toHaveValue("Quay 3, Gullhaven");
  await expect(portal.getByLabel("E-mail")).toHaveValue("office@gullhaven.example");

  await page.keyboard.press("Alt+2");
  await log.fill("  heron at dawn  ");
  await log.selectText();
  await page.keyboard.press("Control+c");
  await expect(clipboard(page).getByRole("button", { pressed: true })).toContainText("heron at dawn");
  await portal.getByLabel("Pass-phrase").click();
  await page.keyboard.press("Control+v");
  await expect(page.getByText("This field refuses pasting.")).toBeVisible();
  await expect(portal.getByLabel("Pass-phrase")).toHaveValue("");
  await page.keyboard.type(";v");
  await expect(portal.getByLabel("Pass-phrase")).toHaveValue("heron at dawn");
  await portal.getByRole("button", { name: "Ask for a permit" }).click();
  await expect(portal.getByRole("status")).toHaveText("A permit for Harbour Office Gullhaven was asked for.");
  // What was typed in the pass-phrase, and what it set off, shows nowhere.
  await expect(page.getByRole("list", { name: "Keys, latest first" })).not.toContainText(";v");

  // A console command, run by its closing key.
  await page.keyboard.press("Alt+5");
  await page.keyboard.type("tide\n");
  await expect(page.getByRole("log")).toContainText("High water 07:12");
});

test("a text goes through the clipboard and what was on it comes back", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("keep me");
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Control+c");
  await expect(clipboard(page).getByRole("button", { pressed: true })).toContainText("keep me");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.type(" kr ");
  await expect(letter(page).locator("p")).toHaveText(["keep me Kind regards", "Harbour Office Gullhaven "]);
  await expect(clipboard(page).getByRole("button", { pressed: true })).toContainText("keep me");
  await expect(clipboard(page)).toContainText("Kind regards");
  await page.keyboard.type(";cbb");
  await expect(letter(page).locator("strong")).toHaveText("keep me");
  // An earlier entry becomes the clipboard again and is what Ctrl+V pastes.
  await clipboard(page).getByRole("button").filter({ hasText: "Kind regards" }).click();
  const log = page.getByRole("textbox", { name: "Log" });
  await log.click();
  await page.keyboard.press("Control+v");
  await expect(log).toHaveValue("Kind regards\nHarbour Office Gullhaven ");
});

test("a selection is wrapped as each field writes it", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("tide");
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Control+Alt+Shift+B");
  await expect(letter(page).locator("strong")).toHaveText("tide");
  const log = page.getByRole("textbox", { name: "Log" });
  await log.fill("high water");
  await log.selectText();
  await page.keyboard.press("Control+Alt+Shift+B");
  await expect(log).toHaveValue("**high water**");
  const message = page.getByRole("textbox", { name: "Message" });
  await message.fill("red");
  await message.selectText();
  await page.keyboard.press("Control+Alt+Shift+H");
  await expect(message).toHaveValue('<span style="color: teal">red</span>');
});

test("the finder puts in where the caret was, asks its slip, and copies", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await openDesk(page);
  await page.keyboard.type("Dear all, ");
  await page.keyboard.press("Control+Alt+Space");
  const finder = page.getByRole("combobox", { name: "Find a snippet" });
  await expect(finder).toBeFocused();
  await page.keyboard.type("regard");
  await expect(page.getByRole("option", { selected: true })).toContainText("Kind regards");
  await page.keyboard.press("Enter");
  await expect(letter(page).locator("p")).toHaveText(["Dear all, Kind regards", "Harbour Office Gullhaven"]);
  await expect(letter(page)).toBeFocused();

  await page.keyboard.press("Control+Alt+Space");
  await page.keyboard.type("berth confirmation");
  await expect(page.getByRole("option", { selected: true })).toContainText("Berth confirmation");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog", { name: "Berth confirmation" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(letter(page)).toBeFocused();

  // By words of the content, with a slip of the finger.
  await page.keyboard.press("Control+Alt+Space");
  await page.keyboard.type("shore powr connected");
  await expect(page.getByRole("option").first()).toContainText("Moored");
  await page.keyboard.press("Control+Enter");
  await expect(page.getByText("“Moored” is on the clipboard.")).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(
    "Moored, lines checked, shore power connected.",
  );
});

test("Enter in the finder belongs to what was typed before it, however late that is found", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("Dear all, ");
  let find = () => {};
  const mayFind = new Promise<void>((resolve) => (find = resolve));
  await page.route("**/api/finder?query=r*", async (route) => {
    await mayFind;
    await route.fallback();
  });
  await page.keyboard.press("Control+Alt+Space");
  await expect(page.getByRole("option").first()).toBeVisible();
  await page.keyboard.type("regard");
  await page.keyboard.press("Enter");
  await page.keyboard.type("s");
  find();
  await expect(letter(page).locator("p")).toHaveText(["Dear all, Kind regards", "Harbour Office Gullhaven"]);
});

test("gather: from a phrase to a snippet that works", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("The pilot boards at the outer buoy.");
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Control+Alt+n");
  const dialog = page.getByRole("dialog", { name: "New snippet" });
  await expect(dialog.getByLabel("What goes in")).toHaveValue("The pilot boards at the outer buoy.");
  await expect(dialog.getByLabel("Name")).toHaveValue("The pilot boards at the");
  await expect(dialog.getByLabel("Abbreviation")).toBeFocused();
  await expect(dialog.getByLabel("Abbreviation")).not.toHaveValue("");
  await expect(dialog).toContainText("quiet");
  await page.keyboard.type("tpb");
  await page.keyboard.press("Enter");
  await expect(dialog).toHaveCount(0);
  await expect(letter(page)).toBeFocused();
  await page.keyboard.press("End");
  await page.keyboard.type(" tpb ");
  await expect(letter(page)).toHaveText(/buoy\. The pilot boards at the outer buoy\.\s$/);
});

test("recorded keys do the same when they are played back", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.press("Alt+6");
  await page.getByRole("button", { name: "Record keys" }).click();
  const portal = page.getByRole("region", { name: "Permit portal" });
  await portal.getByLabel("Name").click();
  await typeWithTabs(page, "Lyra Fenn\tQuay 9");
  await portal.getByLabel("Pass-phrase").click();
  await page.keyboard.type("never kept");
  const log = page.getByRole("textbox", { name: "Log" });
  await log.click();
  await page.keyboard.type("mrd \nasked");
  await expect(log).toHaveValue("Moored, lines checked, shore power connected. \nasked");
  await page.getByRole("button", { name: "Stop recording" }).click();
  const dialog = page.getByRole("dialog", { name: "New snippet" });
  await expect(dialog.getByLabel("Abbreviation")).toBeFocused();
  await page.keyboard.type(";zrk");
  await page.keyboard.press("Enter");
  await expect(dialog).toHaveCount(0);

  await portal.getByLabel("Name").fill("");
  await portal.getByLabel("Address").fill("");
  await portal.getByLabel("Pass-phrase").fill("");
  await log.fill("");
  await page.getByRole("button", { name: "Close Permit portal" }).click();
  await letter(page).click();
  await page.keyboard.type(";zrk ");
  await expect(log).toHaveValue("Moored, lines checked, shore power connected. \nasked ");
  await expect(portal.getByLabel("Name")).toHaveValue("Lyra Fenn");
  await expect(portal.getByLabel("Address")).toHaveValue("Quay 9");
  await expect(portal.getByLabel("Pass-phrase")).toHaveValue("");
});

test("windows are arranged from the keyboard and are still so after a reload", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("half a letter");
  await page.keyboard.press("Alt+8");
  await expect(page.getByRole("region", { name: "Files" })).toBeVisible();
  await page.keyboard.press("Alt+5");
  await expect(page.getByLabel("harbour$")).toBeFocused();
  await page.keyboard.press("Alt+Shift+ArrowLeft");
  await expect(page.locator(".tiles > .window").nth(2)).toHaveAttribute("aria-label", "Console");
  await page.keyboard.press("Alt+9");
  await expect(letter(page)).toBeHidden();
  await page.keyboard.press("Alt+9");
  await page.reload();
  await expect(letter(page)).toHaveText("half a letter");
  await expect(page.locator(".tiles > .window").nth(2)).toHaveAttribute("aria-label", "Console");
  await expect(page.getByRole("region", { name: "Files" })).toBeVisible();
});

test("the engine rests by chord, for a time, and in one application", async ({ page }) => {
  await openDesk(page);
  await page.getByRole("button", { name: "Rest for a time or in an application" }).click();
  await expect(page.getByText("Rest in Post")).toBeVisible();
  await page.keyboard.press("Escape");
  await letter(page).click();
  await page.keyboard.press("Control+Alt+r");
  await expect(page.getByRole("switch", { name: "resting" })).toBeVisible();
  await page.keyboard.type("mrd ");
  await expect(letter(page)).toHaveText(/^mrd\s$/);
  await page.keyboard.press("Control+Alt+r");
  await expect(page.getByRole("switch", { name: "listening" })).toBeVisible();

  await page.getByRole("button", { name: "Rest for a time or in an application" }).click();
  await page.getByText("Rest for 15 minutes").click();
  await expect(page.getByRole("switch", { name: /resting until \d\d:\d\d/ })).toBeVisible();
  await page.getByRole("switch", { name: /resting/ }).click();

  await letter(page).click();
  await page.getByRole("button", { name: "Rest for a time or in an application" }).click();
  await page.getByText("Rest in Post").click();
  await expect(page.getByText("not in Post")).toBeVisible();
  await letter(page).click();
  await page.keyboard.type("brk ");
  await expect(letter(page)).toHaveText(/mrd brk\s$/);
  const log = page.getByRole("textbox", { name: "Log" });
  await log.click();
  await page.keyboard.type("mrd ");
  await expect(log).toHaveValue(/^Moored/);
  await page.getByRole("button", { name: "Rest for a time or in an application" }).click();
  await page.getByText("Listen in Post again").click();
  await expect(page.getByText("not in Post")).toHaveCount(0);
});

test("a snippet from a file shows what it opens before the first time", async ({ page }) => {
  const library = {
    name: "From a file",
    snippets: [
      {
        name: "Pilot office",
        body: '<p><a data-open href="https://pilots.example.org/"></a></p>',
        triggers: [{ kind: "abbreviation", text: ";pil", timing: "at-once" }],
      },
    ],
  };
  const file = { format: "dash-sprout-library", version: 1, libraries: [library] };
  expect((await page.request.post("/api/library-file?replace=true", { data: file })).ok()).toBe(true);
  await openDesk(page);
  await page.keyboard.type(";pil");
  const dialog = page.getByRole("dialog", { name: "Open this?" });
  await expect(dialog).toContainText("https://pilots.example.org/");
  await dialog.getByRole("button", { name: "Leave it" }).click();
  await expect(letter(page)).toHaveText(";pil");
  await expect(letter(page)).toBeFocused();
  await page.keyboard.type(" ;pil");
  await dialog.getByRole("button", { name: "Open", exact: true }).click();
  await expect(page.getByRole("region", { name: "Web tabs" })).toContainText("pilots.example.org");
  await expect(letter(page)).toHaveText(/^;pil\s$/);
  await page.keyboard.type(";pil");
  await expect(page.getByRole("region", { name: "Web tabs" }).getByRole("listitem")).toHaveCount(2);
});

test("typing goes on during a slow firing, and a hotkey waits for an open slip", async ({ page }) => {
  const snippets = [
    {
      name: "Slow",
      body: '<p>one<slot name="wait" data-for="PT0.4S"></slot>two</p>',
      triggers: [{ kind: "abbreviation", text: ";slow", timing: "at-once" }],
    },
  ];
  const file = { format: "dash-sprout-library", version: 1, libraries: [{ name: "Slow ones", snippets }] };
  expect((await page.request.post("/api/library-file?replace=true", { data: file })).ok()).toBe(true);
  await openDesk(page);
  await page.keyboard.type(";slow and on brk ");
  await expect(letter(page)).toHaveText(/^onetwo and on breakwater\s$/);

  await page.keyboard.type(";bcf");
  const slip = page.getByRole("dialog", { name: "Berth confirmation" });
  await expect(slip.locator("[data-answer]").first()).toBeFocused();
  await page.keyboard.press("Control+Alt+b");
  await page.keyboard.press("Escape");
  await expect(slip).toHaveCount(0);
  await expect(letter(page)).toHaveText(/breakwater ;bcf$/);

  // Leaving in the middle: the rest goes where it was meant to, and the other field stays as it is.
  await page.keyboard.type(" ;slow");
  await page.getByRole("textbox", { name: "Log" }).click();
  await expect(letter(page)).toHaveText(/;bcf onetwo$/);
  await expect(page.getByRole("textbox", { name: "Log" })).toHaveValue("");
});

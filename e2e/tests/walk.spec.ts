import type { Page } from "@playwright/test";
import { answered, openDesk, openSnippet } from "./app";
import { openAndLeave, press, tabTo } from "./focus";
import { expect, test } from "./program";

/** Every view by keyboard alone: after each key something has the focus, and it is where one expects it. */

/** The row of a library, folder or snippet, by its name. */
const rowOf = (page: Page, name: string) =>
  page
    .locator(".table-body [role=row]")
    .filter({ has: page.locator(".c-name").getByText(name, { exact: true }) })
    .first();

test("the frame: Tab goes through everything and round again", async ({ page }) => {
  await page.goto("/settings");
  await expect(page.getByRole("heading", { name: "Settings" })).toBeVisible();
  // Behind the last control a browser goes to controls of its own, which this one has not: to the first one goes back.
  await tabTo(page, page.getByRole("link", { name: "Libraries" }), "Shift+Tab");
  await press(page, "Enter");
  await expect(page.getByRole("heading", { name: "Libraries" })).toBeVisible();
  await tabTo(page, page.getByRole("link", { name: "Settings" }), "Shift+Tab");
  await tabTo(page, page.getByRole("button", { name: /^Find/ }));
  await openAndLeave(page, "Enter", page.getByRole("dialog"));
  await tabTo(page, page.getByRole("button", { name: "Why did nothing happen?" }));
  await openAndLeave(page, "Enter", page.getByRole("dialog"));
  await tabTo(page, page.getByRole("button", { name: /^Keys/ }));
  await openAndLeave(page, "Enter", page.getByRole("dialog", { name: "Keys" }));
  await tabTo(page, page.locator("#proof-line"));
});

test("the chords, from a field: each takes the focus and gives it back", async ({ page }) => {
  await openDesk(page);
  for (const chord of ["Control+Alt+Space", "Control+Alt+n", "Control+Alt+w", "F1"])
    await openAndLeave(page, chord, page.getByRole("dialog"));
  await press(page, "Control+Alt+p");
  await expect(page.locator("#proof-line")).toBeFocused();
});

test("a chord that is pressed before the page knows its chords is not lost", async ({ page }) => {
  let answer = () => Promise.resolve();
  await page.route("**/api/engine", (route) => {
    answer = () => route.continue();
  });
  const asked = page.waitForRequest("**/api/engine");
  await page.goto("/packs");
  await asked;
  await page.keyboard.press("F1");
  await answer();
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
});

test("libraries: rows, their menu, renaming, typing, dialogs, and coming back", async ({ page }) => {
  await page.goto("/libraries");
  const rows = page.locator(".table-body [role=row]");
  const row = (name: string) => rowOf(page, name);
  await tabTo(page, rows.first());
  await press(page, "ArrowDown", "ArrowDown", "ArrowUp", "End", "Home", "PageDown", "Home");
  await expect(row("Berth desk")).toBeFocused();
  await press(page, "ArrowLeft");
  await expect(row("Berth desk")).toHaveAttribute("aria-expanded", "false");
  await press(page, "ArrowRight", "ArrowRight", "ArrowRight");

  const snippet = row("Kind regards");
  await snippet.focus();
  await press(page, "F2");
  await expect(page.getByLabel("Name", { exact: true })).toBeFocused();
  await press(page, "Escape");
  await expect(snippet).toBeFocused();
  await openAndLeave(page, "Shift+F10", page.getByRole("menu"));
  await press(page, "Shift+F10", "ArrowDown", "ArrowDown", "Enter");
  await expect(snippet.getByRole("switch")).toHaveAttribute("aria-checked", "false");
  await expect(snippet).toBeFocused();
  await press(page, " ");
  await expect(snippet.getByRole("switch")).toHaveAttribute("aria-checked", "true");

  await press(page, "a");
  await expect(page.getByRole("textbox", { name: "Abbreviation" })).toBeFocused();
  await press(page, "Escape");
  await expect(snippet).toBeFocused();

  // The page of a snippet, and back to the row one came from.
  await press(page, "Enter");
  await expect(page.getByRole("heading", { name: "What goes in" })).toBeVisible();
  await expect(page.getByRole("textbox", { name: "What goes in" })).toBeFocused();
  await page.goBack();
  await expect(snippet).toBeFocused();
  await press(page, "n");
  await expect(page.getByLabel("Typed letters")).toBeFocused();
  await page.goBack();
  await expect(snippet).toBeFocused();

  await tabTo(page, page.getByRole("button", { name: "More" }));
  await openAndLeave(page, "Enter", page.getByRole("menu"));
  const more = page.getByRole("button", { name: "More", exact: true });
  for (const [down, title] of [
    [0, "New folder"],
    [1, "New library"],
    [2, "Rules of Berth desk"],
    [3, "Add from a list to"],
  ] as const) {
    await press(page, "Enter", ...Array.from({ length: down }, () => "ArrowDown"), "Enter");
    const dialog = page.getByRole("dialog", { name: title });
    await expect(dialog).toBeVisible();
    await expect.poll(() => dialog.evaluate((area) => area.contains(document.activeElement))).toBe(true);
    await press(page, "Tab", "Shift+Tab", "Escape");
    await expect(dialog).toBeHidden();
    await expect(more).toBeFocused();
  }
});

test("what is deleted leaves the focus on the row that takes its place", async ({ page }) => {
  await page.goto("/libraries");
  await rowOf(page, "Address").focus();
  await press(page, "Delete");
  await expect(rowOf(page, "Sign-off")).toBeFocused();
  await press(page, "Control+z");
  await expect(rowOf(page, "Address")).toBeVisible();
});

test("the snippet page: segments, chips, menus, triggers that come and go", async ({ page }) => {
  await openSnippet(page, "Berth confirmation");
  await expect(page.getByRole("textbox", { name: "What goes in" })).toBeFocused();
  for (const segment of [/^Left edge/, /^Goes off/, /^Stays behind/, /^Works/]) {
    await page.getByRole("button", { name: segment }).first().focus();
    await openAndLeave(page, "Enter", page.locator(".ant-popover").getByRole("dialog"));
  }
  await page.getByRole("button", { name: "Suggest" }).first().focus();
  await openAndLeave(page, "Enter", page.locator(".ant-popover").getByRole("dialog"));
  await page.getByRole("button", { name: "Earlier versions" }).focus();
  await openAndLeave(page, "Enter", page.getByRole("dialog", { name: "Earlier versions" }));

  // Arrows go over chips, Enter opens one: its form is two keys away.
  const text = page.getByRole("textbox", { name: "What goes in" });
  await text.focus();
  await press(page, "Control+Home");
  await expect
    .poll(async () => {
      await press(page, "ArrowRight");
      return page.locator(".chip.selected").count();
    })
    .toBe(1);
  await openAndLeave(page, "Enter", page.locator(".part-form"));
  await openAndLeave(page, "Alt+i", page.getByRole("listbox", { name: "Live parts" }).locator(".."));

  const add = page.getByRole("button", { name: "Add an abbreviation" });
  await add.focus();
  await press(page, "Enter");
  await expect(page.getByLabel("Typed letters").last()).toBeFocused();
  await expect(page.getByRole("alert")).toHaveCount(0);
  await page.getByRole("button", { name: "Remove" }).last().focus();
  await press(page, "Enter");
  await expect(add).toBeFocused();
});

test("the desk: windows open, fill, move and close by keys, and one always has the focus", async ({ page }) => {
  await openDesk(page);
  await press(page, ...[1, 2, 3, 4, 5, 6, 7, 8].map((number) => `Alt+${number}`));
  await press(page, "Alt+1", "Alt+9", "Alt+9", "Alt+Shift+ArrowRight", "Alt+Shift+ArrowLeft", "Alt+0", "Alt+0");
});

test("a slip: the finder over it gives the focus back to it, and Escape leaves it", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type(";bcf");
  const slip = page.getByRole("dialog");
  await expect(slip.getByLabel("Skipper")).toBeFocused();
  await page.keyboard.press("Control+Alt+Space");
  await expect(page.getByRole("combobox", { name: "Find a snippet" })).toBeFocused();
  await press(page, "Escape");
  await expect(slip.getByLabel("Skipper")).toBeFocused();
  await press(page, "Escape");
  await expect(slip).toBeHidden();
  await expect(page.getByRole("textbox", { name: "Letter" })).toBeFocused();
  await expect(page.getByRole("textbox", { name: "Letter" })).toHaveText(";bcf");
});

test("packs, safety, history and settings by keyboard", async ({ page }) => {
  await page.goto("/packs");
  const look = page.getByRole("button", { name: "Look at it Small talk" });
  await tabTo(page, look);
  await openAndLeave(page, "Enter", page.getByRole("dialog", { name: "Add: Small talk" }));
  await page.goto("/safety");
  await tabTo(page, page.getByRole("tab", { name: /Overlaps/ }));
  await press(page, "ArrowRight", "Enter");
  await expect(page.getByRole("tab", { name: /Misfires/ })).toBeFocused();
  const safer = page.getByRole("button", { name: "Safer ones" }).first();
  await tabTo(page, safer);
  await openAndLeave(page, "Enter", page.locator(".ant-popover").getByRole("dialog"));
  await page.goto("/history");
  await tabTo(page, page.getByRole("tab", { name: "Last changes" }));
  await press(page, "ArrowRight", "Enter", "ArrowRight", "Enter", "Tab", "Shift+Tab");
  await page.goto("/settings");
  const chord = page.getByRole("button", { name: /^Find a snippet and put it in/ });
  await tabTo(page, chord);
  await press(page, "Enter");
  await expect(chord).toHaveText("Press the keys now …");
  // Chords of our own are heard like all others while one is recorded.
  await press(page, "Control+Alt+p");
  await expect(page.getByText("“Go to the proof line” has it")).toBeVisible();
  await expect(chord).toBeFocused();
  await press(page, "Enter", "Escape");
  await expect(chord).toBeFocused();
  await answeredNowhere(page);
});

/** Nothing of all that was typed into a field that was not meant. */
async function answeredNowhere(page: Parameters<typeof answered>[0]): Promise<void> {
  await expect(page.locator("#proof-line")).toHaveValue("");
}

test("undoing in the table leaves what was typed elsewhere", async ({ page }) => {
  await page.goto("/libraries");
  await page.locator("#proof-line").click();
  await page.keyboard.type("berth");
  await rowOf(page, "Phone").focus();
  await press(page, " ", "Control+z");
  await expect(page.getByText(/^Undone/)).toBeVisible();
  await expect(page.locator("#proof-line")).toHaveValue("berth");
  await expect(rowOf(page, "Phone").getByRole("switch")).toHaveAttribute("aria-checked", "true");
});

test("no view asks for the addresses that bodies name pictures by", async ({ page }) => {
  const asked: string[] = [];
  page.on("request", (request) => request.url().startsWith("media:") && asked.push(request.url()));
  page.on("console", (told) => told.text().includes("media:") && asked.push(told.text()));
  await openSnippet(page, "Notice to skippers");
  await expect(page.locator(".rehearses img").first()).toBeVisible();
  await page.getByRole("textbox", { name: "What goes in" }).press("End");
  await page.keyboard.type(" x");
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Backspace");
  await page.goto("/libraries");
  await page.getByRole("button", { name: /^Find/ }).click();
  await expect(page.getByRole("combobox", { name: "Find a snippet" })).toBeFocused();
  await page.keyboard.type("notice");
  await expect(page.getByRole("option").first()).toContainText("Notice");
  expect(asked).toEqual([]);
});

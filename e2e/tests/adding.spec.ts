import { openDesk, openProofLine, openSnippet, snippetId } from "./app";
import { expect, test } from "./program";
import { OwnServer } from "./server";

/** Making snippets, the first and the many. */

const row = (page: import("@playwright/test").Page, text: string) =>
  page.locator(".table-body [role=row]").filter({ hasText: text }).first();

test("an empty start: abbreviation, Tab, text, and it works", async ({ page }) => {
  const server = await OwnServer.start();
  try {
    await page.goto(server.url);
    await expect(page.getByLabel("Typed letters")).toBeFocused();
    await page.keyboard.type("omw");
    await page.keyboard.press("Tab");
    await expect(page.getByRole("textbox", { name: "What goes in" })).toBeFocused();
    await page.keyboard.type("on my way");
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    await expect(page).toHaveURL(/\/snippets\/\d+$/);
    // The page goes on as it is: nothing of what is typed on is lost.
    await page.keyboard.type(" now");
    await expect(page.getByRole("textbox", { name: "What goes in" })).toHaveValue("on my way now");
    await expect(page.getByRole("textbox", { name: "Name" })).toHaveValue("on my way now");
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    await openProofLine(page);
    await page.keyboard.type("omw ");
    await expect(page.locator("#proof-line")).toHaveValue("on my way now ");
    await page.reload();
    await expect(page.getByLabel("Typed letters")).toHaveValue("omw");

    // A page that was opened and left makes nothing.
    await page.getByRole("link", { name: "Libraries" }).first().click();
    await page.getByRole("button", { name: "New snippet" }).click();
    await expect(page.getByLabel("Typed letters")).toBeFocused();
    await page.goBack();
    await expect(row(page, "on my way now")).toBeVisible();
    await expect(page.locator(".table-body .snippet-row")).toHaveCount(1);
  } finally {
    await server.end();
  }
});

test("one after the other is typed into the table, as its folder wants them", async ({ page }) => {
  await page.goto("/libraries");
  await row(page, "Bookings").focus();
  await page.keyboard.press("Shift+F10");
  await page.getByRole("menuitem", { name: "What new snippets begin with" }).click();
  const dialog = page.getByRole("dialog", { name: "Folder Bookings" });
  await dialog.getByRole("combobox", { name: "Goes off" }).click();
  const choices = page.locator(".ant-select-dropdown");
  await choices.getByTitle("At once, on its last character").click();
  // Escape closes what lies on top: the list of choices must be gone first.
  await expect(choices).toBeHidden();
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
  await expect(row(page, "Bookings")).toBeFocused();

  await page.keyboard.press("a");
  for (const [code, text] of [
    ["zqa", "First of a row"],
    ["zqb", "Second of a row"],
  ] as const) {
    await page.keyboard.type(code);
    await page.keyboard.press("Tab");
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
    await expect(page.getByText(`${code} puts in “${text}” from now on.`)).toBeVisible();
    await expect(page.getByRole("textbox", { name: "Abbreviation" })).toBeFocused();
  }
  await openProofLine(page);
  await page.keyboard.type("zqa zqb");
  await expect(page.locator("#proof-line")).toHaveValue("First of a row Second of a row");

  // What cannot be saved stands there again, with the reason.
  const code = page.getByRole("textbox", { name: "Abbreviation" });
  await code.fill("z q");
  await page.getByRole("textbox", { name: "Text" }).fill("never");
  await page.keyboard.press("Enter");
  await expect(page.getByText("White space at place 2")).toBeVisible();
  await expect(code).toHaveValue("z q");
});

test("a pasted list shows what each line becomes, and is taken out again as a whole", async ({ page }) => {
  await page.goto("/libraries");
  await row(page, "Berth desk").focus();
  await page.keyboard.press("a");
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", "zla\tfirst line\nzlb\tsecond line\nno text here\nkr\tknown already");
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  const dialog = page.getByRole("dialog", { name: "Add from a list to Berth desk" });
  await expect(dialog.getByText("There is no tab, = or comma")).toBeVisible();
  await expect(dialog.getByText("“Kind regards” has this abbreviation already.")).toBeVisible();
  await dialog.getByRole("checkbox", { name: "Add line 4" }).uncheck();
  await dialog.getByRole("button", { name: "Add 2 snippets" }).click();
  await expect(page.getByText("2 snippets are in Berth desk.")).toBeVisible();
  await expect.poll(() => snippetId(page, "second line")).toBeGreaterThan(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Undone: Added 2 snippets")).toBeVisible();
});

test("a folder is switched off, and its snippets say so", async ({ page }) => {
  await page.goto("/libraries");
  const folder = row(page, "Greetings");
  await folder.focus();
  await page.keyboard.press(" ");
  await expect(folder.getByRole("switch")).toHaveAttribute("aria-checked", "false");
  await openSnippet(page, "Kind regards");
  await expect(page.getByText("The folder Greetings is off, so nothing here goes off.")).toBeVisible();
  await page.goto("/libraries");
  await row(page, "Greetings").focus();
  await page.keyboard.press(" ");
  await expect(row(page, "Greetings").getByRole("switch")).toHaveAttribute("aria-checked", "true");
});

test("a gathered correction follows capitals, and knows when it goes off", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("and");
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Control+Alt+n");
  const dialog = page.getByRole("dialog", { name: "New snippet" });
  await expect(dialog.getByText("Follow my capitals: Teh gives The, TEH gives THE")).toBeVisible();
  await page.keyboard.type("zadn");
  await page.keyboard.press("Enter");
  await expect(dialog).toBeHidden();
  const letter = page.getByRole("textbox", { name: "Letter" });
  await letter.press("End");
  await page.keyboard.type(" Zadn zadn ");
  await expect(letter).toHaveText(/and And and\s$/);
});

test("in a field without formatting the plain twin goes in", async ({ page }) => {
  await openSnippet(page, "Contact block");
  await page.getByLabel("Fields without formatting take a text of their own").check();
  await page.getByRole("textbox", { name: "What goes into fields without formatting" }).fill("The office, 555-0142");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await expect(page.getByRole("region", { name: "Plain" })).toContainText("The office, 555-0142");
  await openDesk(page);
  await page.keyboard.type(";cb");
  await expect(page.getByRole("textbox", { name: "Letter" })).toContainText("Harbour Office Gullhaven");
  const log = page.getByRole("textbox", { name: "harbour$" });
  await log.click();
  await page.keyboard.type(";cb");
  await expect(log).toHaveValue("The office, 555-0142");
});

test("what a pattern matched is offered for $1, and a pattern is tried by typing", async ({ page }) => {
  await page.goto("/snippets/new");
  await page.getByRole("button", { name: "Remove" }).click();
  await page.getByRole("button", { name: "Add a pattern" }).click();
  await page.keyboard.type("zb(\\d+");
  await expect(page.getByText("At its end: a group that was opened is not closed")).toBeVisible();
  await page.keyboard.type(")");
  await page.getByRole("textbox", { name: "What goes in" }).fill("Berth $1");
  await page.getByRole("button", { name: "Put in what the pattern’s group 1 matched" }).click();
  await expect(page.locator(".chip")).toHaveText("group 1");
  await page.getByLabel("Try it with").fill("zb12 ");
  await expect(page.locator(".try-line")).toContainText("Berth 12");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});

test("a date is moved by working days, with what it comes to beside it", async ({ page }) => {
  await openSnippet(page, "Answer by");
  await page.locator(".chip[data-part=date]").first().click();
  const form = page.locator(".part-form");
  await expect(form.getByText("Comes to")).toBeVisible();
  await form.getByRole("spinbutton", { name: "Move by: how many" }).fill("10");
  await form.getByRole("combobox", { name: "Move by: of what" }).click();
  await page.locator(".ant-select-dropdown").getByTitle("weeks", { exact: true }).click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  const id = await snippetId(page, "Answer by");
  const kept = (await (await page.request.get(`/api/snippets/${id}`)).json()) as { snippet: { body: string } };
  expect(kept.snippet.body).toContain('data-shift="P10W"');
  expect(kept.snippet.body).not.toContain("data-days");
});

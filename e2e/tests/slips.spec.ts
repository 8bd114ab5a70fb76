import type { Page } from "@playwright/test";
import { openDesk, openSnippet, snippetId } from "./app";
import { expect, test } from "./program";

const letter = (page: Page) => page.getByRole("textbox", { name: "Letter" });
const editor = (page: Page) => page.getByRole("textbox", { name: "What goes in" });

async function library(page: Page, name: string, snippets: object[]): Promise<void> {
  const data = { format: "dash-sprout-library", version: 1, libraries: [{ name, snippets }] };
  expect((await page.request.post("/api/library-file?replace=true", { data })).ok()).toBe(true);
}

const body = async (page: Page, id: number): Promise<string> =>
  ((await (await page.request.get(`/api/snippets/${id}`)).json()) as { snippet: { body: string } }).snippet.body;

test("rows are added by Enter, an empty one ends them, and they are added up", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type(";fsv");
  const slip = page.getByRole("dialog", { name: "Fees of several vessels" });
  await expect(slip.getByLabel(/Skipper/)).toBeFocused();
  await page.keyboard.type("Lyra Fenn\nSea Holly\n3\n12.5\n");
  await expect(slip.getByLabel("Vessel, row 2")).toBeFocused();
  const preview = slip.getByRole("region", { name: "Preview" });
  await expect(preview).toContainText("⟨Vessel⟩");
  await page.keyboard.type("Dunlin\n2\n9\n");
  await expect(slip.getByLabel("Vessel, row 3")).toBeFocused();
  // An empty row is none.
  await page.keyboard.press("Enter");
  await expect(slip.getByLabel("Rate")).toBeFocused();
  await expect(slip.getByLabel("Vessel, row 3")).toHaveCount(0);
  await expect(preview).toContainText("133.20 €");
  await page.keyboard.press("Enter");
  await expect(slip).toHaveCount(0);
  await expect(letter(page).locator("table tr")).toHaveCount(3);
  await expect(letter(page).locator("strong")).toHaveText(["133.20 €"]);

  // A row in the middle goes by its button; those below move up.
  await letter(page).press("Control+End");
  await page.keyboard.type(" ;fsv");
  await expect(slip.getByLabel(/Skipper/)).toBeFocused();
  await page.keyboard.press("F4");
  await expect(slip.getByLabel("Vessel, row 2")).toHaveValue("Dunlin");
  await slip.getByRole("button", { name: "Take row 1 out" }).click();
  await expect(slip.getByLabel("Vessel, row 1")).toHaveValue("Dunlin");
  await expect(preview).toContainText("43.20 €");
});

test("a default follows the other answers until it is typed, and an answer given before is offered", async ({
  page,
}) => {
  await library(page, "Slips", [
    {
      name: "Booking",
      body: '<p><input name="slipNights" title="Nights" type="number" value="2"> <input name="slipFee" title="Fee" type="number" data-default="slipNights * 2.5"> <input name="slipCode" title="Code" pattern="[A-Z]{2}\\d"></p>',
      triggers: [{ kind: "abbreviation", text: ";zbk", timing: "at-once" }],
    },
  ]);
  await openDesk(page);
  await page.keyboard.type(";zbk");
  const slip = page.getByRole("dialog", { name: "Booking" });
  await expect(slip.getByLabel("Nights")).toBeFocused();
  await expect(slip.getByLabel("Fee")).toHaveValue("5");
  await page.keyboard.type("4");
  await expect(slip.getByLabel("Fee")).toHaveValue("10");
  await slip.getByLabel("Fee").fill("9");
  await slip.getByLabel("Nights").fill("7");
  await expect(slip.getByLabel("Fee")).toHaveValue("9");
  await slip.getByLabel("Code").fill("gh1");
  await page.keyboard.press("Control+Enter");
  await expect(slip.getByText("does not fit")).toBeVisible();
  await expect(slip.getByLabel("Code")).toBeFocused();
  await slip.getByLabel("Code").fill("GH1");
  await page.keyboard.press("Control+Enter");
  await expect(slip).toHaveCount(0);
  await expect(letter(page)).toContainText("7 9 GH1");
  await letter(page).press("Control+End");
  await page.keyboard.type(" ;zbk");
  await expect(slip.locator("datalist#recent-slipCode option")).toHaveText(["GH1"]);
});

test("a slip hears its keys after a click beside its fields", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type("x ;bcf");
  const slip = page.getByRole("dialog", { name: "Berth confirmation" });
  await expect(slip.getByLabel(/Skipper/)).toBeFocused();
  await page.keyboard.type("Marram");
  await slip.getByRole("region", { name: "Preview" }).click();
  await page.keyboard.press("Enter");
  await expect(slip.getByLabel(/Vessel/)).toBeFocused();
  await slip.getByText("Berth confirmation").click();
  await page.keyboard.press("Escape");
  await expect(slip).toHaveCount(0);
  await expect(letter(page)).toHaveText("x ;bcf");
});

test("a live value is allowed once and goes in", async ({ page, baseURL }) => {
  await openDesk(page);
  await page.keyboard.type(";tw");
  await expect(letter(page)).toHaveText(/^High water \d\d:\d\d, \d\.\d m\. Wind [NESW]{1,2} \d+ kn, sea \w+\.$/);

  await library(page, "Slips", [
    {
      name: "Own value",
      body: `<p><slot name="live" data-url="${baseURL}/harbour/weather.json" data-path="/station"></slot></p>`,
      triggers: [{ kind: "abbreviation", text: ";zlv", timing: "at-once" }],
    },
  ]);
  await openSnippet(page, "Own value");
  await expect(editor(page).locator(".chip.wrong")).toBeVisible();
  await editor(page).locator(".chip").click();
  await page.getByRole("button", { name: "Allow reading from here" }).click();
  await expect(editor(page).locator(".chip")).toHaveText("Gullhaven");
  await expect(editor(page).locator(".chip.wrong")).toHaveCount(0);
});

test("one letter typed into a body changes one letter of it", async ({ page }) => {
  const written =
    '<p>  two  spaces <strong>bold<code>x</code></strong></p><ul><li><h2>Berth</h2><hr><p>a</p></li></ul><pre>\n  as\n   typed <input name="a"></pre>' +
    '<p><span style="color: #A02C1C">red</span> <span data-when="a = 1">opt</span></p><table><tr data-rows="1-3"><td><p>c</p></td></tr></table><hr>';
  await library(page, "Slips", [{ name: "To the letter", body: written, triggers: [] }]);
  const id = await snippetId(page, "To the letter");
  const before = await body(page, id);
  await openSnippet(page, "To the letter");
  await editor(page).locator("h2").click();
  await page.keyboard.press("End");
  await page.keyboard.type("Q");
  await expect(page.getByRole("status").first()).toHaveText("Saved");
  await expect.poll(() => body(page, id)).toBe(before.replace("Berth", "BerthQ"));
});

test("what a passage goes in for is chosen from the fields, or asked by a question of its own", async ({ page }) => {
  await library(page, "Slips", [
    {
      name: "Conditions",
      body: '<p><input name="nights" title="Nights" type="number"><span data-when="nights > 7">Bring the papers.</span></p>',
      triggers: [],
    },
  ]);
  const id = await snippetId(page, "Conditions");
  await openSnippet(page, "Conditions");
  await editor(page).locator("[data-when]").click();
  const condition = page.getByRole("combobox", { name: "This passage goes in if" });
  await expect(condition).toHaveValue("nights > 7");
  await condition.click();
  await page.getByText("Nights is more than 1").click();
  await expect.poll(() => body(page, id)).toContain('data-when="nights &gt; 1"');
  await condition.click();
  await page.getByText("a yes/no question of its own").click();
  await expect
    .poll(() => body(page, id))
    .toContain(
      '<input name="wanted" title="“Bring the papers.”?" type="checkbox"><span data-when="wanted">Bring the papers.',
    );
  await page.getByRole("button", { name: "Put it in always" }).click();
  await expect.poll(() => body(page, id)).not.toContain("data-when");
});

test("plain text keeps bullets and numbers, and the source is read as the program reads it", async ({ page }) => {
  await library(page, "Slips", [
    { name: "Forms", body: "<p>a</p><ol><li>one</li><li>two</li></ol><hr>", triggers: [] },
  ]);
  const id = await snippetId(page, "Forms");
  await openSnippet(page, "Forms");
  await page.getByText("Source", { exact: true }).click();
  await page.getByLabel("What goes in, as source").fill("<p>first</p>\n  <ul>\n    <li>x\n    <li>y\n  </ul>\n");
  await page.getByText("Formatted, with live parts").click();
  await expect(editor(page).locator("p")).toHaveText(["first", "x", "y"]);
  await expect.poll(() => body(page, id)).toBe("<p>first</p><ul><li><p>x</p></li><li><p>y</p></li></ul>");
  await page.getByText("Plain text", { exact: true }).click();
  await page.getByRole("button", { name: "Make it plain" }).click();
  await expect(page.getByRole("textbox", { name: "What goes in" })).toHaveValue("first\n- x\n- y");
});

test("an abbreviation goes off in the field of a slip; one that asks something itself stays as typed", async ({
  page,
}) => {
  await openDesk(page);
  await page.keyboard.type(";bcf");
  const slip = page.getByRole("dialog");
  const skipper = slip.getByLabel("Skipper");
  await expect(skipper).toBeFocused();
  await page.keyboard.type("phn ");
  await expect(skipper).toHaveValue("Phone 555-0142 ");
  await skipper.fill("");
  await page.keyboard.type(";bcf");
  await expect(page.getByText("asks for something itself")).toBeVisible();
  await expect(skipper).toHaveValue(";bcf");
  await skipper.fill("Marram");
  await page.keyboard.press("Enter");
  await expect(slip.getByLabel("Vessel")).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("textbox", { name: "Letter" })).toHaveText(";bcf");
});

test("a day is typed in the order of the language, and told in words", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.type(";bcf");
  const arrival = page.getByRole("dialog").getByLabel("Arrival");
  await arrival.fill("2/3/2027");
  await expect(page.getByRole("dialog").getByText("Tuesday, 2 March 2027")).toBeVisible();
  await arrival.press("ArrowUp");
  await expect(arrival).toHaveValue("03/03/2027");
  await arrival.fill("31/02/2027");
  await expect(page.getByRole("dialog").getByRole("alert").first()).toBeVisible();
  await page.keyboard.press("Escape");
});

import { openProofLine, openSnippet, snippetId } from "./app";
import { expect, test } from "./program";

test("an overlap is shown with its keys, ignored, and taken up again", async ({ page }) => {
  await page.goto("/safety");
  const overlap = page.getByRole("listitem").filter({ hasText: "Berth free, by radio" });
  await expect(overlap).toContainText("is typed the same way and goes off instead of");
  await expect(overlap.locator("kbd")).toHaveText(["b", "f", "r", "Space"]);
  await overlap.getByRole("button", { name: "Ignore" }).click();
  await expect(overlap).toHaveCount(0);
  await page.getByLabel(/Show the 1 that is ignored/).check();
  await overlap.getByRole("button", { name: "Take up again" }).click();
  await expect(overlap.getByRole("button", { name: "Ignore" })).toBeVisible();
});

test("an overlap is mended by moving a library above the other, and back", async ({ page }) => {
  await page.goto("/safety");
  const overlap = page.getByRole("listitem").filter({ hasText: "Berth free, by radio" });
  await overlap.getByRole("button", { name: "Mend" }).click();
  await page.getByText("Move Log and radio above Berth desk").click();
  await expect(overlap).toContainText(/Berth free, by radio in Log and radio is typed the same way/);
  await overlap.getByRole("button", { name: "Mend" }).click();
  await page.getByText("Move Berth desk above Log and radio").click();
  await expect(overlap).toContainText(/Berth free in Berth desk is typed the same way/);
});

test("the forecast names the words, and a safer abbreviation is taken with one click", async ({ page }) => {
  const id = await snippetId(page, "Harbour office");
  await page.goto("/safety?part=misfires");
  const row = page.getByRole("row").filter({ hasText: "Harbour office" });
  await expect(row).toContainText("nagging");
  await row.getByRole("button", { name: "Safer ones" }).click();
  const suggestions = page.getByRole("list", { name: "Suggested abbreviations" }).getByRole("button");
  await expect(suggestions.nth(5)).toBeVisible();
  await suggestions.filter({ hasText: "your usual sign in front" }).first().click();
  await expect(row).toHaveCount(0);
  await page.request.post("/api/changes/undo");
  const { snippet } = (await (await page.request.get(`/api/snippets/${id}`)).json()) as {
    snippet: { triggers: { text: string }[] };
  };
  expect(snippet.triggers.map((trigger) => trigger.text)).toEqual(["office"]);
});

test("a text is replayed: every place in its surroundings, beside the forecast", async ({ page }) => {
  await page.goto("/safety?part=replay");
  await page.getByLabel("Text to replay").fill("The office is shut. Brackets for the berth are in the office.");
  await page.getByRole("button", { name: "Replay", exact: true }).click();
  await expect(page.getByRole("status")).toHaveText("3 places in 12 words.");
  const group = page.getByRole("group").filter({ hasText: "Harbour office" });
  await expect(group).toContainText("2 × · 1667 in 10 000 words here, 2.09 forecast");
  await expect(group.getByRole("listitem").first()).toHaveText(/^The office is shut\. Brackets for the berth are\s*$/);
  await page.getByLabel("Text file").setInputFiles({
    name: "picture.txt",
    mimeType: "text/plain",
    buffer: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 1, 2, 3]),
  });
  await expect(page.getByRole("alert")).toContainText("This is no text");
});

test("a trigger tells its forecast, its overlaps and its keys before it is saved", async ({ page }) => {
  await openSnippet(page, "Say again");
  await page.getByRole("button", { name: "Add an abbreviation" }).click();
  const letters = page.getByLabel("Typed letters").last();
  const prospects = page.locator(".prospects").last();
  await letters.fill("the");
  await expect(prospects).toContainText("unusable");
  await letters.fill("bfr");
  await expect(prospects.getByRole("note").first()).toContainText("Berth free");
  await prospects.getByRole("button", { name: "Suggest" }).click();
  await page.getByRole("list", { name: "Suggested abbreviations" }).getByRole("button").first().click();
  await expect(prospects).toContainText("quiet");
  await expect(prospects.getByRole("note")).toHaveCount(0);
  await page
    .getByRole("button", { name: /^Remove/ })
    .last()
    .click();

  await page.getByRole("button", { name: "Add a hotkey" }).click();
  await page.getByRole("button", { name: /Hotkey: none yet/ }).click();
  await page.keyboard.press("Control+Alt+Q");
  await expect(page.locator(".prospects").last().getByRole("note")).toContainText("German layout: AltGr types @");
  await page
    .getByRole("button", { name: /^Remove/ })
    .last()
    .click();

  await page.getByRole("button", { name: "Add a pattern" }).click();
  await page.getByLabel("Typed pattern").fill("b(");
  await expect(page.getByRole("alert")).toContainText("At its end: a group that was opened is not closed");
  await page
    .getByRole("button", { name: /^Remove/ })
    .last()
    .click();
  await expect(page.getByRole("status").first()).toHaveText("Saved");
});

test("why did nothing happen: the nearest abbreviation, and the way to the rule that kept it back", async ({
  page,
}) => {
  await page.goto("/libraries");
  await openProofLine(page);
  await page.keyboard.type("x;bcf");
  await expect(page.locator(".proof-why")).toContainText("not after a space");
  await page.keyboard.press("Control+Alt+W");
  const dialog = page.getByRole("dialog", { name: "Why did nothing happen?" });
  await expect(dialog).toContainText("stays quiet: not after a space");
  await dialog.getByRole("link", { name: "Change this rule" }).click();
  await expect(page.getByText("Anywhere, even inside a word")).toBeVisible();

  await page.locator("#proof-line").fill("");
  await page.locator("#proof-line").click();
  await page.keyboard.type("bfn ");
  await expect(page.locator(".proof-why")).toContainText("typed");
  await page.keyboard.press("Control+Alt+W");
  await expect(dialog).toContainText("you typed bfn, 1 letter off");
});

test("what is taken back is counted for its trigger", async ({ page }) => {
  await page.goto("/libraries");
  const line = await openProofLine(page);
  await page.keyboard.type("kr ");
  await expect(line).toHaveValue(/^Kind regards/);
  await page.keyboard.press("Control+Alt+Z");
  await expect(line).toHaveValue("kr ");
  await expect
    .poll(async () => JSON.stringify(await (await page.request.get("/api/safety")).json()))
    .toContain('"takenBack":1');
  await page.goto("/safety?part=taken-back");
  await expect(page.getByRole("listitem").filter({ hasText: "Kind regards" })).toContainText("was taken back 1 of");
});

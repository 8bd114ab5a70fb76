import { expect, type Locator, type Page } from "@playwright/test";

/** The ids of stored snippets by name. */
export async function snippetId(page: Page, name: string): Promise<number> {
  const answer = await page.request.post("/api/libraries/rows", {
    data: { view: { closed: [] }, from: 0, count: 500 },
  });
  const { rows } = (await answer.json()) as { rows: { id: number; kind: string; name: string }[] };
  const found = rows.find((row) => row.kind === "snippet" && row.name === name);
  expect(found, `a snippet named ${name}`).toBeDefined();
  return found!.id;
}

/** Opens the page of the snippet with a name, wherever it lies. */
export async function openSnippet(page: Page, name: string): Promise<void> {
  await page.goto(`/snippets/${await snippetId(page, name)}`);
  await expect(page.getByRole("textbox", { name: "What goes in" })).toBeVisible();
}

/** Opens the desk and waits until the engine answers. */
export async function openDesk(page: Page, url = ""): Promise<void> {
  await page.goto(`${url}/desk`);
  await page.getByRole("textbox", { name: "Letter" }).click();
  await answered(page);
}

/** Types a key, again and again if need be, until the program has answered one, and takes it away. */
export async function answered(page: Page): Promise<void> {
  await expect(async () => {
    await page.keyboard.press("x");
    await page.keyboard.press("Backspace");
    await expect(page.getByLabel("Keys, latest first").locator("li").first()).toBeVisible({ timeout: 500 });
  }).toPass();
}

/** Goes to the proof line and waits until the program answers what is typed there. */
export async function openProofLine(page: Page): Promise<Locator> {
  const line = page.locator("input#proof-line");
  const why = page.locator(".proof-why");
  await line.click();
  await expect(async () => {
    await page.keyboard.press("x");
    await page.keyboard.press("Backspace");
    await expect(why).not.toContainText("Each key is explained here", { timeout: 500 });
  }).toPass();
  await expect(line).toHaveValue("");
  return line;
}

/** Types a text without pause; a tab is the Tab key. */
export async function typeWithTabs(page: Page, text: string): Promise<void> {
  for (const [at, part] of text.split("\t").entries()) {
    if (at > 0) await page.keyboard.press("Tab");
    await page.keyboard.type(part);
  }
}

import type { Page } from "@playwright/test";
import { press } from "./focus";
import { expect, test } from "./program";
import { OwnServer } from "./server";

/** The table as a workbench: filter, order, many at once, and files from elsewhere. */

const row = (page: Page, text: string) => page.locator(".table-body [role=row]").filter({ hasText: text }).first();
const chosen = (page: Page) => page.locator(".table-body [aria-selected=true]");
const foot = (page: Page) => page.locator(".table-foot");
const filter = (page: Page) => page.getByRole("combobox", { name: "Filter the table" });

async function withSnippets(page: Page, count: number, work: (server: OwnServer) => Promise<void>): Promise<void> {
  const server = await OwnServer.start();
  try {
    const abbreviation = (text: string) => ({ kind: "abbreviation", text });
    await server.addLibrary("Berth desk", [
      ...Array.from({ length: count }, (_, at) => ({
        name: `Fee ${at + 1}`,
        text: `The fee for berth ${at + 1}`,
        triggers: [abbreviation(`;f${at + 1}`)],
      })),
      {
        name: "Confirmed",
        body: "<p>Dear <input name='skipper'>, your berth is confirmed.</p>",
        triggers: [{ ...abbreviation("bcf"), case: "exact" }],
      },
    ]);
    await server.addLibrary("Archive", []);
    await page.goto(`${server.url}/libraries`);
    await expect(row(page, "Fee 1")).toBeVisible();
    await work(server);
  } finally {
    await server.end();
  }
}

test("the filter is typed, its rules are offered, and Escape shows everything again", async ({ page }) => {
  await withSnippets(page, 12, async () => {
    await row(page, "Berth desk").focus();
    await press(page, "/");
    await expect(filter(page)).toBeFocused();
    await page.keyboard.type("case:e");
    await expect(page.getByRole("option", { name: /case:exact/ })).toBeVisible();
    await press(page, "ArrowDown", "ArrowDown", "Enter");
    await expect(filter(page)).toHaveValue("case:exact ");
    await expect(foot(page)).toContainText("The filter leaves 1 snippet.");
    await expect(row(page, "Confirmed")).toBeVisible();
    await expect(row(page, "Fee 1")).toBeHidden();
    await press(page, "Enter");
    await expect(row(page, "Berth desk")).toBeFocused();

    await press(page, "/");
    await filter(page).fill("has fields");
    await expect(foot(page)).toContainText("The filter leaves 1 snippet.");
    await filter(page).fill("berth 1");
    await expect(foot(page)).toContainText("The filter leaves 4 snippets.");
    await filter(page).fill("case:sideways");
    await expect(foot(page)).toContainText("“sideways” is not known behind “case:”");
    await press(page, "Escape");
    await expect(filter(page)).toHaveValue("");
    await expect(foot(page)).toContainText("13 snippets");
  });
});

test("sixty are chosen, moved to a place that is typed, and moved back by undoing", async ({ page }) => {
  await withSnippets(page, 60, async (server) => {
    await press(page, "Tab");
    await filter(page).fill("the fee");
    await expect(foot(page)).toContainText("The filter leaves 60 snippets.");
    await press(page, "Enter");
    await press(page, "Control+a");
    await expect(foot(page)).toContainText("60 rows chosen");
    await press(page, "ArrowDown", "m");
    await expect(page.getByRole("combobox", { name: "Library or folder" })).toBeFocused();
    await page.keyboard.type("arch");
    await press(page, "Enter");
    await expect(page.getByText("Moved 60 snippets to “Archive”.")).toBeVisible();
    await press(page, "/", "Escape");
    await expect(row(page, "Archive").locator(".count")).toHaveText("60");
    await expect(row(page, "Berth desk").locator(".count")).toHaveText("1");
    await row(page, "Berth desk").focus();
    await press(page, "Control+z");
    await expect(row(page, "Berth desk").locator(".count")).toHaveText("61");
    const file = (await (await fetch(`${server.url}/api/library-file`)).json()) as {
      libraries: { name: string; snippets?: unknown[] }[];
    };
    expect(file.libraries.find((library) => library.name === "Berth desk")?.snippets).toHaveLength(61);
  });
});

test("rows are chosen by keys and by the mouse, and the same rules hold for all of them", async ({ page }) => {
  await withSnippets(page, 6, async () => {
    await row(page, "Fee 1").focus();
    await press(page, "Shift+ArrowDown", "Shift+ArrowDown");
    await expect(chosen(page)).toHaveCount(3);
    await press(page, "Shift+ArrowUp");
    await expect(chosen(page)).toHaveCount(2);
    await row(page, "Fee 5").click({ modifiers: ["ControlOrMeta"] });
    await expect(chosen(page)).toHaveCount(3);
    await press(page, "r");
    const dialog = page.getByRole("dialog", { name: "Change rules and tags of 3 rows" });
    await dialog.getByRole("combobox", { name: "Goes off" }).click();
    await page.locator(".ant-select-dropdown").getByTitle("At once, on its last character").click();
    await expect(page.locator(".ant-select-dropdown")).toBeHidden();
    await dialog.getByRole("combobox", { name: "Add tags" }).click();
    await page.keyboard.type("fees");
    await page.keyboard.press("Enter");
    await expect(dialog.getByTitle("fees")).toBeVisible();
    await page.keyboard.press("Escape");
    await expect(page.locator(".ant-select-dropdown:visible")).toHaveCount(0);
    await dialog.getByRole("button", { name: "Change", exact: true }).click();
    await expect(page.getByText("Changed 3 snippets.")).toBeVisible();
    await expect(page.locator(".table-body [role=row]").filter({ hasText: "at once" })).toHaveCount(3);
    await expect(page.locator(".own-tags").filter({ hasText: "fees" })).toHaveCount(3);

    await row(page, "Fee 1").focus();
    await press(page, "Escape");
    await expect(chosen(page)).toHaveCount(0);
    await press(page, "Shift+ArrowDown", " ");
    await expect(page.locator(".table-body [role=row].off")).toHaveCount(2);
    await press(page, "d");
    await expect(page.getByText(/The copies are off/)).toBeVisible();
    await expect(row(page, "Fee 1 2")).toBeVisible();
    await press(page, "Control+z");
    await expect(row(page, "Fee 1 2")).toBeHidden();
  });
});

test("a column’s head sorts the snippets, the other way round, and gives the tree back", async ({ page }) => {
  await withSnippets(page, 3, async () => {
    await page.locator(".table-body [role=row]").first().focus();
    await press(page, "ArrowUp");
    const name = page.getByRole("button", { name: /^Name/ });
    await expect(name).toBeFocused();
    const names = page.locator(".table-body .name-link");
    await press(page, "Enter");
    await expect(names).toHaveText(["Confirmed", "Fee 1", "Fee 2", "Fee 3"]);
    await expect(page.getByRole("columnheader", { name: /^Name/ })).toHaveAttribute("aria-sort", "ascending");
    await press(page, "Enter");
    await expect(names).toHaveText(["Fee 3", "Fee 2", "Fee 1", "Confirmed"]);
    await press(page, "Enter");
    await expect(row(page, "Berth desk")).toBeVisible();

    await page.getByRole("button", { name: "More", exact: true }).click();
    await page.getByRole("menuitem", { name: "Show the column “Changed”" }).click();
    await page.getByRole("button", { name: "Changed" }).click();
    await expect(page.locator(".table-body time")).toHaveCount(4);
    await page.reload();
    await expect(page.getByRole("button", { name: "Changed" })).toBeVisible();
  });
});

test("a table with mistakes is looked at, a column is mended, it comes in and goes out again", async ({ page }) => {
  await withSnippets(page, 1, async () => {
    const table = 'what,how,who\nkr,"Kind regards, Rook",Regards\nb c,Your berth,Berth\nlgt,Light,Breakwater light\n';
    await page.locator("input[type=file]").setInputFiles({
      name: "office.csv",
      mimeType: "text/csv",
      buffer: Buffer.from(table),
    });
    const dialog = page.getByRole("dialog", { name: "Bring in from office.csv" });
    await expect(dialog.getByText("1 line cannot be used")).toBeVisible();
    // Nobody has said that the first row names the columns.
    await dialog.getByRole("checkbox", { name: "The first row names the columns" }).click();
    await expect(dialog.getByRole("cell", { name: "what" })).toHaveCount(0);
    // What was taken for the name is a note.
    await dialog.getByRole("combobox", { name: "who holds" }).click();
    await page.locator(".ant-select-dropdown").getByTitle("Note", { exact: true }).click();
    await expect(dialog.getByRole("region").getByRole("cell", { name: "Breakwater light" })).toBeHidden();
    await expect(dialog.getByText("White space at place 2")).toBeVisible();
    await dialog.getByRole("button", { name: "Bring in 2 snippets" }).click();
    await expect(dialog).toBeHidden();
    await expect(row(page, "Kind regards, Rook")).toBeVisible();
    await row(page, "Berth desk").focus();
    await press(page, "Control+z");
    await expect(row(page, "Kind regards, Rook")).toBeHidden();
  });
});

test("a snippet’s tags are typed on its page and found by the filter", async ({ page }) => {
  await withSnippets(page, 2, async () => {
    await row(page, "Confirmed").focus();
    await press(page, "Enter");
    await page.getByRole("combobox", { name: "Tags" }).click();
    await page.keyboard.type("letters,");
    await page.keyboard.press("Escape");
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    await page.getByRole("link", { name: "Libraries" }).first().click();
    await filter(page).fill("tag:letters ");
    await expect(foot(page)).toContainText("The filter leaves 1 snippet.");
    await expect(row(page, "Confirmed")).toContainText("letters");
  });
});

test("closing keys with a name are pressed, chosen in a library, and changed where they hold", async ({ page }) => {
  await withSnippets(page, 1, async (server) => {
    await page.goto(`${server.url}/settings`);
    const sets = page.locator(".key-sets li");
    await page.getByRole("button", { name: "New set" }).click();
    let dialog = page.getByRole("dialog", { name: "New set of closing keys" });
    await dialog.getByLabel("Name").fill("On the radio");
    await dialog.getByRole("button", { name: "Press keys to change them" }).click();
    await press(page, " ", "Tab", ".", "Tab", "ArrowLeft");
    await expect(dialog.getByRole("status")).toContainText("typed characters, Space, Tab and Enter");
    await press(page, "Escape");
    await expect(dialog).toBeVisible();
    await expect(dialog.getByRole("list", { name: "Keys" }).getByRole("button")).toHaveText([/Space/, /\./]);
    await dialog.getByRole("button", { name: "Save" }).click();
    await expect(sets.filter({ hasText: "On the radio" })).toContainText("holds in 0 places");

    await page.goto(`${server.url}/libraries`);
    await row(page, "Berth desk").focus();
    await press(page, "Shift+F10");
    await page.getByRole("menuitem", { name: "Rules of the library" }).click();
    dialog = page.getByRole("dialog", { name: "Rules of Berth desk" });
    await dialog.getByRole("combobox", { name: "Set of closing keys" }).first().click();
    await page.locator(".ant-select-dropdown:visible").getByTitle("On the radio").click();
    await expect(dialog.getByRole("button", { name: "Take out Space" })).toBeVisible();
    await expect(dialog.getByRole("button", { name: "Take out Enter" })).toHaveCount(0);

    await page.goto(`${server.url}/settings`);
    await expect(sets.filter({ hasText: "On the radio" })).toContainText("holds in 1 place");
    await page.getByRole("button", { name: "Change On the radio" }).click();
    dialog = page.getByRole("dialog", { name: "Closing keys “On the radio”" });
    await dialog.getByRole("button", { name: "Take out ." }).click();
    await dialog.getByRole("button", { name: "Save" }).click();
    await expect(sets.filter({ hasText: "On the radio" })).toContainText("holds in 1 place");
    const closingKeys = async () => {
      const tree = (await (await fetch(`${server.url}/api/libraries`)).json()) as {
        libraries: { name: string; closingKeys: string[] | null }[];
      };
      return tree.libraries.find((library) => library.name === "Berth desk")?.closingKeys;
    };
    await expect.poll(closingKeys).toEqual([" "]);
  });
});

test("the pocket file finds and copies snippets from a file, asking nobody for anything", async ({ page }) => {
  await withSnippets(page, 3, async () => {
    const [saved] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("button", { name: "More", exact: true }).click(),
      page.getByRole("menuitem", { name: "Pocket file for a phone" }).click(),
    ]);
    const path = `${await saved.path()}.html`;
    await saved.saveAs(path);
    await page.context().setOffline(true);
    await page.setViewportSize({ width: 390, height: 800 });
    const asked: string[] = [];
    page.on("request", (request) => asked.push(request.url()));
    await page.goto(`file://${path}`);
    await expect(page.getByRole("status")).toHaveText("4 snippets.");
    await page.getByRole("searchbox", { name: "Find a snippet" }).fill("bcf");
    await page.getByText("Confirmed").click();
    const text = page.getByRole("textbox", { name: "Confirmed" });
    await expect(text.locator("mark")).toHaveText("⟨skipper⟩");
    await page.evaluate(() =>
      document.addEventListener("copy", () => (document.title = String(document.getSelection()))),
    );
    await page.getByRole("button", { name: "Copy formatted" }).click();
    await expect(page.getByRole("status")).toHaveText("“Confirmed” is copied.");
    await expect(page).toHaveTitle("Dear ⟨skipper⟩, your berth is confirmed.");
    expect(asked.filter((url) => !url.startsWith("file:"))).toEqual([]);
    await page.context().setOffline(false);
  });
});

import type { Page } from "@playwright/test";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { press } from "./focus";
import { expect, test } from "./program";
import { OwnServer } from "./server";

/** What goes out of the program and comes in: mirror folders, packs, private snippets, the phone. */

async function withServer(work: (server: OwnServer, folder: string) => Promise<void>): Promise<void> {
  const server = await OwnServer.start();
  const folder = mkdtempSync(join(tmpdir(), "dash-sprout-folder-"));
  try {
    await server.addLibrary("Notices", [
      { name: "Gale", text: "Gale warning.", triggers: [{ kind: "abbreviation", text: ";gale" }] },
      { name: "Fog", text: "Fog at the pier." },
    ]);
    await work(server, folder);
  } finally {
    await server.end();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What another machine would do: it changes the file. */
function changeFile(path: string, from: string, to: string): void {
  const text = readFileSync(path, "utf8");
  expect(text).toContain(from);
  writeFileSync(path, text.replace(from, to));
}

const row = (page: Page, text: string) => page.locator(".table-body [role=row]").filter({ hasText: text }).first();

test("a library is mirrored, and what was changed on both sides waits for a choice", async ({ page }) => {
  await withServer(async (server, folder) => {
    await page.goto(`${server.url}/settings`);
    await page.getByRole("button", { name: "Choose a folder" }).click();
    const dialog = page.getByRole("dialog", { name: "Mirror libraries in a folder" });
    await dialog.getByLabel("Folder", { exact: true }).fill("/nowhere/at/all");
    await press(page, "Enter");
    await expect(dialog.getByRole("alert")).toContainText("no folder");
    await dialog.getByLabel("Folder", { exact: true }).fill(folder);
    await press(page, "Enter");
    await dialog.getByRole("checkbox", { name: "Notices" }).check();
    await dialog.getByRole("button", { name: "Mirror", exact: true }).click();
    await expect(page.getByText("in step")).toBeVisible();

    const file = join(folder, "Notices.json");
    changeFile(file, "Fog at the pier.", "Fog on the quay.");
    await page.goto(`${server.url}/libraries`);
    await expect(row(page, "Fog")).toContainText("Fog on the quay.");

    // Both change one text before they meet.
    const original = readFileSync(file, "utf8");
    await page.goto(`${server.url}/libraries`);
    await row(page, "Gale").dblclick();
    await page.getByRole("textbox", { name: "What goes in" }).fill("Storm warning.");
    await expect.poll(() => readFileSync(file, "utf8")).toContain("Storm warning.");
    writeFileSync(file, original.replace("Gale warning.", "Gale is over."));

    await page.goto(`${server.url}/settings`);
    await expect(page.getByText("1 choice to make")).toBeVisible();
    const choices = page.getByRole("list", { name: "To be decided in Notices" });
    await expect(choices).toContainText("Storm warning.");
    await expect(choices).toContainText("Gale is over.");
    await choices.getByRole("button", { name: "Take this one" }).click();
    await expect(page.getByText("in step")).toBeVisible();
    await page.goto(`${server.url}/libraries`);
    await expect(row(page, "Gale")).toContainText("Gale is over.");
    await press(page, "Control+z");
    await expect(row(page, "Gale")).toContainText("Storm warning.");
    await expect.poll(() => readFileSync(file, "utf8")).toContain("Storm warning.");
  });
});

test("a pack is looked at, added, typed, brought up to date and taken away", async ({ page }) => {
  await withServer(async (server, folder) => {
    const write = (state: string, text: string) =>
      writeFileSync(
        join(folder, "tides.json"),
        JSON.stringify({
          format: "dash-sprout-library",
          version: 1,
          pack: { id: "tides", about: "Words of the tide.", licence: "CC0 1.0", source: "a test", state },
          libraries: [
            {
              name: "Tides",
              snippets: [
                { name: "High", text, key: "h", triggers: [{ kind: "abbreviation", text: ";ht", timing: "at-once" }] },
                { name: "Low", text: "low water", key: "l", triggers: [{ kind: "abbreviation", text: ";lt" }] },
              ],
            },
          ],
        }),
      );
    write("1", "high water");
    await page.goto(`${server.url}/packs`);
    await expect(page.getByRole("heading", { name: "Common misspellings" })).toBeVisible();
    await page.getByLabel(/A folder of yours/).fill(folder);
    await press(page, "Enter");
    await page.getByRole("button", { name: "Look at it Tides" }).click();
    const adding = page.getByRole("dialog", { name: "Add: Tides" });
    await expect(adding.getByText("2 new")).toBeVisible();
    await adding.getByRole("button", { name: "Add 2 snippets" }).click();
    await expect(page.getByRole("region", { name: "In your libraries" })).toContainText("Tides");

    const line = page.locator("input#proof-line");
    await line.click();
    await expect(async () => {
      await line.fill("");
      await page.keyboard.type(";ht");
      await expect(line).toHaveValue("high water", { timeout: 500 });
    }).toPass();

    // What the owner changed stays, what the pack changed comes.
    await page.goto(`${server.url}/libraries`);
    await row(page, "Low").dblclick();
    await page.getByRole("textbox", { name: "What goes in" }).fill("low water at the pier");
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    write("2", "high tide");
    await page.goto(`${server.url}/packs`);
    await page.getByRole("button", { name: "Look at what is new Tides" }).click();
    const updating = page.getByRole("dialog", { name: "Bring up to date: Tides" });
    await expect(updating.getByText("1 changed")).toBeVisible();
    await updating.getByRole("button", { name: "Bring up to date 1 snippet" }).click();
    await expect(updating).toBeHidden();
    await expect(page.getByRole("region", { name: "In your libraries" })).toContainText("Tides");
    await page.goto(`${server.url}/libraries`);
    await expect(row(page, "High")).toContainText("high tide");
    await expect(row(page, "Low")).toContainText("low water at the pier");

    await page.goto(`${server.url}/packs`);
    await page.getByRole("button", { name: "Take away Tides" }).click();
    await expect(page.getByRole("button", { name: "Look at it Tides" })).toBeVisible();
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(page.getByRole("region", { name: "In your libraries" })).toContainText("Tides");
  });
});

test("a private snippet is hidden until it is shown, and stays out of files", async ({ page }) => {
  await withServer(async (server) => {
    await page.goto(`${server.url}/libraries`);
    await row(page, "Gale").dblclick();
    await page.getByRole("checkbox", { name: /^Private/ }).check();
    await expect(page.getByText("Saved", { exact: true })).toBeVisible();
    await expect(page.getByRole("textbox", { name: "What goes in" })).toBeVisible();
    await page.goto(`${server.url}/libraries`);
    await expect(row(page, "Gale")).toContainText("private");
    await expect(row(page, "Gale")).not.toContainText("Gale warning.");
    await row(page, "Gale").dblclick();
    await expect(page.getByText("Show them")).toBeVisible();
    await expect(page.locator("main, body").first()).not.toContainText("Gale warning.");
    await page.getByRole("button", { name: "Earlier versions" }).click();
    await expect(page.getByRole("dialog")).not.toContainText("Gale warning.");
    await press(page, "Escape");
    await page.getByRole("button", { name: "Show them" }).click();
    await expect(page.getByRole("textbox", { name: "What goes in" })).toBeFocused();
    await expect(page.getByRole("textbox", { name: "What goes in" })).toHaveValue("Gale warning.");

    const saved = async (withPrivate: boolean) => {
      await page.goto(`${server.url}/libraries`);
      await page.getByRole("button", { name: "More" }).click();
      await page.getByText("Save all to a file …").click();
      const dialog = page.getByRole("dialog", { name: "Save all to a file" });
      await expect(dialog.getByRole("status")).toContainText("1 snippet stays out");
      if (withPrivate) await dialog.getByRole("checkbox", { name: /Take the private snippet along/ }).check();
      const [download] = await Promise.all([
        page.waitForEvent("download"),
        dialog.getByRole("button", { name: "Save" }).click(),
      ]);
      return readFileSync(await download.path(), "utf8");
    };
    expect(await saved(false)).not.toContain("Gale");
    expect(await saved(true)).toContain("Gale warning.");
  });
});

test("the phone on the desk finds and copies a snippet, and knows nothing private", async ({ page }) => {
  await withServer(async (server) => {
    await server.addLibrary("Keys", [{ name: "Gate code", text: "4711", private: true }]);
    await page.goto(`${server.url}/desk`);
    await page.getByRole("navigation", { name: "Applications" }).getByRole("button", { name: "Phone" }).click();
    const phone = page.frameLocator("iframe[title='Pocket file']");
    await phone.getByRole("searchbox", { name: "Find a snippet" }).fill("fog");
    await phone.getByText("Fog", { exact: true }).click();
    await phone.getByRole("button", { name: "Copy" }).click();
    await expect(phone.getByRole("status")).toContainText("“Fog” is copied.");
    await phone.getByRole("searchbox", { name: "Find a snippet" }).fill("gate");
    await expect(phone.getByRole("status")).toContainText("0 snippets.");
  });
});

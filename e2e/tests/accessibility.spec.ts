import { AxeBuilder } from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { openDesk, openSnippet } from "./app";
import { expect, test } from "./program";

test.describe.configure({ mode: "parallel" });

const everything = {
  type: "tag" as const,
  values: ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa", "best-practice"],
};
const colours = { type: "rule" as const, values: ["color-contrast", "link-in-text-block"] };

/**
 * WCAG 2.2 AA by axe, and what it counts as good practice of headings, lists, landmarks and names; in the dark theme what
 * differs in it, the colours.
 */
async function expectNoFindings(page: Page): Promise<void> {
  await page.emulateMedia({ colorScheme: "light" });
  await expect(page.locator("html")).toHaveAttribute("data-theme", "light");
  expect(await findings(page, everything), "in the light theme").toEqual([]);
  await page.emulateMedia({ colorScheme: "dark" });
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  expect(await findings(page, colours), "in the dark theme").toEqual([]);
}

async function findings(page: Page, runOnly: typeof everything | typeof colours): Promise<string[]> {
  // No view has frames, so that one run within the page sees everything; only what is wrong is told.
  const { violations } = await new AxeBuilder({ page })
    .options({ runOnly, resultTypes: ["violations"] })
    .setLegacyMode()
    .analyze();
  expect(page.frames()).toHaveLength(1);
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 200)).join(" ")}`);
}

const views = [
  ["libraries", "/libraries", ".snippet-row"],
  ["snippet", "Kind regards", ".strip"],
  ["new snippet", "/snippets/new", ".strip"],
  ["desk", "/desk", ".tiptap"],
  ["overlaps", "/safety", ".finding-list"],
  ["misfires", "/safety?part=misfires", ".finding-table"],
  ["replay", "/safety?part=replay", ".replay"],
  ["changes", "/history", ".history-actions"],
  ["bin", "/history?show=bin", ".history [role=tabpanel] .soft"],
  ["backups", "/history?show=backups", ".history-table"],
  ["packs", "/packs", ".pack"],
  ["sprouts, not asked yet", "/sprouts", ".learning-choice"],
  ["savings", "/savings", ".savings"],
  ["drill", "/drill", ".drill-figures"],
  ["settings", "/settings", ".chord-list"],
] as const;

/** What lies over a view, and how it is opened. */
const overlays: Record<string, (page: Page) => Promise<void>> = {
  finder: async (page) => {
    await page.goto("/libraries");
    await page.getByRole("button", { name: /^Find/ }).click();
    await page.getByRole("option").first().waitFor();
  },
  gather: async (page) => {
    await openDesk(page);
    await page.keyboard.press("Control+Alt+n");
    await page.getByRole("dialog").getByLabel("Abbreviation").waitFor();
  },
  slip: async (page) => {
    await openDesk(page);
    await page.keyboard.type(";bcf");
    await page.getByRole("dialog").getByLabel("Skipper").waitFor();
  },
  "why drawer": async (page) => {
    await openDesk(page);
    await page.keyboard.type("kr ;bc");
    await page.keyboard.press("Control+Alt+w");
    await page.locator(".why-keys li").first().waitFor();
  },
  keys: async (page) => {
    await page.goto("/libraries");
    await page.locator(".snippet-row").first().waitFor();
    await page.keyboard.press("F1");
    await page.locator(".keys-table").first().waitFor();
  },
  "menu of a row": async (page) => {
    await page.goto("/libraries");
    await page.locator(".snippet-row").first().focus();
    await page.keyboard.press("Shift+F10");
    await page.getByRole("menu").waitFor();
  },
  "rules of a library": async (page) => {
    await page.goto("/libraries");
    await page.locator(".library-row").first().focus();
    await page.keyboard.press("Shift+F10");
    await page.getByRole("menuitem", { name: "Rules of the library" }).click();
    await page.locator(".defaults-form").waitFor();
  },
  "list to add": async (page) => {
    await page.goto("/libraries");
    await page.getByRole("button", { name: "More", exact: true }).click();
    await page.getByRole("menuitem", { name: "Add from a list" }).click();
    await page.getByRole("dialog").getByRole("textbox").fill("kr\tkind regards\nno text\nzz = new");
    await page.locator(".list-preview").waitFor();
  },
  "segment of a trigger": async (page) => {
    await openSnippet(page, "Kind regards");
    await page.getByRole("button", { name: /^Goes off/ }).click();
    await page.locator(".key-presses").waitFor();
  },
  "suggested abbreviations": async (page) => {
    await openSnippet(page, "Kind regards");
    await page.getByRole("button", { name: "Suggest" }).click();
    await page.locator(".suggestions li").first().waitFor();
  },
  "form of a live part": async (page) => {
    await openSnippet(page, "Answer by");
    await page.locator(".chip[data-part=date]").first().click();
    await page.locator(".part-form .comes-to").waitFor();
  },
  "live parts to insert": async (page) => {
    await openSnippet(page, "Answer by");
    await page.getByRole("textbox", { name: "What goes in" }).press("Alt+i");
    await page.locator(".insert-list").waitFor();
  },
  "filter's suggestions": async (page) => {
    await page.goto("/libraries");
    await page.locator(".table-body [role=row]").first().waitFor();
    await page.getByRole("combobox", { name: "Filter the table" }).fill("ca");
    await page.getByRole("option").first().waitFor();
  },
  "place to move to": async (page) => {
    await page.goto("/libraries");
    await page.locator(".table-body [role=row]").filter({ hasText: "Phone" }).first().focus();
    await page.keyboard.press("m");
    await page.getByRole("option").first().waitFor();
  },
  "rules of many": async (page) => {
    await page.goto("/libraries");
    await page.locator(".table-body [role=row]").filter({ hasText: "Phone" }).first().focus();
    await page.keyboard.press("Shift+ArrowDown");
    await page.keyboard.press("r");
    await page.getByRole("dialog").waitFor();
  },
  "file that is looked at": async (page) => {
    await page.goto("/libraries");
    await page.locator(".table-body [role=row]").first().waitFor();
    await page.locator("input[type=file]").setInputFiles({
      name: "office.csv",
      mimeType: "text/csv",
      buffer: Buffer.from("code,text\nthe,The office\nb c,wrong\nbrk,breakwater\n"),
    });
    await page.getByText("1 line cannot be used").waitFor();
  },
  "earlier versions": async (page) => {
    await openSnippet(page, "Kind regards");
    await page.getByRole("button", { name: "Earlier versions" }).click();
    await page.getByRole("dialog").waitFor();
  },
  "a message that can be undone": async (page) => {
    await page.goto("/libraries");
    await page.locator(".table-body [role=row]").filter({ hasText: "Phone" }).first().focus();
    await page.keyboard.press("Delete");
    await page.locator(".toast").first().waitFor();
    await page.keyboard.press("Control+z");
    await expect(page.getByText(/^Undone/)).toBeVisible();
  },
};

for (const [name, path, ready] of views)
  test(`axe finds nothing on the ${name} view`, async ({ page }) => {
    if (path.startsWith("/")) await page.goto(path);
    else await openSnippet(page, path);
    await page.locator(ready).first().waitFor();
    await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
    await expectNoFindings(page);
  });

for (const [name, open] of Object.entries(overlays))
  test(`axe finds nothing with the ${name} open`, async ({ page }) => {
    await open(page);
    await expectNoFindings(page);
  });

test("at 200 % nothing is lost: all is there and nothing scrolls sideways", async ({ page }) => {
  // 200 % of 1280 × 800 is what 640 × 400 shows.
  await page.setViewportSize({ width: 640, height: 400 });
  for (const [, path, ready] of views) {
    if (path.startsWith("/")) await page.goto(path);
    else await openSnippet(page, path);
    await page.locator(ready).first().waitFor({ state: "attached" });
    const wide = await page.evaluate(() =>
      Math.max(document.documentElement.scrollWidth, document.getElementById("view")!.scrollWidth),
    );
    expect(wide, path).toBeLessThanOrEqual(640);
  }
});

test("who wants less motion gets none", async ({ page }) => {
  await page.emulateMedia({ reducedMotion: "reduce" });
  await page.goto("/settings");
  await page.locator(".chord-list").waitFor();
  const moving = await page.evaluate(() =>
    Array.from(document.querySelectorAll("*"))
      .filter((element) => {
        const style = getComputedStyle(element);
        const lasts = (times: string) => times.split(",").some((time) => parseFloat(time) > 0.01);
        return lasts(style.transitionDuration) || (style.animationName !== "none" && lasts(style.animationDuration));
      })
      .map((element) => element.outerHTML.slice(0, 100)),
  );
  expect(moving).toEqual([]);
});

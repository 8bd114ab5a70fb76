import { AxeBuilder } from "@axe-core/playwright";
import { expect, test } from "@playwright/test";
import { openSnippet } from "./app";

for (const [name, path, ready] of [
  ["libraries", "/libraries", ".snippet-row"],
  ["snippet", "Kind regards", ".strip"],
  ["desk", "/desk", ".tiptap"],
  ["overlaps", "/safety", ".finding-list"],
  ["misfires", "/safety?part=misfires", ".finding-table"],
  ["replay", "/safety?part=replay", ".replay"],
  ["changes", "/history", ".history-actions"],
  ["bin", "/history?show=bin", ".history [role=tabpanel] .soft"],
  ["backups", "/history?show=backups", ".history-table"],
  ["settings", "/settings", ".typing-setting"],
] as const)
  for (const theme of ["light", "dark"] as const)
    test(`axe finds nothing on the ${name} view in the ${theme} theme`, async ({ page }) => {
      await page.emulateMedia({ colorScheme: theme });
      if (path.startsWith("/")) await page.goto(path);
      else await openSnippet(page, path);
      await page.locator(ready).first().waitFor();
      const { violations } = await new AxeBuilder({ page })
        .withTags(["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"])
        .analyze();
      expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html).join(" ")}`)).toEqual([]);
    });

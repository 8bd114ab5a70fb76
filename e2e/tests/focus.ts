import { expect, type Locator, type Page } from "@playwright/test";

/** What has the focus, as a test may name it; the reason when keys would go nowhere. */
const focusNow = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const active = document.activeElement;
    if (!active || active === document.body || active === document.documentElement) return "nothing has the focus";
    if (active.closest("[inert], [aria-hidden=true]")) return `hidden: ${active.outerHTML.slice(0, 120)}`;
    if (active.getClientRects().length === 0) return `not in sight: ${active.outerHTML.slice(0, 120)}`;
    return "somewhere";
  });

/** Presses keys one after another; after each of them something that keys act on has the focus. */
export async function press(page: Page, ...keys: string[]): Promise<void> {
  for (const key of keys) {
    await page.keyboard.press(key);
    await expect.poll(() => focusNow(page), { message: `after ${key}`, timeout: 30_000 }).toBe("somewhere");
  }
}

/** Opens something with a key, sees that the focus is in it, leaves it with Escape, and sees that the focus is back. */
export async function openAndLeave(page: Page, key: string, inside: Locator): Promise<void> {
  const before = await page.evaluateHandle(() => document.activeElement);
  await press(page, key);
  await expect(inside).toBeVisible();
  await expect
    .poll(() => inside.evaluate((area) => area.contains(document.activeElement)), { message: `${key} takes the focus` })
    .toBe(true);
  await press(page, "Escape");
  await expect(inside).toBeHidden();
  await expect
    .poll(() => before.evaluate((element) => element === document.activeElement), { message: `${key} gives it back` })
    .toBe(true);
}

/** Goes on with Tab, or back with Shift+Tab, until something has the focus, and gives how often it took. */
export async function tabTo(page: Page, wanted: Locator, key = "Tab", most = 150): Promise<number> {
  for (let times = 0; times <= most; times++) {
    if (await wanted.evaluate((element) => element === document.activeElement)) return times;
    await press(page, key);
  }
  throw new Error(`${key} does not reach ${String(wanted)}.`);
}

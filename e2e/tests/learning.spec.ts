import { AxeBuilder } from "@axe-core/playwright";
import type { Locator, Page } from "@playwright/test";
import { openDesk } from "./app";
import { press, tabTo } from "./focus";
import { expect, test } from "./program";
import { OwnServer } from "./server";

/** What one's own typing tells: sprouts, offers, missed chances. */

const thanks = "Thank you for your booking at our harbour";
const offered = (page: Page): Locator => page.locator(".offer-line");

async function withServer(page: Page, work: (server: OwnServer) => Promise<void>): Promise<void> {
  const server = await OwnServer.start();
  try {
    await work(server);
  } finally {
    await server.end();
  }
}

/** Allows everything by keyboard, and waits until it holds. */
async function allow(page: Page, server: OwnServer): Promise<void> {
  await page.goto(`${server.url}/sprouts`);
  await page.getByRole("button", { name: "Allow all three" }).focus();
  await press(page, "Enter");
  await expect(page.getByText("in every application.")).toBeVisible();
}

async function say(page: Page, text: string): Promise<void> {
  const message = page.getByRole("textbox", { name: "Message", exact: true });
  await message.click();
  await page.keyboard.type(text);
  await press(page, "Enter");
  await expect(message).toHaveValue("");
}

test("a phrase typed three times becomes a snippet and is offered", async ({ page }) =>
  withServer(page, async (server) => {
    await server.addLibrary("Berth desk", [{ name: "Regards", text: "Kind regards", triggers: [] }]);
    await allow(page, server);
    await expect(page.getByText("Nothing has sprouted yet.")).toBeVisible();
    await openDesk(page, server.url);
    for (let time = 0; time < 3; time++) await say(page, thanks);

    // It is offered already, and whoever types on passes over it.
    await page.keyboard.type("Thank you for you");
    await expect(offered(page)).toContainText("… r booking at our harbour");
    await page.keyboard.type("th");
    await expect(offered(page)).toBeEmpty();
    for (let back = 0; back < 2; back++) await press(page, "Backspace");
    await expect(offered(page)).toContainText("… r booking at our harbour");
    await press(page, "ArrowRight");
    const message = page.getByRole("textbox", { name: "Message", exact: true });
    await expect(message).toHaveValue(thanks);
    await page.keyboard.press("Control+Alt+z");
    await expect(message).toHaveValue("Thank you for you");
    await message.fill("");

    await page.goto(`${server.url}/sprouts`);
    const code = page.getByRole("textbox", { name: `Abbreviation for ${thanks}` });
    await expect(code).toHaveValue(/^\S{2,}$/);
    await code.focus();
    await page.keyboard.press("Control+a");
    await page.keyboard.type(";ty");
    await press(page, "Enter");
    await expect(page.getByText(";ty puts in “Thank you for your booking” from now on.")).toBeVisible();
    await expect(page.getByText("Nothing has sprouted yet.")).toBeVisible();

    await openDesk(page, server.url);
    const letter = page.getByRole("textbox", { name: "Letter" });
    await page.keyboard.type("Thank you for yo");
    await expect(offered(page)).toContainText("ur booking at our harbour");
    await expect(offered(page)).toContainText("Thank you for your booking");
    await press(page, "ArrowRight");
    await expect(letter).toHaveText(thanks);
    await press(page, "Enter");
    await page.keyboard.type(";ty ");
    await expect(letter).toHaveText(`${thanks}${thanks} `);
  }));

test("the arrow is an arrow within a line, and another key can be chosen", async ({ page }) =>
  withServer(page, async (server) => {
    await server.addLibrary("Berth desk", [
      { name: "Thanks", text: thanks, triggers: [{ kind: "abbreviation", text: ";ty" }] },
      { name: "Wait", text: "Thank you for your patience", triggers: [{ kind: "abbreviation", text: ";tp" }] },
    ]);
    await allow(page, server);
    await openDesk(page, server.url);
    const message = page.getByRole("textbox", { name: "Message", exact: true });
    await message.fill("xy");
    await press(page, "ArrowLeft");
    await page.keyboard.type("Thank you for your ");
    await press(page, "ArrowRight");
    await page.keyboard.type("!");
    await expect(message).toHaveValue("xThank you for your y!");
    await expect(offered(page)).toBeEmpty();

    await page.goto(`${server.url}/sprouts`);
    await page.getByRole("button", { name: "Change" }).click();
    await page.getByRole("combobox", { name: "The key that takes what is offered" }).click();
    await page
      .getByRole("option", { name: "F8" })
      .or(page.locator(".ant-select-item-option", { hasText: "F8" }))
      .first()
      .click();
    await page.getByRole("button", { name: "Keep this" }).click();
    await openDesk(page, server.url);
    await page.keyboard.type("Thank you for your ");
    await expect(offered(page)).toContainText("1 of 2");
    const first = await offered(page).locator(".offer-rest").innerText();
    await page.keyboard.press("Alt+ArrowDown");
    await expect(offered(page)).toContainText("2 of 2");
    await expect(offered(page).locator(".offer-rest")).not.toHaveText(first);
    const rest = (await offered(page).locator(".offer-rest").innerText()).replace("… ", "");
    await press(page, "F8");
    await expect(page.getByRole("textbox", { name: "Letter" })).toHaveText(`Thank you for your ${rest}`);
  }));

test("a missed chance shows in passing and in a list, and what was learned is deleted with one click", async ({
  page,
}) =>
  withServer(page, async (server) => {
    await server.addLibrary("Berth desk", [
      { name: "Thanks", text: thanks, triggers: [{ kind: "abbreviation", text: ";ty" }] },
    ]);
    await allow(page, server);
    await openDesk(page, server.url);
    await say(page, thanks);
    await expect(page.getByText(";ty puts this in")).toBeVisible();
    await say(page, "the crane is closed until noon");
    await say(page, "the crane is closed until noon");

    await page.goto(`${server.url}/sprouts`);
    await page.getByText("Missed chances", { exact: true }).click();
    await expect(
      page.getByRole("region", { name: /Typed in full/ }).getByRole("row", { name: /Thanks/ }),
    ).toContainText("once");
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations).toEqual([]);
    await page.getByText(/^Remembered/).click();
    await expect(page.locator(".remembered-text")).toHaveText("the crane is closed until noon");
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
    await page.getByRole("button", { name: "Delete everything that was learned" }).click();
    await expect(page.getByText("Nothing is remembered.")).toBeVisible();
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(page.locator(".remembered-text")).toHaveText("the crane is closed until noon");
    await page.getByRole("button", { name: "Forget the crane is closed until noon" }).click();
    await expect(page.getByText("Nothing is remembered.")).toBeVisible();
  }));

test("what differs each time becomes a snippet with fields, and a sprout that nobody wants never comes again", async ({
  page,
}) =>
  withServer(page, async (server) => {
    await allow(page, server);
    await openDesk(page, server.url);
    for (const [name, berth] of [
      ["Marram", 4],
      ["Tern", 12],
      ["Knot", 7],
    ] as const)
      await say(page, `Dear Captain ${name}, berth ${berth} is free for you`);
    for (let time = 0; time < 3; time++) await say(page, "the crane is closed until noon");
    await page.goto(`${server.url}/sprouts`);
    await expect(page.locator(".sprout")).toHaveCount(2);
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
    await page.getByRole("button", { name: "Never propose the crane is closed until noon" }).click();
    await expect(page.getByText("It is not proposed again.")).toBeVisible();
    await expect(page.locator(".sprout")).toHaveCount(1);
    await page.getByRole("button", { name: /^Grow Dear Captain/ }).click();
    await expect(page.getByText("Nothing has sprouted yet.")).toBeVisible();
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(page.locator(".sprout")).toHaveCount(1);
    await page.getByRole("button", { name: /^Grow Dear Captain/ }).click();
    await expect(page.getByText("Nothing has sprouted yet.")).toBeVisible();
    const trigger = (await page.locator(".toast, [role=status]").filter({ hasText: "puts in" }).innerText()).split(
      " ",
    )[0]!;
    await openDesk(page, server.url);
    await page.keyboard.type(`${trigger} `);
    await page.getByRole("dialog").getByLabel("Name").fill("Gull");
    await page.getByRole("dialog").getByLabel("Number").fill("3");
    await press(page, "Enter");
    await expect(page.getByRole("textbox", { name: "Letter" })).toContainText(
      "Dear Captain Gull, berth 3 is free for you",
    );
  }));

test("the choice and the parts of the view by keyboard alone", async ({ page }) =>
  withServer(page, async (server) => {
    await page.goto(`${server.url}/sprouts`);
    const offers = page.getByRole("checkbox", { name: /^Offer the rest/ });
    await tabTo(page, offers);
    await press(page, " ");
    await expect(offers).toBeChecked();
    await tabTo(page, page.getByRole("radio", { name: "In every application", exact: true }));
    await press(page, "ArrowDown");
    await expect(page.getByRole("combobox", { name: "Applications" })).toBeVisible();
    await tabTo(page, page.getByRole("button", { name: "Allow what is ticked" }));
    await press(page, "Enter");
    await expect(page.getByText("The rest of what you begin is offered in Post only.")).toBeVisible();
    await tabTo(page, page.getByRole("radio", { name: "Worth a snippet" }));
    await press(page, "ArrowRight");
    await expect(page.getByRole("heading", { name: "Nearly the same" })).toBeVisible();
    await press(page, "ArrowRight");
    await expect(page.getByText("Nothing is remembered.")).toBeVisible();
    await tabTo(page, page.getByRole("button", { name: "Change" }));
    await press(page, "Enter");
    await tabTo(page, page.getByRole("button", { name: "Leave it as it was" }));
    await press(page, "Enter");
    await expect(page.getByText("The rest of what you begin is offered in Post only.")).toBeVisible();
  }));

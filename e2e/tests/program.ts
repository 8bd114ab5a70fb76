import { test as base } from "@playwright/test";
import { OwnServer } from "./server";

export { expect } from "@playwright/test";

/**
 * A test in the page of a program that holds the harbour office's libraries. Tests that run at the same time have a program
 * each; those that follow one another share it, and leave it as they found it.
 */
export const test = base.extend<object, { program: OwnServer }>({
  baseURL: ({ program }, use) => use(program.url),
  program: [
    // oxlint-disable-next-line no-empty-pattern -- the runner reads from this pattern what is asked for
    async ({}, use) => {
      const program = await OwnServer.start("harbour office");
      await use(program);
      await program.end();
    },
    { scope: "worker", timeout: 240_000 },
  ],
});

import { expect, test } from "vitest";
import { pageSize, pagesOf, rowsInSight } from "./pages";

test.each([
  [0, 0, [0]],
  [0, pageSize - 1, [0]],
  [pageSize - 1, pageSize, [0, 1]],
  [3 * pageSize + 5, 5 * pageSize - 1, [3, 4]],
  [0, -1, [0]],
  [-3, 2, [0]],
])("the rows from %i to %i are on the pages %j", (first, last, pages) => {
  expect(pagesOf(first, last)).toEqual(pages);
});

test.each([
  [0, 400, { first: 0, last: 9 }],
  [39, 400, { first: 0, last: 10 }],
  [40, 400, { first: 1, last: 10 }],
  [-20, 10, { first: 0, last: 0 }],
])("scrolled by %i in a height of %i, these are in sight", (scrolled, height, sight) => {
  expect(rowsInSight(scrolled, height, 40)).toEqual(sight);
});

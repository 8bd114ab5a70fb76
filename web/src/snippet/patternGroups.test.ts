import { expect, it } from "vitest";
import { groupsTyped, withGroups } from "./patternGroups";

it("finds the signs for groups in a text, and not in tags", () => {
  expect(groupsTyped({ text: "Berth $2 of $1, $1 again" })).toEqual([1, 2]);
  expect(groupsTyped({ body: '<p>a <a href="https://example.org/$1">b</a></p>' })).toEqual([]);
  expect(groupsTyped({ text: "for 12 $ and $x" })).toEqual([]);
  expect(groupsTyped({})).toEqual([]);
});

it("puts the live part in their place and leaves everything else", () => {
  expect(withGroups({ text: "Berth $1 <b>\nof $0" })).toEqual({
    text: null,
    body: '<p>Berth <slot name="match" data-group="1"></slot> &lt;b&gt;</p><p>of <slot name="match" data-group="0"></slot></p>',
  });
  expect(withGroups({ body: '<p><strong>$1</strong> <input name="$2"></p>' }).body).toBe(
    '<p><strong><slot name="match" data-group="1"></slot></strong> <input name="$2"></p>',
  );
});

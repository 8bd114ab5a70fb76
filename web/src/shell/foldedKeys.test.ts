import { expect, it } from "vitest";
import type { RecalledKey } from "../api/client";
import { foldedKeys } from "./foldedKeys";

const key = (typed: string, event = "typed", why?: string): RecalledKey =>
  ({
    key: typed,
    app: "post",
    trace: { event, why: why ?? "", reasons: why ? [{ why }] : [] },
  }) as unknown as RecalledKey;

it("folds keys that nothing came of into one, the latest first", () => {
  const keys = [
    key("a"),
    key("b"),
    key("t", "waits", "waits for a closing key"),
    key("c"),
    key(" ", "fires", "goes off"),
    key("d"),
  ];
  expect(
    foldedKeys(keys).map((one) => (one.kind === "key" ? one.key.key : one.keys.map(({ key: typed }) => typed))),
  ).toEqual([["d"], " ", ["c"], "t", ["a", "b"]]);
});

it("a key with a reason stands for itself, whatever came of it", () => {
  expect(foldedKeys([key("a", "typed", "library off")])[0]?.kind).toBe("key");
  expect(foldedKeys([])).toEqual([]);
});

import { expect, test } from "vitest";
import { Kept } from "./kept.ts";

test("what was used last is kept up to a size, and made once", async () => {
  const made: string[] = [];
  const kept = new Kept<string>(10, (v) => v.length);
  const get = (key: string, value: string) =>
    kept.get(key, async () => {
      made.push(key);
      return value;
    });
  await get("a", "1234");
  await get("b", "12345");
  await get("a", "");
  // Four and five fit; a third of four drives out b, which was used longest ago.
  await get("c", "1234");
  expect(await get("a", "")).toBe("1234");
  await get("b", "12345");
  expect(made).toEqual(["a", "b", "c", "b"]);
  // One that is larger than all stays while it is the newest.
  expect(await get("huge", "x".repeat(50))).toBe(await get("huge", ""));
  kept.clear();
  expect(kept.find("huge")).toBeUndefined();
  // Nothing weighs any more: nine fit again.
  await get("a", "1234");
  await get("b", "12345");
  expect([kept.find("a"), kept.find("b")]).toEqual(["1234", "12345"]);
});

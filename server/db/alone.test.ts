import { expect, test } from "vitest";
import { aloneInProcess } from "./alone.ts";

const later = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

test("work under one name follows in order, also on work that failed; other names do not wait", async () => {
  const alone = aloneInProcess();
  const told: string[] = [];
  const work = (name: string, ms: number) => async () => {
    told.push(`${name} begins`);
    await later(ms);
    told.push(`${name} ends`);
    return name;
  };
  const first = alone("x", work("a", 30));
  const broken = alone("x", async () => {
    told.push("breaks");
    throw new Error("broken");
  });
  const last = alone("x", work("b", 1));
  const other = alone("y", work("c", 1));
  await expect(broken).rejects.toThrow("broken");
  expect(await Promise.all([first, last, other])).toEqual(["a", "b", "c"]);
  expect(told.filter((t) => !t.startsWith("c"))).toEqual(["a begins", "a ends", "breaks", "b begins", "b ends"]);
  expect(told.indexOf("c ends")).toBeLessThan(told.indexOf("a ends"));
});

import { expect, test } from "vitest";
import { UnderWay } from "./underWay.ts";

test("work under way says how far it is, is given up by what it is of, and is forgotten at its end", async () => {
  const [papers, packs] = [new UnderWay("paper"), new UnderWay("pack")];
  let end: () => void = () => undefined;
  const waiting = new Promise<void>((resolve) => {
    end = resolve;
  });
  const work = papers.follow("a", "Reading", async ({ told, signal }) => {
    told?.({ done: 1, of: 2, what: "Writing" });
    await waiting;
    return signal?.aborted;
  });
  expect(papers.told("a")).toEqual({ done: 1, of: 2, what: "Writing" });
  expect([packs.told("a"), papers.told("b")]).toEqual([undefined, undefined]);
  packs.giveUp("a");
  papers.giveUp("b");
  papers.giveUp("a");
  end();
  expect(await work).toBe(true);
  expect(papers.told("a")).toBeUndefined();
  const failing = papers.follow("a", "Reading", async ({ signal }) => {
    expect(papers.told("a")).toEqual({ done: 0, of: 1, what: "Reading" });
    expect(signal?.aborted).toBe(false);
    throw new Error("no");
  });
  await expect(failing).rejects.toThrow("no");
  expect(papers.told("a")).toBeUndefined();
});

import { expect, test } from "vitest";
import type { QuantityComparison } from "../results/comparison.ts";
import { sharedSentence, spreadSentence } from "./sayings.ts";

test("how u_num is made is always told; a choice with its reason and initials", () => {
  expect(spreadSentence(undefined)).toBe("u_num is half the 95 % figure (error about the result of the finest mesh, a normal distribution).");
  const chosen = { spread: "shifted" as const, reason: "meshes run from one side", by: "EM", at: "" };
  expect(spreadSentence(chosen)).toMatch(/refinement over 1\.15 .*, because meshes run from one side \(EM\)\.$/);
  expect(spreadSentence({ ...chosen, spread: "centred" })).toMatch(/half the 95 % figure .*\(EM\)\.$/);
});

test("what counts in both is told with its size, and nothing where nothing does", () => {
  const of = (shared: readonly string[]) =>
    ({ yardstick: "Law", scale: 10, sharedInputs: { uncertainty: 0.01, alone: 0.2, shared } }) as unknown as QuantityComparison;
  const said = sharedSentence("drag", of(["Speed"])).replaceAll("\u00a0", " ");
  expect(said).toBe(
    "drag against Law: speed counts in both. The conditions make 0.10 % of the difference, 2.0 % of the simulated value alone, at 95 %.",
  );
  expect(sharedSentence("drag", of(["Speed", "Density"]))).toContain("speed, density count in both");
  expect(sharedSentence("drag", { yardstick: "Law" } as QuantityComparison)).toBe("");
});

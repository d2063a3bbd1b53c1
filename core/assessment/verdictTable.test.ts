import { describe, expect, test } from "vitest";
import type { Remark, State } from "../remarks/remark.ts";
import { q } from "./familyForTests.ts";
import { judge, type Part } from "./verdict/verdict.ts";

describe("verdict: every combination", () => {
  const states: readonly State[] = ["holds", "remark", "fails", "none"];
  const remark = (rule: string, state: State): Remark[] =>
    state === "fails"
      ? [{ rule, severity: "stop", sentence: `${rule} stops.` }]
      : state === "remark"
        ? [{ rule, severity: "doubt", sentence: `${rule} doubts.` }]
        : [];
  const part = (stage: "question" | "settling" | "balance" | "refinement", state: State): Part => ({ stage, state, remarks: remark(stage, state) });
  const verdict = (setup: State, runs: State, comparison: State, open: boolean, byHand: boolean, stale: boolean) =>
    judge({
      quantity: q,
      stale,
      broughtIn: true,
      parts: [part("question", setup), part("settling", runs), part("balance", "holds"), part("refinement", "holds")],
      refinement: { key: "q", rungs: [], limit: 0.02, remarks: [], state: "holds", headline: "" },
      comparison: { state: comparison, reasons: comparison === "holds" ? [] : [`comparison ${comparison}`] },
      rule: {
        quantityKey: "q",
        scale: 1,
        value: 1,
        missing: open ? ["domain"] : [],
        sources: [
          { key: "domain", name: "domain", group: "numerical", stage: "refinement", note: "n", ...(open ? {} : { relative: 0.01 }) },
          {
            key: "mesh",
            name: "mesh",
            group: "numerical",
            stage: "refinement",
            note: "n",
            relative: 0.01,
            ...(byHand ? { settled: { kind: "estimated" as const, by: "H. M.", reason: "r" } } : {}),
          },
        ],
      },
    });
  const flags = [false, true];
  test("512 of them follow the order: stale, fails, incomplete, remark, holds", () => {
    let count = 0;
    for (const setup of states)
      for (const runs of states)
        for (const comparison of states)
          for (const open of flags)
            for (const byHand of flags)
              for (const stale of flags) {
                const v = verdict(setup, runs, comparison, open, byHand, stale);
                const has = (s: State) => [setup, runs, comparison].includes(s);
                // Stages without evidence show it as an open source; the comparison has no source of its own.
                const word = stale
                  ? "stale"
                  : has("fails")
                    ? "fails"
                    : open || comparison === "none"
                      ? "incomplete"
                      : has("remark") || byHand
                        ? "holds with a remark"
                        : "holds";
                expect(v.word, JSON.stringify({ setup, runs, comparison, open, byHand, stale })).toBe(word);
                expect(v.reasons.length > 0, v.word).toBe(word !== "holds");
                expect(v.next !== undefined).toBe(word !== "holds");
                for (const r of v.reasons) expect(r.sentence).not.toMatch(/holds with a remark$/);
                count++;
              }
    expect(count).toBe(512);
  });
  test("what fails comes first, with its rule and page; an open source names what settles it", () => {
    const v = verdict("remark", "fails", "holds", true, false, false);
    expect(v.reasons.map((r) => [r.sentence, r.go])).toEqual([
      ["settling stops", "settling"],
      ["the domain error is open: n", "refinement"],
      ["question doubts", "question"],
    ]);
    expect(v.settles[0]).toMatchObject({ source: "domain", go: "runs" });
    expect(verdict("holds", "holds", "holds", true, false, false).next?.sentence).toContain("no far field");
  });
});

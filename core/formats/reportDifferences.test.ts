import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { reportDifferences } from "./reportDifferences.ts";
import { ReportDocument } from "./reportDocument.ts";

const report = (change: Partial<ReportDocument> = {}): ReportDocument =>
  ReportDocument.parse({
    format: "tin-ruler-report",
    version: 1,
    number: 1,
    issuedBy: "H. M.",
    issuedAt: "2026-04-01T08:00:00Z",
    caseId: "c",
    title: "Louvre",
    purpose: "Does it agree?",
    programme: "P",
    evidenceHash: "a",
    verdicts: [{ quantity: "drag", word: "holds", sentence: "s", reasons: [], claim: "between 1 and 2 %" }],
    sections: [{ stage: "setup", title: "Set-up", sentences: ["Air at 4 °C.", "Steady."], tables: ["t"], drawings: [] }],
    tables: [
      {
        key: "t",
        title: "Meshes",
        columns: [
          { name: "mesh", unit: "" },
          { name: "cells", unit: "1" },
        ],
        rows: [
          ["coarse", 100],
          ["fine", 400],
        ],
      },
    ],
    drawings: [],
    pictures: [],
    runs: [{ label: "fine", code: "bench", settingsHash: "h1", settings: {} }],
    ...change,
  });

describe("two issued reports line by line", () => {
  test("the same evidence issued again differs in nothing", () => {
    expect(reportDifferences(report(), report({ number: 2, issuedBy: "K. B.", issuedAt: "2026-05-01T08:00:00Z", evidenceHash: "b" }))).toEqual([]);
  });
  test("a verdict, a sentence, a cell, a row, a chapter and a run's settings are each told with both sides", () => {
    const right = report({
      verdicts: [{ quantity: "drag", word: "fails", sentence: "s", reasons: ["too far off"], claim: "between 5 and 6 %" }],
      sections: [
        { stage: "setup", title: "Set-up", sentences: ["Air at 20 °C.", "Steady."], tables: ["t"], drawings: [] },
        { stage: "credibility", title: "Credibility", sentences: [], tables: [], drawings: [] },
      ],
      tables: [
        {
          ...report().tables[0],
          rows: [
            ["coarse", 100],
            ["fine", 401],
            ["finest", 1600],
          ],
        },
      ],
      runs: [{ label: "fine", code: "bench", settingsHash: "h2", settings: {} }],
    });
    expect(reportDifferences(report(), right)).toEqual([
      { where: "verdict on drag", left: "holds", right: "fails" },
      { where: "claim on drag", left: "between 1 and 2 %", right: "between 5 and 6 %" },
      { where: "reasons on drag", left: "", right: "too far off" },
      { where: "Set-up", left: "Air at 4 °C.", right: "Air at 20 °C." },
      { where: "chapter Credibility", right: "is there" },
      { where: "Meshes, fine, cells", left: "400", right: "401" },
      { where: "Meshes, finest", right: "finest | 1600" },
      { where: "settings of fine, bench", left: "h1", right: "h2" },
    ]);
  });
  test("rows called alike are held against each other in their order", () => {
    const twice = (second: number) =>
      report({
        tables: [
          {
            ...report().tables[0],
            rows: [
              ["fine", 1],
              ["fine", second],
            ],
          },
        ],
      });
    expect(reportDifferences(twice(2), twice(3))).toEqual([{ where: "Meshes, fine (2), cells", left: "2", right: "3" }]);
  });
  test("what one side lacks the other has: turned round, sides change places and nothing else", () => {
    const word = fc.constantFrom("a", "b", "c");
    const any = fc.record({ words: fc.uniqueArray(word), cells: fc.array(fc.tuple(word, fc.integer({ min: 0, max: 3 })), { maxLength: 4 }) });
    const of = (x: { words: string[]; cells: [string, number][] }) =>
      report({ sections: [{ ...report().sections[0], sentences: x.words }], tables: [{ ...report().tables[0], rows: x.cells }] });
    fc.assert(
      fc.property(any, any, (a, b) => {
        const there = reportDifferences(of(a), of(b));
        const back = reportDifferences(of(b), of(a)).map(({ where, left, right }) => JSON.stringify([where, right ?? null, left ?? null]));
        expect(there.map(({ where, left, right }) => JSON.stringify([where, left ?? null, right ?? null])).sort()).toEqual(back.sort());
        if (JSON.stringify(a) === JSON.stringify(b)) expect(there).toEqual([]);
      }),
    );
  });
});

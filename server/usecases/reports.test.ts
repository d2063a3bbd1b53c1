import { strFromU8, unzipSync } from "fflate";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { listQuantities } from "../repositories/cases.ts";
import { createCase } from "./cases.ts";
import { createDerived } from "./quantities.ts";
import { IssueInput, issueReport, readReport } from "./reports.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("reports"));
});
afterAll(() => close());

test("records in the archive hold what was worked out by formula, each run's from its own", async () => {
  const { id } = await createCase(opened, newCase());
  const [q] = await listQuantities(opened.db, id);
  await createDerived(opened, id, { name: "twice the drag", formula: `2 * ${q.key}`, unit: q.unit, limit: "2 %" });
  await bringSettled(opened, id, 40, { label: "fine", cells: 1000 });
  await bringSettled(opened, id, 50, { label: "coarse", cells: 100 });
  const { archive, number } = await issueReport(opened, id, "A. B.");
  const files = unzipSync(await opened.blobs.get(archive));
  for (const [label, value] of [
    ["fine", 40],
    ["coarse", 50],
  ] as const) {
    const [head, ...lines] = strFromU8(files[`records/${label}.csv`]).trim().split("\n");
    const names = head.split(",");
    const columnOf = (name: string) => names.findIndex((n) => n.includes(name));
    const last = (lines.at(-1) ?? "").split(",").map(Number);
    expect(last[columnOf(q.name)]).toBeCloseTo(value, 6);
    expect(last[columnOf("twice the drag")]).toBeCloseTo(2 * value, 6);
  }
  const { document } = await readReport(opened, id, number);
  expect(document.runs.map((r) => r.label).sort()).toEqual(["coarse", "fine"]);
  await expect(readReport(opened, id, 9)).rejects.toMatchObject({ code: "not-found", message: "There is no report 9 of this case." });
});

test("who issues it is asked for, without the blanks around", () => {
  expect(IssueInput.parse({ issuedBy: "  H. M. " }).issuedBy).toBe("H. M.");
  expect(IssueInput.safeParse({ issuedBy: "   " }).success).toBe(false);
  expect(IssueInput.safeParse({ issuedBy: "x".repeat(81) }).success).toBe(false);
});

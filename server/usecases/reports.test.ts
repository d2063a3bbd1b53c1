import { strFromU8, unzipSync } from "fflate";
import { afterAll, beforeAll, expect, test } from "vitest";
import { REPORT_BLOCKS } from "../../core/formats/reportBlocks.ts";
import type { Store } from "../db/store.ts";
import { reportHtml } from "../report/html.ts";
import { listQuantities } from "../repositories/cases.ts";
import { createCase, createYardstick } from "./cases.ts";
import { createDerived } from "./quantities.ts";
import { compareReports, IssueInput, issueReport, readReport, signReport, standingOf, WithdrawInput, withdrawReport } from "./reports.ts";
import { keepTemplate, reportTemplates } from "./reportTemplates.ts";
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

async function settled(title: string, value: number) {
  const { id } = await createCase(opened, newCase({ title }));
  await bringSettled(opened, id, value, { label: "fine", cells: 1000 });
  return id;
}

test("a report has the page for the decision first, then the chapters that were chosen in their order, with one's own words; figures and tables are counted", async () => {
  const id = await settled("composed", 41);
  const whole = await issueReport(opened, id, "H. M.");
  const all = (await readReport(opened, id, whole.number)).document;
  const stages = all.sections.map((s) => s.stage);
  expect(stages[0]).toBe("decision");
  expect(all.sections[0].sentences.join(" ")).toContain("Decision rule: holds where the difference with its uncertainty added keeps the limit");
  // Every chapter a report has can be chosen, by its own key.
  expect(REPORT_BLOCKS.map((b) => b.key).filter((k) => stages.includes(k))).toEqual(stages.slice(1));
  const text = "First **words**.\n\n<b>Second</b> words.";
  const captions = { credibility: "As we <see> it.", runs: "  " };
  const composed = IssueInput.parse({ issuedBy: "H. M.", blocks: ["credibility", "runs"], text, captions });
  const part = await issueReport(opened, id, "H. M.", new Date(), composed);
  const { document } = await readReport(opened, id, part.number);
  expect(document.sections.map((s) => s.stage)).toEqual(["decision", "words", "credibility", "runs"]);
  expect(document.sections[1]).toMatchObject({ sentences: [], markdown: text });
  expect(document.drawings.map((d) => d.caption)).toEqual(["As we <see> it."]);
  expect(document.tables.map((t) => [t.key, t.caption])).toEqual([
    ["credibility", "As we <see> it."],
    ["runs", undefined],
  ]);
  const html = reportHtml(document);
  expect(html).toContain("<p>First <b>words</b>.</p>");
  expect(html).toContain("&#60;b&#62;Second");
  expect(html).toContain("As we &#60;see&#62; it.");
  expect(html).toContain("Table 1. Credibility, factor by factor");
  expect(html).toContain("Figure 1. Credibility, factor by factor");
  expect(html).not.toMatch(/<script|https?:\/\/(?!www\.w3\.org)|<a href="\//);
  expect(IssueInput.safeParse({ issuedBy: "H. M.", blocks: [] }).success).toBe(false);
});

test("the appendix has every setting and every hash; yardsticks are numbered where tables name them, and listed with their sources", async () => {
  const id = await settled("with an appendix", 46);
  const [q] = await listQuantities(opened.db, id);
  const typed = { validity: "", quantityKey: q.key, value: "46.1 N", uncertainty: "1 %", kind: "measured" as const };
  await createYardstick(opened, id, { ...typed, name: "Balance", source: "wind box, run 7" });
  await createYardstick(opened, id, { ...typed, name: "Second balance", source: "wind box, run 8" });
  const { document } = await readReport(opened, id, (await issueReport(opened, id, "H. M.")).number);
  const table = (key: string) => document.tables.find((t) => t.key === key);
  expect(table("settings-alike")?.rows).toEqual(expect.arrayContaining([["mesh.cells", "1000"]]));
  const [[, , settings, record]] = table("hashes")?.rows ?? [];
  expect([settings, record]).toEqual([document.runs[0].settingsHash, expect.stringMatching(/^[0-9a-f]{64}$/)]);
  expect(table("file-hashes")?.rows).toEqual([["fine", "h.csv", expect.stringMatching(/^[0-9a-f]{64}$/)]]);
  expect(document.sections.at(-1)).toMatchObject({
    title: "References",
    sentences: ["[1] Balance (measured): wind box, run 7.", "[2] Second balance (measured): wind box, run 8."],
  });
  expect(table("yardsticks")?.rows.map((r) => r[0])).toEqual(["Balance [1]", "Second balance [2]"]);
});

test("three roles sign one after the other under a report that never changes; a withdrawn one is signed no more", async () => {
  const id = await settled("signed", 42);
  const first = await issueReport(opened, id, "H. M.");
  const sign = (role: "prepared" | "checked" | "approved", by: string) => signReport(opened, id, 1, { role, by });
  await expect(sign("checked", "K. B.")).rejects.toThrow("It has to be prepared first.");
  await sign("prepared", "H. M.");
  await expect(sign("checked", "H.M.")).rejects.toMatchObject({ details: { by: expect.stringContaining("somebody else") } });
  await sign("checked", "K. B.");
  await sign("approved", "R. T.");
  const { row } = await readReport(opened, id, 1);
  expect(row.signOffs.map((s) => [s.role, s.by])).toEqual([
    ["prepared", "H. M."],
    ["checked", "K. B."],
    ["approved", "R. T."],
  ]);
  expect([row.document, row.pdf, row.archive]).toEqual([first.document, first.pdf, first.archive]);
  await issueReport(opened, id, "H. M.");
  expect(await standingOf(opened, row)).toMatchObject({ supersededBy: 2, withdrawn: null });
  await withdrawReport(opened, id, 2, { by: "R. T.", reason: "wrong mesh" });
  expect((await standingOf(opened, row)).supersededBy).toBeNull();
  await expect(signReport(opened, id, 2, { role: "prepared", by: "H. M." })).rejects.toThrow("was withdrawn");
  await expect(withdrawReport(opened, id, 2, { by: "K. B.", reason: "again" })).rejects.toThrow("withdrawn already");
  await expect(sign("prepared", "X.")).rejects.toThrow("prepared already");
  await expect(signReport(opened, id, 7, { role: "prepared", by: "X." })).rejects.toMatchObject({ code: "not-found" });
  expect(WithdrawInput.safeParse({ by: "R. T.", reason: " " }).success).toBe(false);
});

test("two signatures at once: one of them is kept, the other is told", async () => {
  const id = await settled("at once", 43);
  await issueReport(opened, id, "H. M.");
  const both = await Promise.allSettled(["H. M.", "K. B."].map((by) => signReport(opened, id, 1, { role: "prepared", by })));
  expect(both.map((b) => b.status).sort()).toEqual(["fulfilled", "rejected"]);
  expect((await readReport(opened, id, 1)).row.signOffs).toHaveLength(1);
});

test("two reports of a case that changed between them are told apart line by line", async () => {
  const id = await settled("compared", 44);
  await issueReport(opened, id, "H. M.");
  await issueReport(opened, id, "K. B.");
  expect((await compareReports(opened, id, 1, 2)).filter((d) => d.where !== "Credibility, factor by factor, People and process, because")).toEqual(
    [],
  );
  await bringSettled(opened, id, 45, { label: "finer", cells: 8000 });
  await issueReport(opened, id, "H. M.");
  const wheres = (await compareReports(opened, id, 1, 3)).map((d) => d.where);
  expect(wheres).toContain("settings of finer, c");
});

test("compositions are kept by name, replaced, and forgotten", async () => {
  const template = { name: "short", blocks: ["runs"], text: "w" };
  await keepTemplate(opened, template);
  await keepTemplate(opened, { ...template, blocks: ["runs", "findings"] });
  expect(await reportTemplates(opened)).toEqual([{ ...template, blocks: ["runs", "findings"] }]);
  await keepTemplate(opened, { ...template, blocks: [] });
  expect(await reportTemplates(opened)).toEqual([]);
});

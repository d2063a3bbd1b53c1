import { type Dependence, dependenceOf } from "../../core/assessment/dependence.ts";
import { plural } from "../../core/assessment/stages/part.ts";
import { setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import type { MeshSpec, Numerics } from "../../core/problems/describe/runSettings.ts";
import { FINISHED } from "../../core/records/run.ts";
import { inOne, type Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import type { RunRow } from "../repositories/runs.ts";
import type { CaseBook } from "./caseBook.ts";
import { type QuestionInput, readQuestion } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { insertPlanned, type PlannedRun, planRun, queue } from "./runs.ts";

/** Something that rests on the set-up, and who can make it anew. */
export interface Consequence {
  readonly what: "runs" | "verdicts" | "settlements" | "credibility" | "reports";
  readonly names: readonly string[];
  /** the bench makes it again, a person has to, it follows by itself, or it stays as it was issued */
  readonly anew: "bench" | "person" | "follows" | "stays";
  readonly sentence: string;
}

export interface Consequences {
  /** the set-up would be another one */
  readonly changes: boolean;
  readonly list: readonly Consequence[];
}

/** What would go stale if a question were saved as it stands; nothing is stored. */
export async function consequencesOf(opened: Store, caseId: string, input: QuestionInput): Promise<Consequences> {
  const book = await openCase(opened, caseId);
  const { setup } = await readQuestion(book.row, input);
  const [before, after] = [book.evidence.setupHash, hashOf(setupFingerprint(setup))];
  if (before === after) return { changes: false, list: [] };
  return { changes: true, list: staleWithout(book, before) };
}

/** Everything that speaks of a set-up and would be of an earlier one without it. */
function staleWithout({ runs, row, assessment, evidence, reports }: CaseBook, setupHash: string): Consequence[] {
  const current = runs.filter((r) => r.setupHash === setupHash && r.result);
  const ours = (origin: RunRow["origin"]) => current.filter((r) => r.origin === origin).map((r) => r.label);
  const [bench, brought] = [ours("bench"), ours("brought-in")];
  const verdicts = assessment.verdicts.flatMap((v) =>
    v.state === "none" || v.state === "stale" ? [] : [evidence.quantities.find((q) => q.key === v.quantityKey)?.name ?? v.quantityKey],
  );
  const settled = (row.setup.settlements ?? []).filter((s) => s.setupHash === setupHash).map((s) => s.source);
  const credible = (row.setup.credibility ?? []).filter((s) => s.setupHash === setupHash).map((s) => s.factor);
  const list: Consequence[] = [
    {
      what: "runs",
      names: bench,
      anew: "bench",
      sentence: `${plural(bench.length, "run")} of the bench will be of an earlier set-up; the bench can make them again.`,
    },
    {
      what: "runs",
      names: brought,
      anew: "person",
      sentence: `${plural(brought.length, "run")} of another code will be of an earlier set-up; a person has to make them again and bring them in.`,
    },
    {
      what: "verdicts",
      names: verdicts,
      anew: "follows",
      sentence: `${plural(verdicts.length, "verdict")} will be stale until then: ${verdicts.join(", ")}.`,
    },
    { what: "settlements", names: settled, anew: "person", sentence: `What was said of ${settled.join(", ")} has to be said again.` },
    { what: "credibility", names: credible, anew: "person", sentence: `What was said of credibility (${credible.join(", ")}) no longer counts.` },
    {
      what: "reports",
      names: reports.map((r) => `report ${r.number}`),
      anew: "stays",
      sentence: `${plural(reports.length, "issued report stays as it is and speaks", "issued reports stay as they are and speak")} of the set-up before.`,
    },
  ];
  return list.filter((c) => c.names.length);
}

export interface BroughtUp {
  readonly runs: readonly RunRow[];
  /** what a person has to do, in sentences */
  readonly byHand: readonly string[];
}

/** What lies behind the present set-up: the newest finished runs of each place of the set-up before. */
function behind({ runs, evidence }: CaseBook): RunRow[] {
  const old = runs.filter((r) => FINISHED.includes(r.state) && r.result && r.setupHash !== evidence.setupHash);
  const last = old.reduce<RunRow | undefined>((a, b) => (!a || (b.finishedAt ?? 0) >= (a.finishedAt ?? 0) ? b : a), undefined);
  const own = old.filter((r) => r.setupHash === last?.setupHash);
  const newest = new Map<string, RunRow>();
  for (const r of own) newest.set(placeOf(r), r);
  return [...newest.values()];
}

const placeOf = ({ settings: { mesh, numerics } }: RunRow): string => hashOf({ mesh, numerics });

/** Queues what the bench can make again with the present set-up, and says what a person must do. */
export async function bringUpToDate(opened: Store, caseId: string, wake = true): Promise<BroughtUp> {
  const book = await openCase(opened, caseId);
  const { row, evidence, assessment, runs } = book;
  const old = behind(book);
  const bench = old.filter((r) => r.origin === "bench" && "nx" in r.settings.mesh);
  // Settings hold the conditions: a run of the set-up before has others.
  const present = runs.filter((r) => r.state !== "failed" && r.state !== "diverged");
  const leading = bench.find((r) => r.id === assessment.ladder[0]) ?? bench[0];
  const planned: PlannedRun[] = [];
  for (const r of bench) {
    const numerics = leading ? differences(r.settings.numerics, leading.settings.numerics) : {};
    const plan = await planRun(row, r.settings.mesh as MeshSpec, { numerics, priority: r.priority });
    if (!present.some((p) => p.settingsHash === plan.run.settingsHash)) planned.push(plan);
  }
  const made = planned.length ? await inOne(opened, (tx) => insertPlanned(tx, planned)) : [];
  if (wake && made.length) await queue(made);
  const byHand = [
    ...old.filter((r) => r.origin === "brought-in").map((r) => `Make ${r.label} again with ${r.code} and bring it in.`),
    ...(row.setup.settlements ?? [])
      .filter((s) => s.setupHash !== evidence.setupHash)
      .map((s) => `Say again what holds for ${s.source}: ${s.reason} (${s.by}).`),
    ...(row.setup.credibility ?? [])
      .filter((s) => s.setupHash !== evidence.setupHash)
      .map((s) => `Say again what holds for the credibility factor ${s.factor}: ${s.reason} (${s.by}).`),
    ...(book.reports[0] && book.reports[0].evidenceHash !== book.evidenceHash
      ? [`Issue the report anew: report ${book.reports[0].number} rests on earlier evidence.`]
      : []),
  ];
  if (!made.length && !byHand.length) throw new UseCaseError("conflict", "Everything is up to date: nothing rests on an earlier set-up.");
  return { runs: made, byHand };
}

/** What a run was given that the leading one was not: kept with the present numerics. */
function differences(own: Numerics, leading: Numerics): Partial<Numerics> {
  const { stop: _stop, ...rest } = own;
  return Object.fromEntries(
    Object.entries(rest).filter(([key, v]) => JSON.stringify(v) !== JSON.stringify((leading as unknown as Record<string, unknown>)[key])),
  );
}

/** What rests on what in a case, from its files to its reports. */
export async function dependenceIn(opened: Store, caseId: string): Promise<Dependence> {
  const { evidence, assessment, runs, reports, evidenceHash } = await openCase(opened, caseId);
  const ladder = assessment.ladder.flatMap((id) => runs.find((r) => r.id === id) ?? []);
  const used = new Set(evidence.quantities.flatMap((q) => (assessment.comparison.values[q.key] ?? []).map((c) => c.yardstickKey)));
  return dependenceOf({
    runs: ladder.map((r) => ({
      id: r.id,
      label: `${r.label}, ${r.code}${r.build?.version ? ` ${r.build.version}` : ""}`,
      current: r.setupHash === evidence.setupHash,
      files: (r.settings.files ?? []).map((f) => f.name),
    })),
    yardsticks: evidence.yardsticks.filter((y) => used.has(y.key)).map(({ key, name }) => ({ key, name })),
    statements: (evidence.settlements ?? []).map((s) => ({
      label: `${s.source}, ${s.by}`,
      quantityKey: s.quantityKey,
      current: s.setupHash === evidence.setupHash,
    })),
    verdicts: assessment.verdicts.map((v) => ({
      quantityKey: v.quantityKey,
      name: evidence.quantities.find((q) => q.key === v.quantityKey)?.name ?? v.quantityKey,
      state: v.state,
      yardsticks: (assessment.comparison.values[v.quantityKey] ?? []).map((c) => c.yardstickKey),
    })),
    reports: reports.map((r) => ({ number: r.number, current: r.evidenceHash === evidenceHash })),
  });
}

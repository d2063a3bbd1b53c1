import { marginFor } from "@/core/assessment/registry";
import { STAGES, type Stage } from "@/core/assessment/results/stage";
import type { Store } from "@/server/db/store";
import { listCases } from "@/server/repositories/cases";
import { listFindings } from "@/server/repositories/findings";
import { type RunRow, runsInState } from "@/server/repositories/runs";
import type { CaseBook } from "@/server/usecases/evidence";
import type { Place } from "@/ui/shell/Keys";
import type { CaseView, RunView } from "@/ui/view";

function runView(r: RunRow, book: CaseBook): RunView {
  const mesh = book.meshes.find((m) => m.id === r.meshId);
  return {
    id: r.id,
    label: r.label,
    origin: r.origin,
    code: r.code,
    state: r.state,
    settings: r.settings,
    settingsHash: r.settingsHash,
    current: r.setupHash === book.evidence.setupHash,
    result: r.result,
    failure: r.failure,
    iterations: r.iterations,
    judging: r.judging,
    seconds: r.seconds,
    priority: r.priority,
    resumable: r.checkpoint !== null,
    createdAt: r.createdAt.toISOString(),
    cells: mesh?.cells ?? null,
    spacing: mesh?.spacing ?? null,
  };
}

/** A book as the plain data its stages show. */
export function toView(book: CaseBook, stage: Stage, quantityKey: string): CaseView {
  const { row, evidence, assessment } = book;
  return {
    id: row.id,
    title: row.title,
    purpose: row.purpose,
    setup: row.setup,
    evidence,
    assessment,
    runs: book.runs.map((r) => runView(r, book)),
    sweeps: book.sweeps.map((s) => ({
      id: s.id,
      label: s.label,
      axes: s.axes,
      runs: book.swept.filter((r) => r.sweepId === s.id).map((r) => runView(r, book)),
    })),
    meshes: book.meshes.map(({ id, label, spec, cells, spacing, dimension, quality }) => ({ id, label, spec, cells, spacing, dimension, quality })),
    findings: book.findings.map(({ id, title, what, cause, change, shownBy, curedBy }) => ({ id, title, what, cause, change, shownBy, curedBy })),
    reports: book.reports.map((r) => ({ number: r.number, issuedBy: r.issuedBy, issuedAt: r.issuedAt.toISOString() })),
    stage,
    quantityKey,
    margin: marginFor(stage, evidence, assessment, quantityKey) ?? null,
  };
}

/** Where the jump dialog can lead. */
export async function places(opened: Store, current?: { id: string; title: string }): Promise<Place[]> {
  const cases = await listCases(opened.db);
  return [
    ...(current ? STAGES.map((s) => ({ title: s[0].toUpperCase() + s.slice(1), hint: current.title, href: `/cases/${current.id}/${s}` })) : []),
    ...cases.map((c) => ({ title: c.title, hint: "case", href: `/cases/${c.id}/question` })),
    { title: "Board of cases", hint: "page", href: "/" },
    { title: "New case", hint: "page", href: "/new" },
    { title: "Bench", hint: "page", href: "/bench" },
    { title: "Findings", hint: "page", href: "/findings" },
    { title: "Method", hint: "page", href: "/method" },
  ];
}

/** Counts shown in the plate of every page. */
export async function plate(opened: Store) {
  const runs = await runsInState(opened.db, ["running", "waiting"]);
  const findings = await listFindings(opened.db);
  return {
    busy: { running: runs.filter((r) => r.state === "running").length, waiting: runs.filter((r) => r.state === "waiting").length },
    findings: findings.filter((f) => !f.curedBy).length,
  };
}

import { marginFor } from "@/core/assessment/registry";
import type { CaseAssessment } from "@/core/assessment/results/case";
import { STAGES, type Stage } from "@/core/assessment/results/stage";
import { thinned } from "@/core/numeric/thinned";
import type { RunResult } from "@/core/records/run";
import { sweepCurves } from "@/core/study/sweepCurves";
import type { Store } from "@/server/db/store";
import { countOpenFindings } from "@/server/repositories/findings";
import { countRuns, type RunRow } from "@/server/repositories/runs";
import type { CaseBook } from "@/server/usecases/caseBook";
import { spaceFileOf } from "@/server/usecases/spaceFiles";
import type { CaseAsking } from "@/ui/library/TakeAsYardstick";
import type { Place } from "@/ui/shell/place";
import { questionEntries } from "@/ui/stages/question/questionEntries";
import { type SentRuns, sendRuns } from "@/ui/stages/runs/sentRuns";
import type {
  BalanceView,
  CaseView,
  ComparisonView,
  FindingView,
  MeshesView,
  QuestionView,
  RefinementView,
  ReportStageView,
  RunLine,
  RunView,
  SettlingView,
  VerdictView,
  YardsticksView,
} from "@/ui/view";

function runLines(runs: readonly RunRow[], book: CaseBook): RunLine[] {
  const drops = new Map(book.assessment.settling.map((s) => [s.runId, s.smallestDrop]));
  return runs.map((r) => runLine(r, book, drops.get(r.id)));
}

function runLine(r: RunRow, book: CaseBook, drop: number | undefined): RunLine {
  const mesh = book.meshes.find((m) => m.id === r.meshId);
  return {
    id: r.id,
    label: r.label,
    origin: r.origin,
    code: r.code,
    build: r.build,
    state: r.state,
    current: r.setupHash === book.evidence.setupHash,
    finished: r.result !== null,
    drop: drop ?? null,
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

/** What all stages of a case show, and of the assessment the parts that are named. */
function viewOf<Part extends keyof CaseAssessment>(book: CaseBook, { stage, quantityKey }: Shown, parts: readonly Part[]): CaseView<Part> {
  const { row, assessment: a } = book;
  const { runs: _runs, swept: _swept, sweeps: _sweeps, ...evidence } = book.evidence;
  const { caseId, ladder, stale, verdicts, rules, stages } = a;
  const own = Object.fromEntries(parts.map((p) => [p, a[p]])) as Pick<CaseAssessment, Part>;
  return {
    id: row.id,
    title: row.title,
    purpose: row.purpose,
    setup: row.setup,
    evidence,
    assessment: { caseId, ladder, stale, verdicts, rules, stages, ...own } as CaseView<Part>["assessment"],
    runs: runLines(book.runs, book),
    stage,
    quantityKey,
    version: book.evidenceHash.slice(0, 16),
    margin: marginFor(stage, book.evidence, a, quantityKey) ?? null,
  };
}

interface Shown {
  readonly stage: Stage;
  readonly quantityKey: string;
}

/** Profiles of the run the case rests on. */
const finestProfiles = ({ runs, assessment }: CaseBook): RunResult["profiles"] =>
  runs.find((r) => r.id === assessment.ladder[0])?.result?.profiles ?? [];

/** Sweeps over one condition as curves. */
const sweptCurves = ({ evidence: { sweeps = [], quantities, formalOrder } }: CaseBook) => sweepCurves(sweeps, quantities, formalOrder);

/** digits of a hash that a page shows */
const SHOWN_DIGITS = 8;

/** Runs with all that was set for them. */
function runViews(runs: readonly RunRow[], lines: readonly RunLine[]): RunView[] {
  return runs.map((r, i) => ({
    ...lines[i],
    settings: r.settings,
    settingsHash: r.settingsHash.slice(0, SHOWN_DIGITS),
    quantities: r.result?.quantities ?? {},
    surface: r.result?.surface ?? null,
    space: spaceFileOf(r) !== undefined,
  }));
}

/** runs whose settling comes with the page */
const MOST_SETTLED = 12;

/** A finding with what the quantity it is about was before and is after. */
function findingView(f: CaseBook["findings"][number], book: CaseBook): FindingView {
  const { id, title, what, cause, change, shownBy, curedBy, causeKey, quantityKey, stage, severity, owner, test } = f;
  const times = { createdAt: f.createdAt.toISOString(), curedAt: f.curedAt?.toISOString() ?? null };
  const of = (runId: string | null) =>
    (quantityKey === null ? undefined : book.runs.find((r) => r.id === runId)?.result?.quantities[quantityKey]) ?? null;
  return {
    id,
    title,
    what,
    cause,
    change,
    shownBy,
    curedBy,
    causeKey,
    quantityKey,
    stage,
    severity,
    owner,
    test,
    ...times,
    before: of(shownBy),
    after: of(curedBy),
    space: [shownBy, curedBy].every((id) => book.runs.some((r) => r.id === id && spaceFileOf(r) !== undefined)),
  };
}

/** points of a curve that are enough to draw it */
const DRAWN = 400;

/** A curve as it is drawn: of very many points every so many. */
function drawn(p: RunResult["profiles"][number]): RunResult["profiles"][number] {
  const thin = <Axis extends { readonly values: readonly number[] }>(axis: Axis): Axis => ({ ...axis, values: thinned(axis.values, DRAWN) });
  return { ...p, abscissa: thin(p.abscissa), value: thin(p.value) };
}

/** What each stage is sent. */
export const VIEWS = {
  question: (book: CaseBook, at: Shown): QuestionView => {
    const view = viewOf(book, at, ["setup", "derived", "inputs"]);
    return { ...view, entries: questionEntries(view) };
  },
  yardsticks: (book: CaseBook, at: Shown): YardsticksView => ({
    ...viewOf(book, at, []),
    profiles: [...finestProfiles(book), ...sweptCurves(book).map((c) => c.profile)],
  }),
  meshes: (book: CaseBook, at: Shown): MeshesView => ({
    ...viewOf(book, at, ["meshes"]),
    judged: book.runs.flatMap((r) => (r.result?.quality ? [{ runId: r.id, label: r.label, quality: r.result.quality }] : [])),
    meshes: book.meshes.map(({ id, label, spec, cells, spacing, dimension, quality }) => ({ id, label, spec, cells, spacing, dimension, quality })),
  }),
  runs: (book: CaseBook, at: Shown): SentRuns => {
    const view = viewOf(book, at, ["comparison"]);
    const sweeps = book.sweeps.flatMap(({ id, label, axes }) => {
      const runs = book.swept.filter((r) => r.sweepId === id);
      // A set of brought-in runs that were all put back stays behind without any.
      if (!runs.length && axes.some((a) => a.broughtIn)) return [];
      return [{ id, label, axes, runs: runViews(runs, runLines(runs, book)) }];
    });
    return sendRuns({ ...view, runs: runViews(book.runs, view.runs), sweeps });
  },
  settling: (book: CaseBook, at: Shown): SettlingView => {
    const view = viewOf(book, at, ["settling"]);
    const all = book.assessment.settling;
    const settled = all.map(({ runId, label, state }) => ({ runId, label, state }));
    return { ...view, settled, assessment: { ...view.assessment, settling: all.slice(0, MOST_SETTLED) } };
  },
  balance: (book: CaseBook, at: Shown): BalanceView => {
    const view = viewOf(book, at, ["balance"]);
    const results = new Map(book.runs.map((r) => [r.id, r.result]));
    return {
      ...view,
      runs: view.runs.map((r) => ({ ...r, balance: results.get(r.id)?.balance ?? null, surface: results.get(r.id)?.surface ?? null })),
    };
  },
  refinement: (book: CaseBook, at: Shown): RefinementView => viewOf(book, at, ["refinement", "ladders", "curves", "comparison"]),
  comparison: (book: CaseBook, at: Shown): ComparisonView => {
    const compared = book.assessment.comparison.profiles;
    const keys = new Set(compared.map((p) => p.profileKey));
    const profilesOf = Object.fromEntries(
      [...new Set(compared.map((p) => p.runId))].map((id) => [
        id,
        (book.runs.find((r) => r.id === id)?.result?.profiles ?? []).filter((p) => keys.has(p.key)).map(drawn),
      ]),
    );
    // A sweep's curve goes by its own key where a run goes by its id.
    const curves = sweptCurves(book);
    const swept = Object.fromEntries(curves.map(({ id, profile }) => [id, [profile]]));
    const bandsOf = Object.fromEntries(curves.flatMap(({ leading, profile, band }) => (leading && band ? [[profile.key, band]] : [])));
    return { ...viewOf(book, at, ["comparison", "curves"]), profilesOf: { ...profilesOf, ...swept }, bandsOf };
  },
  verdict: (book: CaseBook, at: Shown): VerdictView => ({
    ...viewOf(book, at, ["comparison"]),
    findings: book.findings.map((f) => findingView(f, book)),
  }),
  report: (book: CaseBook, at: Shown): ReportStageView => ({
    ...viewOf(book, at, []),
    reports: book.reports.map((r) => ({
      number: r.number,
      issuedBy: r.issuedBy,
      issuedAt: r.issuedAt.toISOString(),
      signOffs: r.signOffs,
      withdrawn: r.withdrawn,
    })),
  }),
} satisfies Record<Stage, (book: CaseBook, at: Shown) => Omit<CaseView, "runs">>;

export type ViewOf<S extends Stage> = ReturnType<(typeof VIEWS)[S]>;

/** What a case asks the library for: its quantities, and the curves of the run it rests on. */
export const askingCase = (book: CaseBook): CaseAsking => ({
  id: book.row.id,
  title: book.row.title,
  quantities: book.evidence.quantities.map(({ key, name, unit }) => ({ key, name, unit })),
  curves: finestProfiles(book).map(({ key, name }) => ({ key, name })),
});

/** Where the jump dialog can lead besides the cases, whose names it asks for when it opens. */
export function places(current?: { id: string; title: string }): Place[] {
  return [
    ...(current ? STAGES.map((s) => ({ title: s[0].toUpperCase() + s.slice(1), hint: current.title, href: `/cases/${current.id}/${s}` })) : []),
    { title: "Board of cases", hint: "page", href: "/" },
    { title: "Programme", hint: "page", href: "/programme" },
    { title: "Matrix of cases", hint: "page", href: "/matrix" },
    { title: "Time line of changes", hint: "page", href: current ? `/time-line?case=${current.id}` : "/time-line" },
    { title: "Code versions", hint: "page", href: "/versions" },
    { title: "Quantities over all cases", hint: "page", href: "/quantities" },
    { title: "Library of solutions", hint: "page", href: "/library" },
    { title: "Evidence packs: check one, bring one in", hint: "page", href: "/packs" },
    { title: "New case", hint: "page", href: "/new" },
    { title: "Bench", hint: "page", href: "/bench" },
    { title: "Findings", hint: "page", href: "/findings" },
    { title: "Method", hint: "page", href: "/method" },
  ];
}

/** Counts shown in the plate of every page. */
export async function plate(opened: Store) {
  const { running = 0, waiting = 0 } = await countRuns(opened.db);
  return { busy: { running, waiting }, findings: await countOpenFindings(opened.db) };
}

import { z } from "zod";
import type { KeptRow } from "../../core/assessment/results/boardRow.ts";
import { codesInRounds, type RoundQuantity, type Rounds, roundSentence, roundsOf } from "../../core/study/rounds.ts";
import type { Store } from "../db/store.ts";
import { benchVersion } from "../method.ts";
import { currentProgramme } from "../repositories/programmes.ts";
import { findRun, type RunRow } from "../repositories/runs.ts";
import { boardOf } from "./board.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { CopyInput, copyRun, queue } from "./runs.ts";

export interface RoundsView {
  /** every code whose version is known, with how many versions it was run in */
  readonly codes: readonly { readonly code: string; readonly versions: number }[];
  readonly rounds?: Rounds;
  readonly sentence: string;
  /** version the bench would run now */
  readonly benchVersion: string;
  readonly waiting: number;
}

const quantitiesOf = ({ id, title, quantities, tried }: KeptRow): RoundQuantity[] =>
  quantities.flatMap((q) => {
    const own = tried.filter((t) => t.quantityKey === q.key);
    if (!own.length || !(q.scale > 0)) return [];
    const known = !q.open.length && q.numerical > 0;
    return [
      {
        caseId: id,
        title,
        quantityKey: q.key,
        name: q.name,
        unit: q.unit,
        scale: q.scale,
        ...(known ? { uncertainty: q.numerical } : {}),
        tried: own,
      },
    ];
  });

/** What moved between the versions of a code over the benchmarks of the open programme; of the code with most versions unless one is named. */
export async function roundsView(opened: Store, code?: string, waitMs?: number): Promise<RoundsView> {
  const programme = await currentProgramme(opened.db);
  if (!programme) return { codes: [], sentence: "No programme yet.", benchVersion: benchVersion(), waiting: 0 };
  const { kept, view } = await boardOf(opened, programme.id, waitMs);
  const quantities = kept.flatMap(quantitiesOf);
  const codes = codesInRounds(quantities);
  const chosen = code ?? codes[0]?.code;
  const rounds = chosen === undefined ? undefined : roundsOf(chosen, quantities);
  return {
    codes,
    ...(rounds ? { rounds } : {}),
    sentence: rounds ? roundSentence(rounds) : "No run says which version of its code made it.",
    benchVersion: benchVersion(),
    waiting: view.waiting.length,
  };
}

export const RoundInput = z.object({
  /** cases of the round; every bench case of the open programme unless given */
  cases: z.array(z.uuid()).max(500).optional(),
});

/**
 * Queues a round of the bench: for every bench case of the open programme whose leading run was made by another version, the same run once more by
 * this one. A case that has it already is left out.
 */
export async function startRound(opened: Store, input: z.infer<typeof RoundInput>, wake = true): Promise<{ runs: RunRow[]; had: number }> {
  const programme = await currentProgramme(opened.db);
  if (!programme) throw new UseCaseError("conflict", "There is no programme yet.");
  const { kept } = await boardOf(opened, programme.id, 20_000);
  const made: RunRow[] = [];
  let had = 0;
  for (const { id } of kept.filter((r) => r.codes.includes("bench") && (input.cases === undefined || input.cases.includes(r.id)))) {
    const book = await openCase(opened, id);
    const leading = book.runs.find((r) => r.id === book.assessment.ladder[0]);
    if (leading?.origin !== "bench" || leading.settings.problemId === null || book.assessment.stale) continue;
    const alike = book.runs.filter((r) => r.settingsHash === leading.settingsHash && r.build?.version === benchVersion() && !r.deletedAt);
    const waits = book.runs.filter((r) => r.settingsHash === leading.settingsHash && ["waiting", "running", "paused"].includes(r.state));
    if (alike.length || waits.length) had++;
    else made.push(await again(opened, leading));
  }
  if (wake && made.length) await queue(made);
  return { runs: made, had };
}

/** The same run once more. */
async function again(opened: Store, run: RunRow): Promise<RunRow> {
  const { mesh, numerics } = run.settings;
  if (!("nx" in mesh)) throw new UseCaseError("conflict", `${run.label} has no mesh of the bench.`);
  const { stop: _stop, ...rest } = numerics;
  return copyRun(
    opened,
    run.id,
    CopyInput.parse({ ...rest, nx: mesh.nx, ny: mesh.ny, ...(mesh.shape ? { shape: mesh.shape } : {}), priority: -2 }),
    false,
  );
}

/** How far the runs of a round are. */
export async function roundState(opened: Store, ids: readonly string[]): Promise<{ open: number; failed: string[] }> {
  const runs = await Promise.all(ids.map((id) => findRun(opened.db, id)));
  const open = runs.filter((r) => r && ["waiting", "running", "paused"].includes(r.state)).length;
  return { open, failed: runs.flatMap((r) => (r && ["failed", "diverged", "interrupted"].includes(r.state) ? [r.label] : [])) };
}

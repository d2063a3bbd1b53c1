import type { CaseAssessment } from "../../core/assessment/results/case.ts";
import { readAssessment } from "../../core/assessment/stored.ts";
import type { CaseEvidence } from "../../core/records/case.ts";
import type { Reference } from "../../core/records/reference.ts";
import type { Store } from "../db/store.ts";
import type { Assessed } from "../desk/caseTasks.ts";
import { desk } from "../desk/desk.ts";
import type { RecordSource } from "../desk/records.ts";
import { keptAssessment, saveAssessment } from "../repositories/findings.ts";
import { listHistories } from "../repositories/runs.ts";
import type { Answers } from "./evidenceOf.ts";
import { UseCaseError } from "./failure.ts";
import { recordSource } from "./histories.ts";
import { Kept } from "./kept.ts";

const MOST_SOLUTIONS = 2000;
const solutions = new Kept<readonly Reference[]>(MOST_SOLUTIONS);

/** Exact solutions, each worked out once on the desk. */
export const keptAnswers: Answers = {
  yardsticks: (input) => solutions.get(JSON.stringify(input), () => desk().ask("yardsticks", input)),
  fromLibrary: (input) => solutions.get(JSON.stringify(input), () => desk().ask("fromLibrary", input)),
};

/** an assessment that took too long or too much is not tried again for this long */
const REST_MS = 600_000;

/** assessments being worked out, and those that were ended, by the hash of what they rest on */
const underWay = new Map<string, Promise<Omit<Assessed, "written">>>();
const ended = new Map<string, { readonly error: UseCaseError; readonly at: number }>();

interface ToAssess {
  readonly evidence: CaseEvidence;
  readonly evidenceHash: string;
  readonly title: string;
}

const MOST_ASSESSMENTS = 12;
const held = globalThis as unknown as { tinRulerAssessments?: Kept<CaseAssessment> };

/** Assessments that were read or worked out last, by the hash of what they rest on: a finding or a report changes none, and reading one takes a while. */
export function assessments(): Kept<CaseAssessment> {
  held.tinRulerAssessments ??= new Kept<CaseAssessment>(MOST_ASSESSMENTS);
  return held.tinRulerAssessments;
}

/** The assessment of a case: the one that was kept, else worked out on the desk, once for all who ask. */
export async function assessed(store: Store, of: ToAssess): Promise<Omit<Assessed, "written">> {
  const { evidenceHash, evidence } = of;
  const known = assessments().find(evidenceHash) ?? readAssessment(await keptAssessment(store.db, evidence.caseId, evidenceHash));
  if (known) {
    assessments().keep(evidenceHash, known);
    return { assessment: known, damaged: [] };
  }
  const before = ended.get(evidenceHash);
  if (before && Date.now() - before.at < REST_MS) throw before.error;
  const running = underWay.get(evidenceHash) ?? workOut(store, of).finally(() => underWay.delete(evidenceHash));
  underWay.set(evidenceHash, running);
  return running;
}

async function workOut(store: Store, { evidence, evidenceHash, title }: ToAssess): Promise<Omit<Assessed, "written">> {
  const records = await recordsOf(
    store,
    evidence.runs.filter((r) => r.result).map((r) => r.id),
  );
  const { written, ...found } = await desk()
    .ask("assess", { blobs: store.blobs.folder, evidence, records })
    .catch((error) => {
      if (error instanceof UseCaseError && error.code === "invalid") ended.set(evidenceHash, { error, at: Date.now() });
      throw error;
    });
  // What rests on half the evidence is not kept: the other half may be brought back.
  if (!found.damaged.length) {
    assessments().keep(evidenceHash, found.assessment);
    await saveAssessment(store.db, evidence.caseId, evidenceHash, written).catch((error: Error) => {
      // A full disk keeps nobody from reading: it is worked out again next time.
      console.error(`The assessment of ${title} could not be kept: ${error.message}`);
    });
  }
  return found;
}

/** Where the records of runs are, by run; those that have none are left out. */
export async function recordsOf(store: Store, ids: readonly string[]): Promise<Record<string, RecordSource>> {
  const stored = new Map((await listHistories(store.db, ids)).map(({ runId, ...stored }) => [runId, stored]));
  const found: Record<string, RecordSource> = {};
  for (const id of ids) {
    const kept = stored.get(id);
    const source = kept ? { stored: kept } : await recordSource(store, id);
    if (source) found[id] = source;
  }
  return found;
}

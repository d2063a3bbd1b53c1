import { assessCase } from "../../core/assessment/assessCase.ts";
import type { CaseAssessment } from "../../core/assessment/results/case.ts";
import { writeAssessment } from "../../core/assessment/stored.ts";
import { answering, type Varied } from "../../core/exact/answering.ts";
import type { Conditions } from "../../core/exact/fitting.ts";
import { type Asked, libraryYardstick } from "../../core/exact/libraryYardstick.ts";
import { type MeshQuality, meshQuality } from "../../core/mesh/quality.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import type { MeshSpec } from "../../core/problems/describe/runSettings.ts";
import type { CaseEvidence } from "../../core/records/case.ts";
import type { Reference } from "../../core/records/reference.ts";
import type { RunEvidence } from "../../core/records/run.ts";
import { BlobError } from "../blobs/blobStore.ts";
import { isResult } from "../jobs/messageShape.ts";
import { type RecordSource, readRecord } from "./records.ts";

export interface ExactInput {
  readonly problemId: string;
  readonly parameters: Readonly<Record<string, number>>;
  readonly formulas: Readonly<Record<string, string>>;
  /** parameters that are uncertain, to either side: what the yardsticks make of them is told as well */
  readonly varied?: readonly Varied<Readonly<Record<string, number>>>[];
}

/** Yardsticks a bench problem knows by itself. @throws {RangeError} its exact solution does not exist there */
export function yardsticks({ problemId, parameters, formulas, varied = [] }: ExactInput): readonly Reference[] {
  const problem = benchProblem(problemId);
  return answering(problem.yardsticks(parameters, formulas), varied, (p) => problem.yardsticks(p, formulas));
}

export interface LibraryInput {
  readonly yardsticks: readonly Reference[];
  readonly conditions: Conditions;
  readonly quantities: readonly Asked[];
  /** the same for conditions that are uncertain, to either side */
  readonly varied?: readonly Varied<Conditions>[];
}

/** Yardsticks taken from the library, worked out at what their case says now. */
export function fromLibrary({ yardsticks, conditions, quantities, varied = [] }: LibraryInput): readonly Reference[] {
  const at = (c: Conditions) => yardsticks.map((y) => (y.made ? libraryYardstick({ ...y, made: y.made }, c, quantities) : y));
  return answering(at(conditions), varied, at);
}

export interface PlanInput extends ExactInput {
  readonly mesh: MeshSpec;
}

/** What the mesh of a run will be like. @throws {RangeError} it cannot be made, or the set-up has no answer and would wait in the queue for nothing */
export function planMesh({ problemId, parameters, formulas, mesh }: PlanInput): MeshQuality {
  const problem = benchProblem(problemId);
  const quality = problem.quickQuality?.(parameters, mesh) ?? meshQuality(problem.mesh(parameters, mesh));
  problem.yardsticks(parameters, formulas);
  return quality;
}

export interface AssessInput {
  /** folder of the blobs */
  readonly blobs: string;
  /** without the records of its runs */
  readonly evidence: CaseEvidence;
  /** where the records are, by run */
  readonly records: Readonly<Record<string, RecordSource>>;
}

export interface Assessed {
  readonly assessment: CaseAssessment;
  /** the same as it is kept */
  readonly written: unknown;
  /** what is stored and cannot be read, in sentences */
  readonly damaged: readonly string[];
}

/** Reads the records of a case and assesses it; what cannot be read is named, and the rest goes on without. */
export async function assess({ blobs, evidence, records }: AssessInput): Promise<Assessed> {
  const damaged: string[] = [];
  const load = async (r: RunEvidence) => {
    const source = records[r.id];
    try {
      return source ? { ...r, history: await readRecord(blobs, source) } : r;
    } catch (error) {
      if (!(error instanceof BlobError)) throw error;
      damaged.push(`The record of ${r.label} cannot be read. ${error.message}`);
      return r;
    }
  };
  const sound = assessSound({ ...evidence, runs: await Promise.all(evidence.runs.map(load)) });
  return { assessment: sound.assessment, written: writeAssessment(sound.assessment), damaged: [...damaged, ...sound.damaged] };
}

/** Assesses a case; runs whose stored result is none are named and left out, where that is what stands in the way. */
function assessSound(e: CaseEvidence): { assessment: CaseAssessment; damaged: string[] } {
  try {
    return { assessment: assessCase(e), damaged: [] };
  } catch (error) {
    const broken = e.runs.filter((r) => r.result && !isResult(r.result));
    if (!broken.length) throw error;
    const runs = e.runs.map((r) => (broken.includes(r) ? { ...r, result: undefined, history: undefined } : r));
    return {
      assessment: assessCase({ ...e, runs }),
      damaged: broken.map((r) => `The stored result of ${r.label} is none; run it again or delete it.`),
    };
  }
}

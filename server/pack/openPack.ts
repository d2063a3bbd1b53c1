import { randomUUID } from "node:crypto";
import { hashBytes } from "../hash.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { MANIFEST } from "./manifest.ts";
import { namedBytes } from "./namedBytes.ts";
import type { PackedLine } from "./packedLine.ts";
import { readPack, unpacked } from "./readPack.ts";
import { Stored } from "./stored.ts";

/** A pack taken apart for another data folder. */
export interface OpenedPack {
  readonly stored: Stored;
  readonly evidenceHash: string;
  /** everything that is named by hash, and the report's data */
  readonly blobs: readonly Uint8Array[];
  readonly document: Uint8Array;
  readonly pdf: Uint8Array;
  readonly line: PackedLine;
  readonly manifest: string;
}

/**
 * Takes a pack apart.
 * @param copy all that is stored gets names of its own, so that it stands beside what has them already
 * @throws {UseCaseError} it is no pack
 */
export function openPack({ bytes, copy }: { readonly bytes: Uint8Array; readonly copy: boolean }): OpenedPack {
  const files = unpacked(bytes);
  const { stored, document, line } = readPack(files);
  const stray = strayRow(stored);
  if (stray) throw new UseCaseError("invalid", `inputs.json is not that of one report: ${stray}.`);
  return {
    stored: copy ? renamed(stored) : stored,
    evidenceHash: document.evidenceHash,
    blobs: namedBytes(files, stored),
    document: new TextEncoder().encode(JSON.stringify(document)),
    pdf: files["report.pdf"] ?? new Uint8Array(),
    line,
    manifest: hashBytes(files[MANIFEST]),
  };
}

/** What belongs to nothing in the pack, in words: a row that is brought in must not reach into what is here. */
function strayRow(s: Stored): string | undefined {
  const ids = (rows: readonly { readonly id: string }[]) => new Set(rows.map((r) => r.id));
  const [cases, runs, meshes, sweeps, programmes] = [ids(s.cases), ids(s.runs), ids(s.meshes), ids(s.sweeps), ids(s.programmes)];
  const within = (known: ReadonlySet<string>, id: string | null) => id === null || known.has(id);
  const ofCases = { quantities: s.quantities, yardsticks: s.yardsticks, meshes: s.meshes, runs: s.runs, sweeps: s.sweeps, findings: s.findings };
  const stray = Object.entries(ofCases).find(([, rows]) => rows.some((r) => !cases.has(r.caseId)));
  if (stray) return `one of its ${stray[0]} is of a case that is not in it`;
  if (s.cases.some((c) => !programmes.has(c.programmeId))) return "a case is of a programme that is not in it";
  if (s.runs.some((r) => !within(meshes, r.meshId) || !within(sweeps, r.sweepId))) return "a run is of a mesh or a sweep that is not in it";
  if ([...s.histories, ...s.fields].some((r) => !runs.has(r.runId))) return "a record or a field is of a run that is not in it";
  return undefined;
}

/** The same with new names for everything but programmes. */
function renamed(stored: Stored): Stored {
  const { cases, quantities, yardsticks, meshes, runs, sweeps, findings, reports, fields } = stored;
  const names = new Map(
    [...cases, ...quantities, ...yardsticks, ...meshes, ...runs, ...sweeps, ...findings, ...reports, ...fields].map((r) => [r.id, randomUUID()]),
  );
  const text = JSON.stringify(stored).replace(/[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, (id) => names.get(id) ?? id);
  const copied = Stored.parse(JSON.parse(text));
  return { ...copied, cases: copied.cases.map((c) => ({ ...c, title: `${c.title}, copy` })) };
}

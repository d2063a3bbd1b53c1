import { z } from "zod";
import { FINISHED } from "../../core/records/run.ts";
import { inOne, type Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import type { Told } from "../desk/told.ts";
import type { PackCheck } from "../pack/assessPack.ts";
import type { OpenedPack } from "../pack/openPack.ts";
import { MOST_PACK } from "../pack/readPack.ts";
import type { Stored } from "../pack/stored.ts";
import { insertReport } from "../repositories/findings.ts";
import { casesHere, insertEarlierLine, insertPacked } from "../repositories/packs.ts";
import { findProgramme, reviveProgrammeOf } from "../repositories/programmes.ts";
import { listSettings } from "../repositories/runs.ts";
import { keptAnswers } from "./assessed.ts";
import { evidenceOf } from "./evidenceOf.ts";
import { UseCaseError } from "./failure.ts";
import { precisionOf, statePrecision } from "./sources.ts";
import { UnderWay } from "./underWay.ts";

export const PackInput = z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/, "Choose the file again.") });
export const BringPackInput = PackInput.extend({
  /** as: under the names it has, or as a copy beside what has them already */
  as: z.enum(["itself", "copy"]),
});

/** How a case of a pack stands to what is here. */
export type Here = "not here" | "here" | "deleted here";

export interface PackView {
  readonly check: PackCheck;
  readonly cases: readonly { readonly id: string; readonly title: string; readonly here: Here }[];
  readonly programmes: readonly { readonly name: string; readonly here: boolean }[];
  /** what is otherwise here and would be left as it is, in sentences */
  readonly notes: readonly string[];
}

const checking = new UnderWay("check of a pack");

/** How far the check of a pack is; nothing where none is under way. */
export const packUnderWay = (hash: string): Told | undefined => checking.told(hash);

export const giveUpPack = (hash: string): void => checking.giveUp(hash);

/** The bytes of an uploaded pack. @throws {UseCaseError} they are not there, or too many */
async function bytesOf(opened: Store, hash: string): Promise<Uint8Array> {
  const bytes = await opened.blobs.get(hash).catch(() => {
    throw new UseCaseError("not-found", "The pack is not there any more; choose the file again.");
  });
  if (bytes.byteLength > MOST_PACK) throw new UseCaseError("invalid", `A pack may have ${MOST_PACK / 1024 / 1024} MB at most.`);
  return bytes;
}

/** Checks an uploaded pack by making it again, and says what of it is here already. Nothing is stored. */
export async function checkPack(opened: Store, { hash }: z.infer<typeof PackInput>): Promise<PackView> {
  const bytes = await bytesOf(opened, hash);
  return checking.follow(hash, "Unpacking", async (asking) => {
    const check = await desk().ask("checkPack", { bytes }, asking);
    const { stored } = await desk().ask("openPack", { bytes, copy: false });
    return { check, ...(await standing(opened, stored)) };
  });
}

async function standing(opened: Store, stored: Stored): Promise<Omit<PackView, "check">> {
  const here = await casesHere(
    opened.db,
    stored.cases.map((c) => c.id),
  );
  const programmes = await Promise.all(
    stored.programmes.map(async (p) => ({ name: p.name, here: (await findProgramme(opened.db, p.id)) !== undefined })),
  );
  return {
    cases: stored.cases.map(({ id, title }) => {
      const row = here.find((c) => c.id === id);
      return { id, title, here: row ? (row.deletedAt ? "deleted here" : "here") : "not here" };
    }),
    programmes,
    notes: await notesOn(opened, stored),
  };
}

/** What is otherwise here than in the pack, and stays so. */
async function notesOn(opened: Store, stored: Stored): Promise<string[]> {
  const precision = precisionOf(await listSettings(opened.db));
  const others = Object.entries(stored.precision).filter(([code, p]) => precision[code] && precision[code] !== p);
  const earlier = stored.reports.map((r) => r.number).sort((a, b) => a - b);
  return [
    ...others.map(([code, p]) => `${code} works in ${p} precision in the pack and in ${precision[code]} precision here; what is said here stands.`),
    ...(earlier.length
      ? [
          `Report${earlier.length > 1 ? "s" : ""} ${earlier.join(", ")} of the case ${earlier.length > 1 ? "were" : "was"} issued before this one and ${earlier.length > 1 ? "are" : "is"} not in the pack.`,
        ]
      : []),
  ];
}

/** Brings the cases of a pack in, with their runs, their report and what was done to them: all of it or nothing. @throws {UseCaseError} one has a name that is taken */
export async function bringPack(opened: Store, { hash, as }: z.infer<typeof BringPackInput>): Promise<{ id: string }> {
  const bytes = await bytesOf(opened, hash);
  const pack = await desk().ask("openPack", { bytes, copy: as === "copy" });
  const taken = await casesHere(
    opened.db,
    pack.stored.cases.map((c) => c.id),
  );
  if (taken.length)
    throw new UseCaseError(
      "conflict",
      `${taken.map((c) => `"${c.title}"`).join(" and ")} ${taken.length > 1 ? "are" : "is"} here already${taken.some((c) => c.deletedAt) ? ", deleted" : ""}. Bring the pack in as a copy, or leave it.`,
    );
  await isSound(pack.stored);
  for (const blob of pack.blobs) await opened.blobs.put(blob);
  const [document, pdf] = [await opened.blobs.put(pack.document), await opened.blobs.put(pack.pdf)];
  const [lead] = pack.stored.cases;
  const bring = inOne(opened, async (tx) => {
    await insertPacked(tx.db, ended(pack.stored));
    await reviveProgrammeOf(tx.db, lead.id);
    const { number, issuedBy, issuedAt } = pack.stored.report;
    await insertReport(tx.db, { caseId: lead.id, number, issuedBy, issuedAt, evidenceHash: pack.evidenceHash, document, pdf, archive: hash });
    await keepLine(tx, pack);
    await keepPrecision(tx, pack.stored);
  });
  await bring.catch((error: unknown) => {
    if (isTaken(error))
      throw new UseCaseError(
        "conflict",
        "Something in the pack has a name that is taken here by another case. Bring the pack in as a copy, or leave it.",
      );
    throw error;
  });
  return { id: lead.id };
}

/** What cannot be opened here is not brought in. @throws {UseCaseError} naming the case */
async function isSound(stored: Stored): Promise<void> {
  for (const row of stored.cases)
    await evidenceOf({ row, rows: stored, precision: stored.precision, answers: keptAnswers }).catch((error: Error) => {
      throw new UseCaseError("invalid", `"${row.title}" cannot be opened here, and nothing was brought in: ${error.message}`);
    });
}

/** Whether the database refused a name that is there already, however deep it says so. */
const isTaken = (error: unknown): boolean => error instanceof Error && ((error as { code?: unknown }).code === "23505" || isTaken(error.cause));

/** Runs that had not ended when they were packed do not go on here; findings forget runs that were deleted before. */
function ended(stored: Stored): Stored {
  const runs = new Set(stored.runs.map((r) => r.id));
  const known = (id: string | null) => (id !== null && runs.has(id) ? id : null);
  return {
    ...stored,
    runs: stored.runs.map((r) => ({
      ...r,
      checkpoint: null,
      leasedBy: null,
      leaseUntil: null,
      ...(FINISHED.includes(r.state) || r.state === "diverged" || r.state === "failed"
        ? {}
        : { state: "failed" as const, failure: "It had not ended when it was packed." }),
    })),
    findings: stored.findings.map((f) => ({ ...f, shownBy: known(f.shownBy), curedBy: known(f.curedBy) })),
  };
}

async function keepLine(tx: Store, { stored, line, manifest }: OpenedPack): Promise<void> {
  for (const { id } of stored.cases) if (line.length) await insertEarlierLine(tx.db, { caseId: id, manifest, entries: line });
}

async function keepPrecision(tx: Store, stored: Stored): Promise<void> {
  const known = precisionOf(await listSettings(tx.db));
  for (const [code, precision] of Object.entries(stored.precision)) if (!known[code]) await statePrecision(tx, { code, precision });
}

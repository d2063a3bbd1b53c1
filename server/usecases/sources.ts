import { z } from "zod";
import { SOURCE_KEYS } from "../../core/assessment/budget/registry.ts";
import { setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import { SETTLEMENT_KINDS, type Settlement } from "../../core/records/settlement.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { type CaseRow, findCase, listQuantities, updateCase } from "../repositories/cases.ts";
import { writeSetting } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";

export const SettlementInput = z.object({
  source: z.enum(SOURCE_KEYS),
  /** null: said of every quantity of the case */
  quantityKey: z.string().max(40).nullable(),
  kind: z.enum(SETTLEMENT_KINDS),
  /** share of the quantity at 95 %, such as "0.5 %" */
  value: typed,
  reason: z.string().trim().min(1, "Say why.").max(600),
  /** where it is written down */
  link: z.string().trim().max(400).optional(),
  by: z.string().trim().min(1, "Sign it; initials are enough.").max(40),
});

async function caseOf(opened: Store, caseId: string): Promise<CaseRow> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  return row;
}

/** Keeps what a person says of an error source that no run shows: signed, dated, of the present set-up. */
export async function settleSource(opened: Store, caseId: string, input: z.infer<typeof SettlementInput>, at = new Date()): Promise<void> {
  const row = await caseOf(opened, caseId);
  if (input.quantityKey !== null && !(await listQuantities(opened.db, caseId)).some((q) => q.key === input.quantityKey))
    throw new UseCaseError("invalid", "There is no such quantity.");
  const reader = new Reader();
  const relative = input.kind === "not-applicable" ? undefined : reader.required("value", input.value, "", 0, 10);
  if (input.kind === "measured" && !input.link)
    reader.mistakes.link = "Say where the measurement is written down: a document, a run elsewhere, an address.";
  reader.done();
  const { value: _value, link, ...said } = input;
  const settlement: Settlement = {
    ...said,
    ...(link ? { link } : {}),
    ...(relative === undefined ? {} : { relative }),
    at: at.toISOString(),
    setupHash: hashOf(setupFingerprint(row.setup)),
  };
  await updateCase(opened.db, caseId, { setup: { ...row.setup, settlements: [...others(row, input.source, input.quantityKey), settlement] } });
}

const others = (row: CaseRow, source: string, quantityKey: string | null) =>
  (row.setup.settlements ?? []).filter((s) => s.source !== source || s.quantityKey !== quantityKey);

/** Takes back what was said of a source, of one quantity and of all. */
export async function withdrawSettlement(opened: Store, caseId: string, source: string, quantityKey: string): Promise<void> {
  const row = await caseOf(opened, caseId);
  const kept = (row.setup.settlements ?? []).filter((s) => s.source !== source || (s.quantityKey !== null && s.quantityKey !== quantityKey));
  await updateCase(opened.db, caseId, { setup: { ...row.setup, settlements: kept } });
}

export const PrecisionInput = z.object({ code: z.string().trim().min(1).max(80), precision: z.enum(["single", "double", "unknown"]) });

const PREFIX = "precision:";

/** Keeps which precision a code works in; asked once, it holds for every case. */
export async function statePrecision(opened: Store, input: z.infer<typeof PrecisionInput>): Promise<void> {
  await writeSetting(opened.db, `${PREFIX}${input.code}`, input.precision);
}

/** Precision of the codes it was stated of. */
export function precisionOf(settings: readonly { key: string; value: number | string }[]): Record<string, "single" | "double"> {
  return Object.fromEntries(
    settings.flatMap(({ key, value }) =>
      key.startsWith(PREFIX) && (value === "single" || value === "double") ? [[key.slice(PREFIX.length), value]] : [],
    ),
  );
}

import { and, asc, eq, isNull } from "drizzle-orm";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { Reference } from "../../core/records/reference.ts";
import type { QuantityKind } from "../../core/units/quantityKind.ts";
import { caseTable, quantity, yardstick } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

export type CaseRow = typeof caseTable.$inferSelect;

export async function listCases(db: Db): Promise<CaseRow[]> {
  return db.select().from(caseTable).where(isNull(caseTable.deletedAt)).orderBy(asc(caseTable.createdAt));
}

export async function findCase(db: Db, id: string): Promise<CaseRow | undefined> {
  return (
    await db
      .select()
      .from(caseTable)
      .where(and(eq(caseTable.id, id), isNull(caseTable.deletedAt)))
  )[0];
}

export async function insertCase(
  db: Db,
  row: Pick<CaseRow, "programmeId" | "title" | "kind" | "purpose" | "setup"> & Partial<Pick<CaseRow, "createdAt" | "level" | "tags">>,
  quantities: readonly QuantitySpec[],
): Promise<CaseRow> {
  return db.transaction(async (tx) => {
    const [made] = await tx.insert(caseTable).values(row).returning();
    if (quantities.length) await tx.insert(quantity).values(quantities.map((q, position) => quantityRow(made.id, q, position)));
    return made;
  });
}

export async function updateCase(db: Db, id: string, change: Partial<Pick<CaseRow, "title" | "purpose" | "setup" | "deletedAt">>): Promise<void> {
  await db.update(caseTable).set(change).where(eq(caseTable.id, id));
}

/** A quantity as assessments read it. */
export const quantitySpec = ({ key, name, symbol, unit, limit, derivative, kind }: typeof quantity.$inferSelect): QuantitySpec => ({
  key,
  name,
  symbol,
  unit,
  limit,
  derivative,
  ...(kind === "plain" ? {} : { kind }),
});

export async function listQuantities(db: Db, caseId: string): Promise<QuantitySpec[]> {
  const rows = await db
    .select()
    .from(quantity)
    .where(and(eq(quantity.caseId, caseId), isNull(quantity.deletedAt)))
    .orderBy(asc(quantity.position));
  return rows.map(quantitySpec);
}

export async function setLimit(db: Db, caseId: string, key: string, limit: number): Promise<void> {
  await db
    .update(quantity)
    .set({ limit })
    .where(and(eq(quantity.caseId, caseId), eq(quantity.key, key)));
}

/** Takes a quantity off a case, or takes that back. */
export async function markQuantity(db: Db, caseId: string, key: string, deletedAt: Date | null): Promise<void> {
  await db
    .update(quantity)
    .set({ deletedAt })
    .where(and(eq(quantity.caseId, caseId), eq(quantity.key, key)));
}

/** Keys a case has or ever had. */
export async function quantityKeys(db: Db, caseId: string): Promise<string[]> {
  return (await db.select({ key: quantity.key }).from(quantity).where(eq(quantity.caseId, caseId))).map((q) => q.key);
}

/** A quantity as it is stored, at its place among those of its case. */
const quantityRow = (caseId: string, q: QuantitySpec, position: number): typeof quantity.$inferInsert => ({
  caseId,
  position,
  key: q.key,
  name: q.name,
  symbol: q.symbol,
  unit: q.unit,
  limit: q.limit,
  derivative: q.derivative ?? false,
  kind: q.kind ?? "plain",
});

export async function addQuantity(db: Db, caseId: string, q: QuantitySpec, position: number): Promise<void> {
  await db.insert(quantity).values(quantityRow(caseId, q, position));
}

/** States what a quantity is. */
export async function setKind(db: Db, caseId: string, key: string, kind: QuantityKind): Promise<void> {
  await db
    .update(quantity)
    .set({ kind })
    .where(and(eq(quantity.caseId, caseId), eq(quantity.key, key)));
}

export async function insertYardstick(db: Db, caseId: string, data: Reference): Promise<void> {
  await db.insert(yardstick).values({ caseId, data });
}

/** A yardstick of a person's; undefined where there is none, or it was deleted. */
export async function findYardstick(db: Db, id: string): Promise<{ caseId: string; data: Reference } | undefined> {
  const [row] = await db
    .select({ caseId: yardstick.caseId, data: yardstick.data })
    .from(yardstick)
    .where(and(eq(yardstick.id, id), isNull(yardstick.deletedAt)));
  return row;
}

export async function updateYardstick(db: Db, id: string, data: Reference): Promise<void> {
  await db.update(yardstick).set({ data }).where(eq(yardstick.id, id));
}

/** Marks a typed yardstick as deleted, or takes that back. */
export async function markYardstick(db: Db, id: string, deletedAt: Date | null): Promise<void> {
  await db.update(yardstick).set({ deletedAt }).where(eq(yardstick.id, id));
}

export async function listYardsticks(db: Db, caseId: string): Promise<Reference[]> {
  const rows = await db
    .select({ data: yardstick.data })
    .from(yardstick)
    .where(and(eq(yardstick.caseId, caseId), isNull(yardstick.deletedAt)))
    .orderBy(asc(yardstick.createdAt));
  return rows.map((r) => r.data);
}

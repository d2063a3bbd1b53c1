import { mkdir, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { sql } from "drizzle-orm";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { BlobStore } from "../blobs/blobStore.ts";
import { aloneInProcess } from "../db/alone.ts";
import * as schema from "../db/schema.ts";
import type { Db, Store } from "../db/store.ts";
import type { NewCaseInput, QuestionInput } from "./cases.ts";

const held = globalThis as unknown as { testDatabase?: Promise<Db>; tinRulerStore?: unknown; tinRulerBench?: unknown; tinRulerFollower?: unknown };

async function migrated(): Promise<Db> {
  const db = drizzle(await PGlite.create(), { schema });
  await migrate(db, { migrationsFolder: "server/db/migrations" });
  return db as unknown as Db;
}

/** The embedded database of this process, in memory and empty: starting one takes seconds, so all files of tests have theirs in turn. */
async function emptyDatabase(): Promise<Db> {
  held.testDatabase ??= migrated();
  const db = await held.testDatabase;
  const named = await db.execute(sql`select quote_ident(tablename) as name from pg_tables where schemaname = 'public'`);
  const names = (named as unknown as { rows: { name: string }[] }).rows.map((r) => r.name);
  await db.execute(sql.raw(`truncate ${names.join(", ")} restart identity cascade`));
  return db;
}

/** A store of its own for one file of tests: an empty database, and a folder for its blobs and whatever else. */
export async function temporaryStore(name: string): Promise<{ store: Store; root: string; close: () => Promise<void> }> {
  const root = await mkdtemp(path.join(tmpdir(), `tin-ruler-${name}-`));
  const folder = path.join(root, "data");
  await mkdir(folder);
  const store: Store = {
    db: await emptyDatabase(),
    blobs: new BlobStore(path.join(folder, "blobs")),
    folder,
    alone: aloneInProcess(),
    intact: async () => true,
    close: async () => {},
  };
  return { store, root, close: () => rm(root, { recursive: true, force: true }) };
}

/** Lets what asks for the store, the bench or the follower of this process have these, until the answer is called. */
export function standIn(store: Store, { bench, follower }: { bench?: object; follower?: object } = {}): () => void {
  const before = { ...held };
  Object.assign(held, { tinRulerStore: Promise.resolve(store), tinRulerBench: bench, tinRulerFollower: follower });
  return () =>
    Object.assign(held, { tinRulerStore: before.tinRulerStore, tinRulerBench: before.tinRulerBench, tinRulerFollower: before.tinRulerFollower });
}

export const FOREIGN_PARAMETERS = { velocityMS: "2 m/s", lengthM: "50 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "0.0174 cP" };

/** What the pages send for a case of another code. */
export const newCase = (change: Partial<NewCaseInput> = {}): NewCaseInput => ({
  title: "Curtain",
  purpose: "",
  problemId: null,
  fluidName: "air",
  temperature: "4 °C",
  pressure: "1.01325 bar",
  quantityName: "drag",
  quantityUnit: "N",
  parameters: FOREIGN_PARAMETERS,
  ...change,
});

export const questionOf = (change: Partial<QuestionInput> = {}): QuestionInput => ({
  title: "Curtain",
  purpose: "",
  fluidName: "air",
  temperature: "4 °C",
  pressure: "1.01325 bar",
  reynolds: "",
  kinematicViscosity: "",
  dropOrders: "6",
  limits: {},
  parameters: FOREIGN_PARAMETERS,
  ...change,
});

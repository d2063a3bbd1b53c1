import { mkdir, readFile, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { drizzle as drizzleServer } from "drizzle-orm/node-postgres";
import { migrate as migrateServer } from "drizzle-orm/node-postgres/migrator";
import type { PgDatabase, PgQueryResultHKT } from "drizzle-orm/pg-core";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import pg from "pg";
import { lock } from "proper-lockfile";
import { BlobStore } from "../blobs/blobStore.ts";
import { applicationFolder, dataFolder } from "../config.ts";
import * as schema from "./schema.ts";

export type Db = PgDatabase<PgQueryResultHKT, typeof schema>;

export interface Store {
  readonly db: Db;
  readonly blobs: BlobStore;
  readonly folder: string;
  /** address of the PostgreSQL server several processes share; undefined for the embedded database */
  readonly shared?: string;
  close(): Promise<void>;
}

/** The data folder is in use by another process. */
export class FolderInUse extends Error {
  constructor(folder: string) {
    super(
      `The data folder ${folder} is in use by another Tin Ruler. Stop that one, or set TIN_RULER_DATA to another folder. Two at once would lose data.`,
    );
    this.name = "FolderInUse";
  }
}

/**
 * Opens the database and the blobs of a data folder and brings the schema up to date.
 * @throws {FolderInUse} Another process holds the folder: the embedded database does not notice by itself and would lose rows.
 */
export async function openStore(
  folder: string,
  migrations = path.join(applicationFolder(), "server/db/migrations"),
  shared = process.env.DATABASE_URL,
): Promise<Store> {
  await mkdir(folder, { recursive: true });
  await new BlobStore(path.join(folder, "blobs")).sweep();
  if (shared) return openShared(folder, migrations, shared);
  const release = await takeLock(folder);
  try {
    const client = await PGlite.create(path.join(folder, "database"));
    const db = drizzle(client, { schema });
    await migrate(db, { migrationsFolder: migrations });
    return {
      db: db as unknown as Db,
      blobs: new BlobStore(path.join(folder, "blobs")),
      folder,
      close: async () => {
        await client.close();
        await release().catch(() => undefined);
      },
    };
  } catch (error) {
    await release().catch(() => undefined);
    throw error;
  }
}

/** any number, the same in every process: who holds it may change the schema */
const MIGRATION_LOCK = 7_310_443;

/** Opens a PostgreSQL server that several processes share; files stay in the folder, which they must share too. */
async function openShared(folder: string, migrations: string, address: string): Promise<Store> {
  const pool = new pg.Pool({ connectionString: address, max: 8 });
  const client = await pool.connect().catch(async (error: Error) => {
    await pool.end();
    throw new Error(`The database server named by DATABASE_URL does not answer: ${error.message}`);
  });
  try {
    await client.query("select pg_advisory_lock($1)", [MIGRATION_LOCK]);
    await migrateServer(drizzleServer(client, { schema }), { migrationsFolder: migrations });
  } finally {
    await client.query("select pg_advisory_unlock($1)", [MIGRATION_LOCK]);
    client.release();
  }
  const db = drizzleServer(pool, { schema });
  return { db: db as unknown as Db, blobs: new BlobStore(path.join(folder, "blobs")), folder, shared: address, close: () => pool.end() };
}

/**
 * Takes the folder's lock; one left by a process that no longer lives is cleared at once. It lies beside the folder: a folder that is deleted under a
 * living server does not take its lock along.
 */
async function takeLock(folder: string): Promise<() => Promise<void>> {
  const lockfilePath = `${path.resolve(/*turbopackIgnore: true*/ folder)}.in-use`;
  const holder = `${lockfilePath}.pid`;
  const take = () => lock(folder, { stale: 60_000, update: 10_000, lockfilePath });
  const release = await take().catch(async (error: { code?: string }) => {
    if (error.code !== "ELOCKED") throw error;
    const pid = Number(await readFile(holder, "utf8").catch(() => ""));
    if (!(pid > 0) || alive(pid)) throw new FolderInUse(folder);
    await rm(lockfilePath, { recursive: true, force: true });
    return take();
  });
  await writeFile(holder, String(process.pid));
  return release;
}

function alive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

const held = globalThis as unknown as { tinRulerStore?: Promise<Store> };

/** The one open store of this process; opening is tried anew after it failed. */
export function store(): Promise<Store> {
  held.tinRulerStore ??= openStore(dataFolder()).catch((error) => {
    held.tinRulerStore = undefined;
    throw error;
  });
  return held.tinRulerStore;
}

export async function closeStore(): Promise<void> {
  const open = held.tinRulerStore;
  held.tinRulerStore = undefined;
  if (open) await (await open).close();
}

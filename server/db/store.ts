import { constants, existsSync } from "node:fs";
import { access, chmod, mkdir, stat } from "node:fs/promises";
import path from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { drizzle as drizzleServer } from "drizzle-orm/node-postgres";
import { migrate as migrateServer } from "drizzle-orm/node-postgres/migrator";
import type { PgDatabase, PgQueryResultHKT } from "drizzle-orm/pg-core";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import pg from "pg";
import { BlobStore } from "../blobs/blobStore.ts";
import { applicationFolder, dataFolder } from "../config.ts";
import { type Alone, aloneInProcess, aloneOnServer } from "./alone.ts";
import { DURABLE_START, DurableFiles, syncTree } from "./durableFiles.ts";
import { folderTrouble, lockFolder } from "./folderLock.ts";
import { refuseWhenReadOnly } from "./readOnly.ts";
import * as schema from "./schema.ts";
import { inTurns } from "./turns.ts";

export type Db = PgDatabase<PgQueryResultHKT, typeof schema>;

/** Does everything or nothing: what is written with the store that `work` is given stands together, or not at all. */
export const inOne = <T>(opened: Store, work: (tx: Store) => Promise<T>): Promise<T> =>
  opened.db.transaction((tx) => work({ ...opened, db: tx as unknown as Db }));

export interface Store {
  readonly db: Db;
  readonly blobs: BlobStore;
  readonly folder: string;
  /** address of the PostgreSQL server several processes share; undefined for the embedded database */
  readonly shared?: string;
  /** does work that reads and then writes one thing after all other work on it */
  readonly alone: Alone;
  /** whether the folder is still there: what is written into a deleted one is lost */
  intact(): Promise<boolean>;
  close(): Promise<void>;
}

/**
 * Opens the database and the blobs of a data folder and brings the schema up to date.
 * @throws {FolderInUse} Another process holds the folder: the embedded database does not notice by itself and would lose rows.
 * @throws {FolderTrouble} it cannot be written
 */
export async function openStore(
  folder: string,
  migrations = path.join(applicationFolder(), "server/db/migrations"),
  shared = process.env.DATABASE_URL,
): Promise<Store> {
  if (shared) {
    await makeFolder(folder);
    return openShared(folder, migrations, shared);
  }
  // Before anything is touched: what another process owns stays as it is.
  const release = await lockFolder(folder);
  try {
    await makeFolder(folder);
    const place = path.join(folder, "database");
    const made = !existsSync(place);
    const client = await PGlite.create({ fs: new DurableFiles(place), startParams: DURABLE_START });
    inTurns(client);
    refuseWhenReadOnly(client, folder);
    const db = drizzle(client, { schema });
    await migrate(db, { migrationsFolder: migrations });
    if (made) syncTree(folder);
    return {
      db: db as unknown as Db,
      blobs: new BlobStore(path.join(folder, "blobs")),
      folder,
      alone: aloneInProcess(),
      intact: await sameFolder(folder),
      close: async () => {
        await client.close();
        await release();
      },
    };
  } catch (error) {
    await release();
    throw folderTrouble(folder, error);
  }
}

/** The data of a programme is its owner's alone. @throws {FolderTrouble} it cannot be made or written */
async function makeFolder(folder: string): Promise<void> {
  try {
    await mkdir(folder, { recursive: true, mode: 0o700 });
    await chmod(folder, 0o700);
    await access(folder, constants.W_OK);
  } catch (error) {
    throw folderTrouble(folder, error);
  }
}

/** any number, the same in every process: who holds it may change the schema */
const MIGRATION_LOCK = 7_310_443;

/** Opens a PostgreSQL server that several processes share; files stay in the folder, which they must share too. */
async function openShared(folder: string, migrations: string, address: string): Promise<Store> {
  const pool = new pg.Pool({ connectionString: address, max: 8 });
  // Connections of their own, so that work that holds a name never waits for one that waits for the name.
  const locks = new pg.Pool({ connectionString: address, max: 8 });
  // A server that restarts breaks its idle connections: the next question opens new ones.
  for (const p of [pool, locks]) p.on("error", (error) => console.error("Database:", error.message));
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
  return {
    db: db as unknown as Db,
    blobs: new BlobStore(path.join(folder, "blobs")),
    folder,
    shared: address,
    alone: aloneOnServer(locks),
    intact: await sameFolder(folder),
    close: async () => {
      await locks.end();
      await pool.end();
    },
  };
}

/** Whether a folder is still the one that was opened: not deleted, not another in its place. */
async function sameFolder(folder: string): Promise<() => Promise<boolean>> {
  const was = await stat(/*turbopackIgnore: true*/ folder);
  return async () => {
    const now = await stat(/*turbopackIgnore: true*/ folder).catch(() => undefined);
    return now?.ino === was.ino && now.dev === was.dev;
  };
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

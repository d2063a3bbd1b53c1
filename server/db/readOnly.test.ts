import { execFileSync } from "node:child_process";
import { mkdtemp, rename, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { expect, test } from "vitest";
import { refuseWhenReadOnly, statementIn } from "./readOnly.ts";

const bytes = (...parts: (string | number)[]) =>
  Uint8Array.from(parts.flatMap((p) => (typeof p === "string" ? [...new TextEncoder().encode(p)] : [p])));

test("the statement of a message: with a name or without, none where it carries none", () => {
  expect(statementIn(bytes("P", 0, 0, 0, 0, "s1", 0, "insert into é", 0, 0, 0))).toBe("insert into é");
  expect(statementIn(bytes("P", 0, 0, 0, 0, 0, "select 1", 0, 0, 0))).toBe("select 1");
  expect(statementIn(bytes("Q", 0, 0, 0, 0, "begin", 0))).toBe("begin");
  expect(statementIn(bytes("B", 0, 0, 0, 0, "insert", 0))).toBeUndefined();
});

test("changes are refused while the folder cannot be written, in a transaction too; reading goes on, and so does changing afterwards", async () => {
  const root = await mkdtemp(path.join(tmpdir(), "tin-ruler-read-only-"));
  const [folder, away] = [path.join(root, "data"), path.join(root, "away")];
  execFileSync("mkdir", [folder]);
  const client = await PGlite.create();
  try {
    await client.query("create table kept (n int)");
    refuseWhenReadOnly(client, folder);
    await client.query("insert into kept values (1)");
    // A folder that is not there can be written as little as one on a disk that only reads, whoever asks.
    await rename(folder, away);
    for (const change of ["insert into kept values (2)", "  UPDATE kept set n = 3", "with x as (select 1) delete from kept", "drop table kept"])
      await expect(client.query(change)).rejects.toMatchObject({ code: "ENOENT" });
    await expect(client.transaction((tx) => tx.query("insert into kept values (4)"))).rejects.toMatchObject({ code: "ENOENT" });
    expect((await client.query("select n from kept")).rows).toEqual([{ n: 1 }]);
    await rename(away, folder);
    await client.query("insert into kept values (5)");
    expect((await client.query("select n from kept")).rows).toEqual([{ n: 1 }, { n: 5 }]);
  } finally {
    await client.close();
    await rm(root, { recursive: true, force: true });
  }
});

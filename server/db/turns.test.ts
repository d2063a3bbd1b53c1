import { PGlite } from "@electric-sql/pglite";
import { expect, test } from "vitest";
import { inTurns } from "./turns.ts";

/** How often a timer is heard while a loop asks the database many questions, one after the other. */
async function heardDuring(client: PGlite): Promise<number> {
  let heard = 0;
  const timer = setInterval(() => heard++, 1);
  for (let k = 0; k < 400; k++) await client.query("select count(*) from generate_series(1, 2000)");
  clearInterval(timer);
  return heard;
}

test("a loop of questions to the embedded database lets others have their turn, also within a transaction", async () => {
  const client = await PGlite.create();
  try {
    expect(await heardDuring(client)).toBe(0);
    inTurns(client);
    expect(await heardDuring(client)).toBeGreaterThan(2);
    let heard = 0;
    const timer = setInterval(() => heard++, 1);
    const sum = await client.transaction(async (tx) => {
      await tx.query("create table t (n int)");
      for (let k = 1; k <= 300; k++) await tx.query("insert into t values ($1)", [k]);
      return (await tx.query<{ s: string }>("select sum(n)::text as s from t")).rows[0].s;
    });
    clearInterval(timer);
    expect(sum).toBe("45150");
    expect(heard).toBeGreaterThan(1);
  } finally {
    await client.close();
  }
});

import type pg from "pg";

/** Work under one name is done one after the other, whoever asks for it. */
export type Alone = <T>(name: string, work: () => Promise<T>) => Promise<T>;

/** Of one process: a queue for each name, gone when it is empty. */
export function aloneInProcess(): Alone {
  const last = new Map<string, Promise<unknown>>();
  return (name, work) => {
    const next = (last.get(name) ?? Promise.resolve()).then(work, work);
    const ended = next.catch(() => undefined);
    last.set(name, ended);
    void ended.then(() => {
      if (last.get(name) === ended) last.delete(name);
    });
    return next;
  };
}

/** Of all processes that share a PostgreSQL server: one at a time of each process asks the server for the name. */
export function aloneOnServer(connections: pg.Pool): Alone {
  const here = aloneInProcess();
  return (name, work) =>
    here(name, async () => {
      const client = await connections.connect();
      try {
        await client.query("select pg_advisory_lock(hashtextextended($1, 0))", [name]);
        return await work();
      } finally {
        // A connection that broke has let go of the name by itself.
        const broken = await client.query("select pg_advisory_unlock(hashtextextended($1, 0))", [name]).then(
          () => undefined,
          (error: Error) => error,
        );
        client.release(broken);
      }
    });
}

import type { PGlite } from "@electric-sql/pglite";

/** work that asks one question after the other gives all others their turn after this long */
const LONGEST_MS = 20;

/**
 * Lets whoever else waits have a turn between the questions to an embedded database. It answers without ever letting go of the thread: a loop over
 * hundreds of rows would keep every page waiting until its end.
 */
export function inTurns(client: PGlite): void {
  const answer = client.execProtocolRaw.bind(client);
  let since = performance.now();
  client.execProtocolRaw = async (...asked) => {
    if (performance.now() - since > LONGEST_MS) {
      await new Promise(setImmediate);
      since = performance.now();
    }
    return answer(...asked);
  };
}

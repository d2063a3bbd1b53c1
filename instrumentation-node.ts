import { closeStore, FolderInUse, store } from "./server/db/store";
import { benchSecret } from "./server/http/secret";
import { bench } from "./server/jobs/bench";
import { follower } from "./server/jobs/follower";

/** Opens the data, marks what a killed server left behind, goes on with the queue, and closes all of it on a signal. */
export async function start(): Promise<void> {
  try {
    const opened = await store();
    // Made before a node asks for it.
    await benchSecret(opened.folder);
    const pool = await bench();
    await pool.recover();
    const logs = await follower();
    await logs.recover();
    for (const signal of ["SIGTERM", "SIGINT"] as const) {
      process.once(signal, () => {
        void logs
          .close()
          .then(() => pool.close())
          .then(closeStore)
          .finally(() => process.exit(0));
      });
    }
  } catch (error) {
    console.error(error instanceof FolderInUse ? `Tin Ruler: ${error.message}` : error);
    process.exit(1);
  }
}

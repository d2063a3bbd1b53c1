import { FolderTrouble } from "./server/db/folderLock";
import { closeStore, type Store, store } from "./server/db/store";
import { desk, setUpDesk } from "./server/desk/desk";
import { ThreadDesk } from "./server/desk/threadDesk";
import { benchSecret } from "./server/http/secret";
import { bench } from "./server/jobs/bench";
import { follower } from "./server/jobs/follower";
import { advancePilots } from "./server/usecases/pilots";
import { sweepBlobs } from "./server/usecases/sweepBlobs";

const LOOK_MS = 2000;
const SWEEP_MS = 3_600_000;
const PILOT_MS = 1000;

/** Ends the application when its folder is deleted or replaced: it would go on answering, and everything would be lost. */
function guardFolder(opened: Store): void {
  const look = async () => {
    if (await opened.intact()) return;
    console.error(
      `Tin Ruler: the data folder ${opened.folder} was deleted or replaced while it was in use. Put it back and start again; what was sent since is not kept.`,
    );
    process.exit(1);
  };
  setInterval(() => void look(), LOOK_MS).unref();
}

/** Takes away what no record names any more, at the start and every hour. */
function keepSwept(opened: Store): void {
  const sweep = () => void sweepBlobs(opened).catch((error) => console.error("Sweeping:", error));
  sweep();
  setInterval(sweep, SWEEP_MS).unref();
}

/** Autopilots go on when their runs end, also those that a killed server left under way. */
function keepPilots(opened: Store): void {
  let busy = false;
  const step = async () => {
    if (busy) return;
    busy = true;
    await advancePilots(opened).catch((error) => console.error("Autopilot:", error));
    busy = false;
  };
  setInterval(() => void step(), PILOT_MS).unref();
}

/** Opens the data, marks what a killed server left behind, goes on with the queue, and closes all of it on a signal. */
export async function start(): Promise<void> {
  // Whoever read the output may have gone: words that nobody reads are no error, and no reason to say so again.
  for (const output of [process.stdout, process.stderr]) output.on("error", () => undefined);
  setUpDesk(new ThreadDesk());
  try {
    const opened = await store();
    guardFolder(opened);
    // Made before a node asks for it.
    await benchSecret(opened.folder);
    const pool = await bench();
    await pool.recover();
    const logs = await follower();
    await logs.recover();
    keepSwept(opened);
    keepPilots(opened);
    for (const signal of ["SIGTERM", "SIGINT"] as const) {
      process.once(signal, () => {
        void logs
          .close()
          .then(() => pool.close())
          .then(() => desk().close())
          .then(closeStore)
          .finally(() => process.exit(0));
      });
    }
  } catch (error) {
    console.error(error instanceof FolderTrouble ? `Tin Ruler: ${error.message}` : error);
    process.exit(1);
  }
}

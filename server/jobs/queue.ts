import PgBoss from "pg-boss";
import type { Store } from "../db/store.ts";
import { waitingRuns } from "../repositories/runs.ts";

/** Hands out waiting runs, each to one taker. Whether it may be computed is decided by the lease on the run itself. */
export interface RunQueue {
  /** Tells that a run waits. */
  put(runId: string, priority: number): Promise<void>;
  /** The next run to try, or undefined. */
  take(): Promise<string | undefined>;
  close(): Promise<void>;
}

/** Of the embedded database, which only this process uses: the waiting runs themselves, by priority and age. */
class TableQueue implements RunQueue {
  constructor(private readonly opened: Store) {}

  async put(): Promise<void> {}

  async take(): Promise<string | undefined> {
    return (await waitingRuns(this.opened.db))[0]?.id;
  }

  async close(): Promise<void> {}
}

const NAME = "bench-run";
/** a run that was handed out but not leased within this time is handed out again */
const UNANSWERED_S = 60;

/** Of a PostgreSQL server that several processes and nodes share. */
class SharedQueue implements RunQueue {
  private constructor(
    private readonly boss: PgBoss,
    private readonly opened: Store,
  ) {}

  static async open(opened: Store): Promise<SharedQueue> {
    const boss = new PgBoss({ connectionString: opened.shared, max: 3 });
    boss.on("error", (error) => console.error("Queue:", error.message));
    await boss.start();
    await boss.createQueue(NAME);
    const queue = new SharedQueue(boss, opened);
    // Runs put aside while no process listened.
    for (const run of await waitingRuns(opened.db)) await queue.put(run.id, run.priority);
    return queue;
  }

  async put(runId: string, priority: number): Promise<void> {
    await this.boss.send(NAME, { runId }, { priority, retryLimit: 3, expireInSeconds: UNANSWERED_S });
  }

  async take(): Promise<string | undefined> {
    const [job] = await this.boss.fetch<{ runId: string }>(NAME);
    if (!job) return undefined;
    const waiting = await waitingRuns(this.opened.db);
    await this.boss.complete(NAME, job.id);
    // Priorities may have changed since it was put: the most urgent run is taken, one for every entry.
    return (
      waiting.find((r) => r.priority > (waiting.find((w) => w.id === job.data.runId)?.priority ?? Number.NEGATIVE_INFINITY))?.id ?? job.data.runId
    );
  }

  async close(): Promise<void> {
    await this.boss.stop({ graceful: false });
  }
}

export const openQueue = async (opened: Store): Promise<RunQueue> => (opened.shared ? SharedQueue.open(opened) : new TableQueue(opened));

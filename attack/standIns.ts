import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { endServer, startServer } from "../e2e/server.ts";
import { type Attack, type Finding, sleep } from "./attack.ts";
import { ask, BASE, caseOf, PORT } from "./page.ts";

const SEEN_MS = 600;
const RUN_S = 90;

/** An application whose disk can be turned read-only and whose clock can be moved while it runs. */
async function standingIn<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const root = await mkdtemp(path.join(tmpdir(), "tin-ruler-stand-in-"));
  const before = { NODE_OPTIONS: process.env.NODE_OPTIONS, STAND_INS: process.env.STAND_INS };
  const loaded = pathToFileURL(path.resolve("attack/standIns.mjs")).href;
  Object.assign(process.env, { NODE_OPTIONS: `${before.NODE_OPTIONS ?? ""} --import=${loaded}`.trim(), STAND_INS: root });
  const server = await startServer(path.join(root, "data"), PORT);
  try {
    return await work(root);
  } finally {
    for (const [key, value] of Object.entries(before))
      if (value === undefined) delete process.env[key];
      else process.env[key] = value;
    await endServer(server, "SIGKILL");
    await rm(root, { recursive: true, force: true });
  }
}

const said = async (answer: Response) => ((await answer.json().catch(() => ({}))) as { error?: string }).error ?? "";

/** A disk that turns read-only under a running application, and can be written again. */
const turnedReadOnly = (): Promise<Finding> =>
  standingIn(async (root) => {
    const { id } = (await (await ask("POST", "/cases", caseOf("before"))).json()) as { id: string };
    await writeFile(path.join(root, "read-only"), "");
    await sleep(SEEN_MS);
    const upload = await ask("POST", "/uploads", new Uint8Array(2_000_000).fill(49));
    const page = await fetch(`${BASE}/cases/${id}/question`);
    // What still fits into pages of the database that lie in memory is acknowledged by nothing: the first write that has to be safe is refused.
    const refused = await ask("POST", "/cases", caseOf("while read-only"));
    const [uploadSaid, writeSaid] = [await said(upload), await said(refused)];
    await rm(path.join(root, "read-only"));
    await sleep(SEEN_MS);
    let again = await ask("POST", "/cases", caseOf("writable again"));
    for (let k = 0; k < 40 && !again.ok; k++) {
      await sleep(500);
      again = await ask("POST", "/cases", caseOf("writable again"));
    }
    const titles = ((await (await ask("GET", "/cases")).json()) as { title: string }[]).map((c) => c.title);
    return {
      attack: "disk turned read-only under a running application, by a stand-in",
      tried: "an upload, a page, a write",
      answered: `upload ${upload.status} "${uploadSaid}"; page ${page.status}; write ${refused.status} "${writeSaid}"; writable again ${again.status}`,
      held: upload.status === 507 && page.status === 200 && refused.status === 507 && again.ok && titles.includes("before"),
    };
  });

/** A clock that is moved by an hour, ahead and back, while a run goes on. */
const movedClock = (hours: number): Promise<Finding> =>
  standingIn(async (root) => {
    const { id } = (await (await ask("POST", "/cases", caseOf("by the clock"))).json()) as { id: string };
    const uniform = { kind: "uniform" };
    const family = { baseNx: 128, baseNy: 128, ratio: 1.4, count: 3, gradingX: uniform, gradingY: uniform };
    const queued = await ask("POST", `/cases/${id}/family`, family);
    await writeFile(path.join(root, "clock"), String(3_600_000 * hours));
    await sleep(SEEN_MS);
    const write = await ask("POST", "/cases", caseOf("after the clock was moved"));
    const states = async () => {
      const { ladder } = (await (await ask("GET", `/cases/${id}/assessment`)).json()) as { ladder: string[] };
      return ladder.length;
    };
    let done = await states();
    for (let k = 0; k < 2 * RUN_S && done < 3; k++) {
      await sleep(500);
      done = await states();
    }
    return {
      attack: `clock moved by ${hours > 0 ? "an hour ahead" : "an hour back"} while runs go on, by a stand-in`,
      tried: "three runs, a write",
      answered: `runs queued ${queued.status}; write ${write.status}; ${done} of 3 runs finished, each once`,
      held: queued.ok && write.ok && done === 3,
    };
  });

/** What a test machine cannot be made to do: its disk and its clock are stood in for. */
export const standIns: Attack = async () => [await turnedReadOnly(), await movedClock(1), await movedClock(-1)];

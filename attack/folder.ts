import { type ChildProcess, execFileSync, spawn } from "node:child_process";
import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { randomFrom } from "../core/numeric/random.ts";
import { endServer, startServer } from "../e2e/server.ts";
import { type Attack, type Finding, notTried, sleep } from "./attack.ts";
import { ask, BASE, caseOf, PORT } from "./page.ts";

/** Makes cases until the server is gone; names of those that were acknowledged. */
async function makeCases(label: string, acknowledged: string[]): Promise<void> {
  for (let k = 0; ; k++) {
    const title = `${label} ${k}`;
    const answer = await ask("POST", "/cases", caseOf(title)).catch(() => undefined);
    if (!answer) return;
    if (answer.ok && (await answer.json().catch(() => undefined))) acknowledged.push(title);
  }
}

/** The server is killed again and again in the middle of writing; what it acknowledged has to be there afterwards. */
export const kills: Attack = async ({ kills: count }) => {
  const folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-kills-"));
  const random = randomFrom(7);
  const acknowledged: string[] = [];
  let server = await startServer(folder, PORT);
  try {
    for (let k = 0; k < count; k++) {
      const before = acknowledged.length;
      const writing = Promise.all([makeCases(`kill ${k} a`, acknowledged), makeCases(`kill ${k} b`, acknowledged)]);
      // Once writes come through, at any moment among them.
      while (acknowledged.length === before) await sleep(10);
      await sleep(400 * random());
      await endServer(server, "SIGKILL");
      await writing;
      server = await startServer(folder, PORT);
    }
    const titles = new Set(((await (await ask("GET", "/cases")).json()) as { title: string }[]).map((c) => c.title));
    const lost = acknowledged.filter((t) => !titles.has(t));
    const whole = titles.size >= acknowledged.length;
    return [
      {
        attack: "killed while writing",
        tried: `${count} kills, ${acknowledged.length} acknowledged writes by two at once`,
        answered: `${lost.length} lost; ${titles.size} there, every restart opened the folder`,
        held: lost.length === 0 && whole,
      },
    ];
  } finally {
    await endServer(server, "SIGKILL");
    await rm(folder, { recursive: true, force: true });
  }
};

/** Says "in" once it holds the folder, then what it reads back of whatever line it is sent. */
const HOLDER = `
import { openStore } from "./server/db/store.ts";
import { currentProgramme, insertProgramme } from "./server/repositories/programmes.ts";
openStore(process.argv[1]).then(async (s) => {
  console.log("in");
  for await (const line of process.stdin) { await insertProgramme(s.db, String(line).trim()); console.log((await currentProgramme(s.db)).name); }
}, (e) => { console.log(e.name); process.exit(); });
`;

function holder(folder: string): ChildProcess {
  return spawn(process.execPath, ["--import", "tsx", "--input-type=module", "-e", HOLDER, folder], { stdio: ["pipe", "pipe", "ignore"] });
}

const word = (child: ChildProcess) => new Promise<string>((resolve) => child.stdout?.once("data", (d) => resolve(String(d).trim())));

/** Several owners at once, one that is put to sleep and woken, one that is killed. */
export const owners: Attack = async ({ rounds }) => {
  const root = await mkdtemp(path.join(tmpdir(), "tin-ruler-owners-"));
  const children: ChildProcess[] = [];
  const start = (folder: string) => {
    const child = holder(folder);
    children.push(child);
    return child;
  };
  try {
    const got: number[] = [];
    for (let k = 0; k < rounds; k++) {
      const words = await Promise.all([0, 1, 2, 3].map(() => word(start(path.join(root, `race ${k}`)))));
      got.push(words.filter((w) => w === "in").length);
      for (const c of children.splice(0)) c.kill("SIGKILL");
    }
    const folder = path.join(root, "asleep");
    const owner = start(folder);
    await word(owner);
    owner.kill("SIGSTOP");
    const others: string[] = [];
    for (let k = 0; k < rounds; k++) others.push(await word(start(folder)));
    owner.kill("SIGCONT");
    const back = word(owner);
    owner.stdin?.write("still mine\n");
    const wrote = await back;
    const gone = new Promise((resolve) => owner.once("exit", resolve));
    owner.kill("SIGKILL");
    await gone;
    const after = await word(start(folder));
    return [
      {
        attack: "four started at once on one folder",
        tried: `${rounds} races`,
        answered: `one got in each time: ${got.every((n) => n === 1) ? "yes" : got.join(", ")}; the others were told who has it`,
        held: got.every((n) => n === 1),
      },
      {
        attack: "owner suspended, others start meanwhile, owner woken",
        tried: `${rounds} others`,
        answered: `${others.filter((w) => w === "in").length} got in; the owner went on writing: ${wrote === "still mine" ? "yes" : wrote}`,
        held: !others.includes("in") && wrote === "still mine",
      },
      { attack: "owner killed", tried: "1", answered: `the next got in at once: ${after === "in" ? "yes" : after}`, held: after === "in" },
    ];
  } finally {
    for (const c of children) c.kill("SIGKILL");
    await rm(root, { recursive: true, force: true });
  }
};

const MB = 1024 * 1024;

/** A small disk of its own, or undefined where mounting is not allowed. */
async function smallDisk(megabytes: number): Promise<{ place: string; remount: (how: string) => void; away: () => Promise<void> } | undefined> {
  const place = await mkdtemp(path.join(tmpdir(), "tin-ruler-disk-"));
  try {
    execFileSync("mount", ["-t", "tmpfs", "-o", `size=${megabytes}m`, "tmpfs", place], { stdio: "ignore" });
  } catch {
    await rm(place, { recursive: true, force: true });
    return undefined;
  }
  return {
    place,
    remount: (how) => void execFileSync("mount", ["-o", `remount,${how}`, place], { stdio: "ignore" }),
    away: async () => {
      execFileSync("umount", ["-l", place], { stdio: "ignore" });
      await rm(place, { recursive: true, force: true });
    },
  };
}

const sentence = async (answer: Response) => ((await answer.json().catch(() => ({}))) as { error?: string }).error ?? "";

/** A disk that fills up under a running application, and has room again; one that can only be read when it starts. */
export const disks: Attack = async () => {
  const disk = await smallDisk(160);
  if (!disk) return [notTried("disk full, disk that can only be read", "a disk of its own could not be mounted here (that takes root)")];
  const folder = path.join(disk.place, "data");
  const server = await startServer(folder, PORT);
  try {
    const found: Finding[] = [];
    const { id } = (await (await ask("POST", "/cases", caseOf("before"))).json()) as { id: string };
    await mkdir(path.join(disk.place, "filler"));
    let filled = 0;
    for (let k = 0; k < 2000; k++)
      try {
        await writeFile(path.join(disk.place, "filler", `${k}`), Buffer.alloc(k < 160 ? MB : 4096));
        filled = k;
      } catch {
        break;
      }
    const upload = await ask("POST", "/uploads", new Uint8Array(3 * MB).fill(49));
    const page = await fetch(`${BASE}/cases/${id}/question`);
    let writes = 0;
    let refused = await ask("POST", "/cases", caseOf("while full 0"));
    // The database has a little room of its own left in its last pages.
    for (; refused.ok && writes < 3000; writes++) refused = await ask("POST", "/cases", caseOf(`while full ${writes + 1}`));
    const [uploadSaid, writeSaid] = [await sentence(upload), await sentence(refused)];
    await rm(path.join(disk.place, "filler"), { recursive: true, force: true });
    await sleep(500);
    const again = await ask("POST", "/cases", caseOf("room again"));
    const titles = ((await (await ask("GET", "/cases")).json()) as { title: string }[]).map((c) => c.title);
    found.push({
      attack: "disk full",
      tried: `an upload, a page, ${writes + 1} writes on a disk of 160 MB filled by ${filled} files`,
      answered: `upload ${upload.status} "${uploadSaid}"; page ${page.status}; write ${refused.status} "${writeSaid}"; with room again ${again.status}`,
      held:
        upload.status === 507 &&
        page.status === 200 &&
        refused.status === 507 &&
        again.ok &&
        titles.includes("before") &&
        titles.includes("room again"),
    });
    await endServer(server, "SIGTERM");
    disk.remount("ro");
    const started = await startServer(folder, PORT).then(
      async (s) => {
        await endServer(s, "SIGKILL");
        return "it started";
      },
      (error: Error) => error.message.split("\n").find((l) => l.includes("Tin Ruler:")) ?? error.message.slice(0, 200),
    );
    disk.remount("rw");
    found.push({
      attack: "started on a folder that can only be read",
      tried: "1",
      answered: `"${started}"`,
      held: /cannot be written|may not be written|only be read/.test(started),
    });
    return found;
  } finally {
    await endServer(server, "SIGKILL");
    await disk.away();
  }
};

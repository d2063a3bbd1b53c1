/**
 * Measures the application as a whole, in a production build: the board with many cases, a case of many runs, a record of a million samples, and
 * how long another page waits while runs, reports, imports and assessments go on together. Writes docs/service.md.
 * npm run bench-service            with 500 cases
 * npm run bench-service -- 50      with 50
 */
import { writeFileSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { Worker } from "node:worker_threads";
import { gzipSync } from "node:zlib";
import { endServer, startServer } from "../e2e/server.ts";
import { openStore, type Store } from "../server/db/store.ts";
import { listQuantities } from "../server/repositories/cases.ts";
import { bringIn } from "../server/usecases/bringIn.ts";
import { createCase } from "../server/usecases/cases.ts";
import { newCase } from "../server/usecases/testStore.ts";
import { out, say } from "./say.ts";

const MANY = Number(process.argv[2] ?? 500);
const RUNS = 200;
const SAMPLES = 1_000_000;
const PORT = 4316;
const BASE = `http://127.0.0.1:${PORT}`;

const line = (k: number, i: number) => `${i + 1},${2 + 0.1 * k + 0.9 ** i},${10 * 0.9 ** i},${3 * 0.92 ** i}`;

/** A case of another code with so many runs of 300 iterations each. */
async function makeCase(opened: Store, title: string, runs: number): Promise<string> {
  const { id } = await createCase(opened, newCase({ title }));
  const [q] = await listQuantities(opened.db, id);
  for (let k = 0; k < runs; k++) {
    const text = `iteration,${q.name} (N),mass,energy\n${Array.from({ length: 300 }, (_, i) => line(k, i)).join("\n")}\n`;
    await bringIn(opened, id, {
      history: { name: "h.csv", text },
      quantities: null,
      label: `run ${k + 1}`,
      code: "Lintel",
      cells: 1000 * (k + 1) ** 2,
      volume: "1 m^3",
      dimension: 3,
      roles: ["iteration", `quantity:${q.key}`, "residual", "residual"],
      rowRoles: [],
    });
  }
  return id;
}

async function fill(folder: string, cases: number, more: (opened: Store) => Promise<void> = async () => {}): Promise<void> {
  const opened = await openStore(folder);
  try {
    for (let k = 0; k < cases; k++) await makeCase(opened, `Case ${k + 1}`, 1);
    await more(opened);
  } finally {
    await opened.close();
  }
}

const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[list.length >> 1];

async function timed(url: string): Promise<{ ms: number; text: string }> {
  const begun = performance.now();
  const answer = await fetch(BASE + url);
  const text = await answer.text();
  if (!answer.ok) throw new Error(`${url} answered ${answer.status}`);
  return { ms: performance.now() - begun, text };
}

async function seven(url: string): Promise<{ ms: number; kB: number; sent: number }> {
  await timed(url);
  const found = [];
  for (let k = 0; k < 7; k++) found.push(await timed(url));
  const { text } = found[0];
  return { ms: median(found.map((f) => f.ms)), kB: text.length / 1000, sent: gzipSync(text).length / 1000 };
}

async function ask<T>(method: string, at: string, body?: unknown): Promise<T> {
  const sent = body === undefined ? undefined : body instanceof Uint8Array ? (body as BodyInit) : JSON.stringify(body);
  const answer = await fetch(`${BASE}/api${at}`, { method, headers: { "content-type": "application/json", origin: BASE }, body: sent });
  const told = await answer.json();
  if (!answer.ok) throw new Error(`${method} ${at}: ${JSON.stringify(told)}`);
  return told as T;
}

const row = (...cells: readonly (string | number)[]) => say(`| ${cells.join(" | ")} |`);
const STAGES = ["question", "runs", "settling", "refinement", "verdict"];

interface Small {
  readonly board: number;
  readonly stages: Readonly<Record<string, number>>;
}

/** A folder of a dozen cases: what the other is measured against. */
async function small(folder: string): Promise<Small> {
  let id = "";
  await fill(folder, 12, async (opened) => {
    id = await makeCase(opened, "Three runs", 3);
  });
  const server = await startServer(folder, PORT);
  try {
    const stages: Record<string, number> = {};
    for (const s of STAGES) stages[s] = (await seven(`/cases/${id}/${s}`)).ms;
    return { board: (await seven("/")).ms, stages };
  } finally {
    await endServer(server, "SIGTERM");
  }
}

async function board(base: Small): Promise<void> {
  const first = await timed("/");
  const begun = performance.now();
  for (;;) {
    const { waiting } = await ask<{ waiting: unknown[] }>("GET", "/board");
    if (!waiting.length) break;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  const whole = performance.now() - begun + first.ms;
  const page = await seven("/");
  const all = await seven("/api/board");
  say(`## Board with ${MANY} cases`);
  say();
  say(`A board of 13 cases answers in ${base.board.toFixed(0)} ms here.`);
  say();
  row("", "ms", "times the small board", "kB", "kB compressed");
  row("---", "---", "---", "---", "---");
  row("first visit, nothing assessed yet", first.ms.toFixed(0), (first.ms / base.board).toFixed(1), (first.text.length / 1000).toFixed(0), "");
  row("until every case is assessed", whole.toFixed(0), (whole / base.board).toFixed(0), "", "");
  row("later visits", page.ms.toFixed(0), (page.ms / base.board).toFixed(1), page.kB.toFixed(0), page.sent.toFixed(0));
  row("all rows, fetched by the page", all.ms.toFixed(0), (all.ms / base.board).toFixed(1), all.kB.toFixed(0), all.sent.toFixed(0));
  say();
}

async function manyRuns(base: Small, id: string): Promise<void> {
  const first = await timed(`/cases/${id}/verdict`);
  const [{ id: runId }] = (await ask<{ settling: { runId: string }[] }>("GET", `/cases/${id}/assessment`)).settling.map((s) => ({ id: s.runId }));
  await ask("PUT", `/runs/${runId}/judging`, { stretchFrom: 100 });
  const changed = await timed(`/cases/${id}/settling`);
  say(`## A case of ${RUNS} runs`);
  say();
  say(`Its first assessment took ${first.ms.toFixed(0)} ms, the next one after a change to one run ${changed.ms.toFixed(0)} ms.`);
  say();
  row("stage", "ms", "times a case of three runs", "kB", "kB compressed");
  row("---", "---", "---", "---", "---");
  for (const s of STAGES) {
    const page = await seven(`/cases/${id}/${s}`);
    row(s, page.ms.toFixed(0), (page.ms / base.stages[s]).toFixed(1), page.kB.toFixed(0), page.sent.toFixed(0));
  }
  say();
}

/** A record of a million samples in time, as a file. */
function longFile(): Uint8Array {
  const lines = ["time (s),drag (N)"];
  let slow = 0;
  for (let i = 0; i < SAMPLES; i++) {
    slow = 0.99 * slow + Math.sin(i * 12.9898);
    lines.push(`${(i * 0.001).toFixed(3)},${(5 + 0.01 * slow + 0.3 * Math.sin(i / 50)).toPrecision(8)}`);
  }
  return new TextEncoder().encode(`${lines.join("\n")}\n`);
}

async function read(caseId: string, file: Uint8Array): Promise<string> {
  const { hash } = await ask<{ hash: string }>("POST", "/uploads", file);
  const { id } = await ask<{ id: string }>("POST", `/cases/${caseId}/readings`, { name: "long.csv", hash });
  for (;;) {
    const { state } = await ask<{ state: string }>("GET", `/cases/${caseId}/readings/${id}`);
    if (state !== "reading") return id;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

const brought = (reading: string, key: string) => ({
  history: { reading },
  quantities: null,
  label: "long",
  code: "Lintel",
  cells: 1000,
  volume: "1 m^3",
  dimension: 3,
  roles: ["time", `quantity:${key}`],
  rowRoles: [],
});

async function longRecord(id: string): Promise<string> {
  const key = "q1";
  const file = longFile();
  const times: [string, number][] = [];
  const step = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
    const begun = performance.now();
    const value = await work();
    times.push([what, performance.now() - begun]);
    return value;
  };
  const reading = await step(`sending and reading ${(file.length / 1e6).toFixed(0)} MB`, () => read(id, file));
  await step("checking a mapping", () =>
    ask("POST", `/cases/${id}/readings/${reading}/check`, { roles: ["time", `quantity:${key}`], units: ["s", "N"] }),
  );
  const { id: runId } = await step("bringing in", () => ask<{ id: string }>("POST", `/cases/${id}/bring-in`, brought(reading, key)));
  await step("first page: settling", () => timed(`/cases/${id}/settling`));
  await step("settling again", () => timed(`/cases/${id}/settling`));
  await step("its pictures", () => timed(`/api/runs/${runId}/records/${key}`));
  await step("handle moved", () => ask("PUT", `/runs/${runId}/judging`, { average: true, cut: 5000 }));
  await step("page after the handle", () => timed(`/cases/${id}/settling`));
  await step("record for drawing", () => timed(`/api/runs/${runId}/history`));
  const begun = performance.now();
  const csv = await fetch(`${BASE}/api/runs/${runId}/history.csv`);
  const reader = (csv.body as ReadableStream<Uint8Array>).getReader();
  await reader.read();
  times.push(["CSV, first bytes", performance.now() - begun]);
  let bytes = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    bytes += value.length;
  }
  times.push([`CSV, all ${(bytes / 1e6).toFixed(0)} MB`, performance.now() - begun]);
  say(`## A record of ${SAMPLES.toLocaleString("en")} samples, ms`);
  say();
  row("", "ms");
  row("---", "---");
  for (const [what, ms] of times) row(what, ms.toFixed(0));
  say();
  return runId;
}

/** Asks for a page again and again on a thread of its own: what this process sends and receives meanwhile must not count as waiting. */
const ASKING = `
  const { parentPort, workerData } = require("node:worker_threads");
  let going = true;
  parentPort.once("message", () => { going = false; });
  (async () => {
    const waits = [];
    while (going) {
      const start = performance.now();
      await (await fetch(workerData)).text();
      waits.push(performance.now() - start);
      await new Promise((resolve) => setTimeout(resolve, 30));
    }
    parentPort.postMessage(waits);
  })();
`;

/** Waits of a light page, asked for again and again, while something goes on. */
async function waitsDuring(work: () => Promise<unknown>): Promise<number[]> {
  const asking = new Worker(ASKING, { eval: true, workerData: `${BASE}/findings` });
  const waits = new Promise<number[]>((resolve, reject) => asking.once("message", resolve).once("error", reject));
  try {
    await work();
    asking.postMessage("enough");
    return await waits;
  } finally {
    await asking.terminate();
  }
}

async function load(many: string, long: string, longRun: string): Promise<void> {
  const { id: box } = await ask<{ id: string }>("POST", "/cases", {
    ...newCase({ title: "Box under load" }),
    problemId: "lidded-box",
    parameters: {},
    quantityName: undefined,
    quantityUnit: undefined,
  });
  await ask("POST", `/cases/${box}/family`, {
    baseNx: 64,
    baseNy: 64,
    ratio: 2,
    count: 2,
    gradingX: { kind: "uniform" },
    gradingY: { kind: "uniform" },
  });
  const file = longFile();
  const works: [string, () => Promise<unknown>][] = [
    ["a report of many runs", () => ask("POST", `/cases/${many}/reports`, { issuedBy: "B. M." })],
    ["reading and checking a million rows", () => read(long, file)],
    [
      "assessments after changes",
      async () => {
        for (let cut = 1000; cut < 6000; cut += 1000) {
          await ask("PUT", `/runs/${longRun}/judging`, { average: true, cut });
          await timed(`/cases/${long}/settling`);
        }
      },
    ],
    ["a million rows as CSV", async () => (await fetch(`${BASE}/api/runs/${longRun}/history.csv`)).arrayBuffer()],
  ];
  const quiet = median((await waitsDuring(() => new Promise((resolve) => setTimeout(resolve, 3000)))).slice(5));
  say("## How long another page waits");
  say();
  say(`A light page, asked for every 30 ms; two bench runs go on all the while. With these alone it answers in ${quiet.toFixed(0)} ms (median).`);
  say();
  row("meanwhile", "median, ms", "longest, ms", "asked");
  row("---", "---", "---", "---");
  const together = () => Promise.all(works.map(([, work]) => work()));
  for (const [what, work] of [...works, ["all of these together", together] as const]) {
    const waits = await waitsDuring(work);
    row(what, median(waits).toFixed(0), Math.max(...waits).toFixed(0), waits.length);
  }
  say();
}

const root = await mkdtemp(path.join(tmpdir(), "tin-ruler-service-"));
try {
  out.push(
    "# The application under load",
    "",
    `Written by \`npm run bench-service\` on ${new Date().toISOString().slice(0, 10)}, Node ${process.version}, a shared machine of two cores. Ratios carry over; times do not.`,
    "",
  );
  const base = await small(path.join(root, "small"));
  const big = path.join(root, "big");
  let [many, long] = ["", ""];
  await fill(big, MANY, async (opened) => {
    many = await makeCase(opened, "Many runs", RUNS);
    long = await makeCase(opened, "Long record", 0);
  });
  const server = await startServer(big, PORT);
  try {
    await board(base);
    await manyRuns(base, many);
    const longRun = await longRecord(long);
    await load(many, long, longRun);
  } finally {
    await endServer(server, "SIGTERM");
  }
  writeFileSync("docs/service.md", `${out.join("\n").trimEnd()}\n`);
} finally {
  await rm(root, { recursive: true, force: true });
}

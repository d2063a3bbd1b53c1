import { readFile } from "node:fs/promises";
import { hostname } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";

import type { StartResult } from "../../core/problems/build/benchJob.ts";
import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import { fromPlain, toPlain } from "../../core/solver/wire.ts";
import type { WorkerMessage } from "../jobs/messages.ts";
import { WarmWorkers } from "../jobs/warmWorkers.ts";
import { benchBuild, benchVersion } from "../method.ts";

// A small process that computes runs for an application it reaches over HTTP. It keeps nothing: killed at any time, its run goes on elsewhere.

const USAGE = `npm run bench-node -- [address]

address   of the application, preset http://127.0.0.1:4310
Environment: BENCH_SECRET, else the file bench-secret in TIN_RULER_DATA (preset .data); BENCH_NODE names this node.`;

const IDLE_MS = 1000;
const TELL_MS = 300;

const address = (process.argv[2] ?? "http://127.0.0.1:4310").replace(/\/$/, "");
const name = process.env.BENCH_NODE ?? `${hostname()}-${process.pid}`;
const entry = process.env.BENCH_WORKER ?? path.join(path.dirname(fileURLToPath(import.meta.url)), "solver.mjs");

/** The application does not take this node. */
class Refused extends Error {}

async function readSecret(): Promise<string> {
  if (process.env.BENCH_SECRET) return process.env.BENCH_SECRET;
  const file = path.join(process.env.TIN_RULER_DATA ?? ".data", "bench-secret");
  return (await readFile(file, "utf8")).trim();
}

async function ask<T>(secret: string, what: string, body: unknown): Promise<T> {
  const answer = await fetch(`${address}/api/node/${what}`, {
    method: "POST",
    headers: { "content-type": "application/json", "x-bench-secret": secret },
    body: JSON.stringify(body),
  });
  if (answer.status === 401) throw new Refused("the application refused the secret");
  if (!answer.ok) throw new Error(`${address} answered ${answer.status}: ${(await answer.text()).slice(0, 200)}`);
  return (await answer.json()) as T;
}

interface Task {
  readonly run: { readonly id: string; readonly attempt: number; readonly label: string; readonly settings: RunSettings } | null;
  readonly checkpoint?: unknown;
  readonly start?: unknown;
}

const workers = new WarmWorkers(entry);

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Computes one run and tells of it until it ends or is no longer this node's. */
async function compute(secret: string, run: NonNullable<Task["run"]>, checkpoint?: Uint8Array, start?: StartResult): Promise<void> {
  const buffer = new SharedArrayBuffer(8);
  const signal = new Int32Array(buffer);
  const worker = workers.take({ settings: run.settings, signal: buffer, checkpoint, start });
  let waiting: WorkerMessage[] = [];
  let ended = false;
  worker.on("message", (m: WorkerMessage) => {
    // Only the last picture and the last status matter by the time they are told.
    if (m.type === "field" || m.type === "status") waiting = waiting.filter((w) => w.type !== m.type);
    waiting.push(m);
  });
  worker.on("error", (error) => {
    waiting.push({ type: "failed", state: "failed", sentence: `The node's worker broke off: ${error.message}`, seconds: 0 });
  });
  worker.on("exit", () => {
    ended = true;
  });
  for (;;) {
    const last = ended;
    const messages = waiting;
    waiting = [];
    try {
      const body = { runId: run.id, attempt: run.attempt, messages: messages.map(toPlain) };
      const answer = await ask<{ control: number | null; field: number }>(secret, "hear", body);
      if (answer.control === null) {
        if (!last) console.log(`Run ${run.label} is no longer mine.`);
        await worker.terminate();
        return;
      }
      Atomics.store(signal, 0, answer.control);
      Atomics.store(signal, 1, answer.field);
    } catch (error) {
      if (error instanceof Refused) throw error;
      // The application may be restarting: what was not told is kept and told again.
      waiting = [...messages, ...waiting];
      console.error((error as Error).message);
    }
    if (last && waiting.length === 0) return;
    await sleep(TELL_MS);
  }
}

async function main(): Promise<void> {
  if (process.argv.includes("--help")) {
    console.log(USAGE);
    return;
  }
  const secret = await readSecret();
  console.log(`Bench node ${name} asks ${address} for work.`);
  for (;;) {
    try {
      const task = await ask<Task>(secret, "take", { node: name, build: { version: benchVersion(), ...benchBuild() } });
      if (task.run) {
        console.log(`Computes ${task.run.label} (${task.run.id}, attempt ${task.run.attempt}).`);
        const { checkpoint, start } = task;
        await compute(
          secret,
          task.run,
          checkpoint ? (fromPlain(checkpoint) as Uint8Array) : undefined,
          start ? (fromPlain(start) as unknown as StartResult) : undefined,
        );
        continue;
      }
      workers.prepare();
    } catch (error) {
      if (error instanceof Refused) throw error;
      console.error((error as Error).message);
    }
    await sleep(IDLE_MS);
  }
}

main().catch((error: Error) => {
  console.error(`Bench node: ${error.message}.`);
  process.exit(1);
});

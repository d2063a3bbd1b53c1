import { type ChildProcess, spawn } from "node:child_process";
import { rm } from "node:fs/promises";
import path from "node:path";

export const PORT = 4311;
export const FOLDER = path.resolve(".data-e2e");

let server: ChildProcess | undefined;

/** Starts the production build on the test folder and waits until it answers. */
export async function startServer(folder = FOLDER, port = PORT): Promise<ChildProcess> {
  // Another one's answers would be taken for this one's.
  if (await fetch(`http://127.0.0.1:${port}/`).catch(() => undefined)) throw new Error(`Something answers on port ${port} already; end it first.`);
  const child = spawn(
    process.execPath,
    ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(port), "--keepAliveTimeout", "65000"],
    {
      env: { ...process.env, NODE_ENV: "production", TIN_RULER_DATA: folder, NEXT_MANUAL_SIG_HANDLE: "true", NEXT_TELEMETRY_DISABLED: "1" },
      stdio: ["ignore", "pipe", "pipe"],
    },
  );
  let said = "";
  child.stdout?.on("data", (b) => {
    said += b;
  });
  child.stderr?.on("data", (b) => {
    said += b;
  });
  for (let k = 0; k < 240; k++) {
    if (child.exitCode !== null) throw new Error(`The server ended:\n${said}`);
    const answer = await fetch(`http://127.0.0.1:${port}/`).catch(() => undefined);
    if (answer?.ok) return child;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  throw new Error(`The server did not answer:\n${said}`);
}

export async function endServer(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once("exit", resolve));
  child.kill(signal);
  await gone;
}

export default async function setup() {
  await rm(FOLDER, { recursive: true, force: true });
  server = await startServer();
  return async () => {
    if (server) await endServer(server, "SIGTERM");
  };
}

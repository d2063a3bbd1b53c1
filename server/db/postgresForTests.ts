import { execFile } from "node:child_process";
import { existsSync, readdirSync } from "node:fs";
import { chmod } from "node:fs/promises";
import path from "node:path";
import { promisify } from "node:util";

const run = promisify(execFile);
const versions = existsSync("/usr/lib/postgresql") ? readdirSync("/usr/lib/postgresql") : [];
const bin = versions.length ? `/usr/lib/postgresql/${versions[versions.length - 1]}/bin` : undefined;

/** Whether this machine has a PostgreSQL server. */
export const hasPostgres = bin !== undefined;

/** PostgreSQL's programs refuse to run as root: they are then run as the user Debian makes for them. */
const asServer = (program: string, args: readonly string[]) =>
  process.getuid?.() === 0
    ? run("setpriv", ["--reuid=postgres", "--regid=postgres", "--clear-groups", `${bin}/${program}`, ...args])
    : run(`${bin}/${program}`, [...args]);

/** Starts an empty PostgreSQL server in a folder of its own, for one test. */
export async function startPostgres(root: string, port: number) {
  await chmod(root, 0o777);
  const data = path.join(root, "server");
  const words = ["-D", data, "-w", "-l", path.join(root, "log"), "-o", `-p ${port} -k ${root} -c listen_addresses=127.0.0.1`];
  await asServer("initdb", ["-D", data, "-U", "ruler", "--auth=trust", "--no-sync"]);
  await asServer("pg_ctl", [...words, "start"]);
  return {
    address: `postgres://ruler@127.0.0.1:${port}/postgres`,
    restart: (mode: "fast" | "immediate") => asServer("pg_ctl", [...words, "-m", mode, "restart"]),
    stop: () => asServer("pg_ctl", ["-D", data, "-m", "immediate", "stop"]).catch(() => undefined),
  };
}

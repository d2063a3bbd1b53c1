import { createHash } from "node:crypto";
import { realpath } from "node:fs/promises";
import { connect, createServer, type Server } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";

/** The data folder cannot be used; the sentence says why and what to do. */
export class FolderTrouble extends Error {
  override readonly name: string = "FolderTrouble";
}

/** The data folder is in use by another process. */
export class FolderInUse extends FolderTrouble {
  override readonly name = "FolderInUse";

  constructor(folder: string, by?: string) {
    super(
      `The data folder ${folder} is in use by another Tin Ruler${by ? ` (process ${by})` : ""}. Stop that one, or set TIN_RULER_DATA to another folder. Two at once would lose data.`,
    );
  }
}

/** The one true path of a folder, also of one that is still to be made. */
async function truePath(folder: string): Promise<string> {
  const whole = path.resolve(/*turbopackIgnore: true*/ folder);
  const found = await realpath(whole).catch(() => undefined);
  return found ?? (path.dirname(whole) === whole ? whole : path.join(await truePath(path.dirname(whole)), path.basename(whole)));
}

/** An address only one process of the machine can listen at. On Linux and Windows it is no file: it ends with its process, however that ends. */
function addressOf(folder: string): string {
  const name = `tin-ruler-${createHash("sha256").update(folder).digest("hex").slice(0, 24)}`;
  if (process.platform === "linux") return `\0${name}`;
  if (process.platform === "win32") return `\\\\.\\pipe\\${name}`;
  return path.join(tmpdir(), `${name}.sock`);
}

const listening = (server: Server, address: string) =>
  new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen({ path: address, exclusive: true }, resolve);
  });

/** a holder that is suspended holds on, and does not answer */
const PATIENCE_MS = 500;

/** The number of the process that listens at an address, where it answers. */
const holderAt = (address: string) =>
  new Promise<string | undefined>((resolve) => {
    const socket = connect({ path: address });
    let said = "";
    const end = () => {
      socket.destroy();
      resolve(said || undefined);
    };
    socket.setTimeout(PATIENCE_MS, end);
    socket.on("data", (d) => {
      said += d.toString();
    });
    socket.on("end", end);
    socket.on("error", end);
  });

/**
 * Takes a data folder for this process. The lock is the operating system's: no clock, no file and no number of a process bears on it, a holder that
 * is suspended keeps it, and it ends with its process. It is by path, so that it outlives the folder. Processes of containers with a network of
 * their own do not see one another's.
 * @returns what gives it back
 * @throws {FolderInUse} another process holds it
 */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
  const address = addressOf(await truePath(folder));
  const server = createServer((socket) => {
    socket.on("error", () => undefined);
    socket.end(String(process.pid));
  });
  await listening(server, address).catch(async (error: { code?: string }) => {
    if (error.code !== "EADDRINUSE") throw error;
    throw new FolderInUse(folder, await holderAt(address));
  });
  server.unref();
  return () => new Promise((resolve) => server.close(() => resolve()));
}

const WHY: Readonly<Record<string, string>> = {
  EACCES: "belongs to another user",
  EPERM: "belongs to another user",
  EROFS: "lies on a disk that can only be read",
  ENOSPC: "lies on a disk that is full",
  ENOTDIR: "is no folder, or lies below something that is none",
  EEXIST: "is no folder",
};

/** An error met while a folder was opened, as a sentence where it is one of the folder's. */
export function folderTrouble(folder: string, error: unknown): unknown {
  const why = WHY[(error as { code?: string }).code ?? ""];
  return why
    ? new FolderTrouble(`The data folder ${folder} ${why}. Make room or give it the rights to be written, or set TIN_RULER_DATA to another folder.`)
    : error;
}

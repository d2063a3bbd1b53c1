import fs from "node:fs";
import { PGlite } from "@electric-sql/pglite";
import { NodeFS } from "@electric-sql/pglite/nodefs";

interface OpenFile {
  nfd?: number;
  flags: number;
  readonly node: unknown;
  /** it could be opened for reading only, though it was asked for with more */
  readingOnly?: boolean;
}

/** What of the embedded database's file layer is needed here. */
interface FileLayer {
  readonly NODEFS: {
    readonly stream_ops: {
      open: (stream: OpenFile) => void;
      write: (stream: OpenFile, ...rest: unknown[]) => number;
      fsync?: (stream: OpenFile) => number;
    };
    realPath(node: unknown): string;
  };
}

const ACCESS_MODE = 3;
const READ_WRITE = 2;
const CREATES = 0o100;
/** how the layer numbers "permission denied" and "read-only file system" */
const MAY_NOT_WRITE = [2, 69];

/**
 * The database opens its files for reading and writing also where it only reads. On a disk that turned read-only they are opened for reading, so that
 * all that is stored can still be read, and for writing as soon as something is written.
 */
function readingAtLeast({ NODEFS }: FileLayer): void {
  const { open, write } = NODEFS.stream_ops;
  NODEFS.stream_ops.open = (stream) => {
    try {
      open(stream);
    } catch (error) {
      const { errno } = error as { errno?: number };
      const both = (stream.flags & ACCESS_MODE) === READ_WRITE && !(stream.flags & CREATES);
      if (!both || errno === undefined || !MAY_NOT_WRITE.includes(errno)) throw error;
      stream.flags &= ~ACCESS_MODE;
      open(stream);
      stream.flags |= READ_WRITE;
      stream.readingOnly = true;
    }
  };
  NODEFS.stream_ops.write = (stream, ...rest) => {
    if (stream.readingOnly) {
      const before = stream.nfd;
      open(stream);
      if (before !== undefined) fs.closeSync(before);
      stream.readingOnly = false;
    }
    return write(stream, ...rest);
  };
}

function syncFolder(folder: string): void {
  const opened = fs.openSync(/*turbopackIgnore: true*/ folder, "r");
  try {
    fs.fsyncSync(opened);
  } finally {
    fs.closeSync(opened);
  }
}

/** Files of the embedded database that can be read on a read-only disk, and whose synchronisation reaches the disk: the package's own layer passes over it in silence. */
export class DurableFiles extends NodeFS {
  override async init(...[pg, options]: Parameters<NodeFS["init"]>): ReturnType<NodeFS["init"]> {
    const made = await super.init(pg, options);
    const prepared = (layer: FileLayer) => {
      readingAtLeast(layer);
      const { NODEFS } = layer;
      NODEFS.stream_ops.fsync = ({ nfd, node }) => {
        if (nfd === undefined) syncFolder(NODEFS.realPath(node));
        else fs.fsyncSync(nfd);
        return 0;
      };
    };
    const before = made.emscriptenOpts.preRun ?? [];
    return { emscriptenOpts: { ...made.emscriptenOpts, preRun: [...before, prepared as unknown as (typeof before)[number]] } };
  }
}

/** The package starts the database without synchronisation (-F), and its data-only kind does nothing here: both are changed. */
export const DURABLE_START = [...PGlite.defaultStartParams.filter((p) => p !== "-F"), "-c", "wal_sync_method=fsync"];

/** Everything below a folder, and the folder, to the disk: what was written while the database was made. */
export function syncTree(folder: string): void {
  for (const entry of fs.readdirSync(/*turbopackIgnore: true*/ folder, { withFileTypes: true })) {
    const place = `${folder}/${entry.name}`;
    if (entry.isDirectory()) syncTree(place);
    else if (entry.isFile()) syncFolder(place);
  }
  syncFolder(folder);
}

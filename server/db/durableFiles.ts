import fs from "node:fs";
import { PGlite } from "@electric-sql/pglite";
import { NodeFS } from "@electric-sql/pglite/nodefs";

/** What of the embedded database's file layer is needed here. */
interface FileLayer {
  readonly NODEFS: {
    readonly stream_ops: { fsync?: (stream: { readonly nfd?: number; readonly node: unknown }) => number };
    realPath(node: unknown): string;
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

/** Files of the embedded database whose synchronisation reaches the disk: the package's own layer passes over it in silence. */
export class DurableFiles extends NodeFS {
  override async init(...[pg, options]: Parameters<NodeFS["init"]>): ReturnType<NodeFS["init"]> {
    const made = await super.init(pg, options);
    const synchronised = ({ NODEFS }: FileLayer) => {
      NODEFS.stream_ops.fsync = ({ nfd, node }) => {
        if (nfd === undefined) syncFolder(NODEFS.realPath(node));
        else fs.fsyncSync(nfd);
        return 0;
      };
    };
    const before = made.emscriptenOpts.preRun ?? [];
    return { emscriptenOpts: { ...made.emscriptenOpts, preRun: [...before, synchronised as unknown as (typeof before)[number]] } };
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

/**
 * Loaded into an application before it starts, in its threads as well: a disk that turns read-only and a clock that is moved, both while it runs,
 * by files that appear beside it. A real disk cannot be turned so while files on it are open, and the clock of a machine is not one's own.
 */
import fs from "node:fs";
import { syncBuiltinESMExports } from "node:module";
import path from "node:path";

const folder = process.env.STAND_INS ?? "";
const readOnly = path.join(folder, "read-only");
const clock = path.join(folder, "clock");
const { existsSync, readFileSync, constants } = fs;

/** Looked for a few times a second, not at every call. */
let [locked, shiftMs] = [false, 0];
const look = () => {
  locked = existsSync(readOnly);
  shiftMs = existsSync(clock) ? Number(readFileSync(clock, "utf8")) || 0 : 0;
};
setInterval(look, 100).unref();

const RealDate = Date;
globalThis.Date = class extends RealDate {
  constructor(...given) {
    if (given.length) super(...given);
    else super(RealDate.now() + shiftMs);
  }
  static now() {
    return RealDate.now() + shiftMs;
  }
};

const refusal = (call) => Object.assign(new Error(`EROFS: read-only file system, ${call}`), { code: "EROFS", errno: -30, syscall: call });
const forWriting = (flags) =>
  typeof flags === "number" ? (flags & (constants.O_WRONLY | constants.O_RDWR | constants.O_CREAT)) !== 0 : /[wa+]/.test(flags ?? "r");

/** Only the disk that holds the folder beside which the files appear. */
const onDisk = (place) => typeof place === "string" && path.resolve(place).startsWith(folder);
const written = new Set();

const wrap = (name, refuses) => {
  const real = fs[name];
  fs[name] = (...given) => {
    if (locked && refuses(given)) throw refusal(name);
    return real.apply(fs, given);
  };
};
wrap("accessSync", ([place, mode]) => onDisk(place) && (mode & constants.W_OK) !== 0);
wrap("openSync", ([place, flags]) => onDisk(place) && forWriting(flags));
const openSync = fs.openSync;
fs.openSync = (place, flags, ...rest) => {
  const opened = openSync(place, flags, ...rest);
  if (onDisk(place) && forWriting(flags)) written.add(opened);
  else written.delete(opened);
  return opened;
};
for (const name of ["writeSync", "ftruncateSync", "fsyncSync"]) wrap(name, ([opened]) => written.has(opened));
for (const name of ["writeFileSync", "renameSync", "truncateSync", "mkdirSync", "unlinkSync", "rmSync"]) wrap(name, ([place]) => onDisk(place));
const later = fs.promises;
for (const name of ["writeFile", "rename", "mkdir", "unlink", "rm", "truncate", "appendFile", "open"]) {
  const real = later[name];
  later[name] = async (...given) => {
    if (locked && onDisk(given[0]) && (name !== "open" || forWriting(given[1]))) throw refusal(name);
    return real.apply(later, given);
  };
}
syncBuiltinESMExports();

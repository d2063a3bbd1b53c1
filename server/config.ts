import path from "node:path";

/** Folder of the database and the blobs. */
export const dataFolder = (): string => path.resolve(/*turbopackIgnore: true*/ process.env.TIN_RULER_DATA ?? ".data");

/** Folder the application was started in: migrations and worker bundles lie below it. */
export const applicationFolder = (): string => process.env.TIN_RULER_HOME ?? /*turbopackIgnore: true*/ process.cwd();

/** Folders whose logs may be followed: those of TIN_RULER_LOGS, separated as in PATH, and "logs" in the data folder. */
export const logFolders = (data: string): string[] => [
  path.join(data, "logs"),
  ...(process.env.TIN_RULER_LOGS ?? "")
    .split(path.delimiter)
    .filter((f) => f !== "")
    .map((f) => path.resolve(/*turbopackIgnore: true*/ f)),
];

import path from "node:path";

/** Folder of the database and the blobs. */
export const dataFolder = (): string => path.resolve(/*turbopackIgnore: true*/ process.env.TIN_RULER_DATA ?? ".data");

/** Folder the application was started in: migrations and worker bundles lie below it. */
export const applicationFolder = (): string => /*turbopackIgnore: true*/ process.cwd();

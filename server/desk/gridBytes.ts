import { readFile } from "node:fs/promises";
import { NoCut } from "../../core/dataset/cutGrid.ts";
import { NoDivision } from "../../core/dataset/patches.ts";
import { NoSurface } from "../../core/dataset/surface.ts";
import { GridFileError } from "../../core/formats/vtk/scan.ts";
import { FieldMistake } from "../../core/intake/gridFields.ts";
import { NotPlane } from "../../core/intake/planeGrid.ts";
import { BlobStore, plainBytes } from "../blobs/blobStore.ts";
import { UseCaseError } from "../usecases/failure.ts";

/** largest file whose grid is read, bytes: a thread of the desk holds it whole while it does, the server's own never */
const MOST_GRID = 2000 * 1024 * 1024;

export interface GridFile {
  readonly blobs: string;
  readonly hash: string;
}

/** The bytes of an uploaded grid or surface. @throws {UseCaseError} it is gone, or too large to be held */
export async function gridBytes({ blobs, hash }: GridFile): Promise<Uint8Array> {
  const bytes = await readFile(new BlobStore(blobs).locate(hash)).catch(() => {
    throw new UseCaseError("not-found", "The file is not there any more; choose it again.");
  });
  if (bytes.byteLength > MOST_GRID)
    throw new UseCaseError(
      "invalid",
      `A file with a grid may have ${MOST_GRID / 1024 / 1024} MB at most; cut what you need of it in the code that made it.`,
    );
  return plainBytes(bytes);
}

/** The same where the work has to wait. */
export const inWordsLater = <T>(work: () => Promise<T>): Promise<T> => work().catch(told);

/** What is wrong with a file, or with what was said of it, is told in its own sentence. */
export function inWords<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    return told(error);
  }
}

function told(error: unknown): never {
  if (error instanceof FieldMistake) throw new UseCaseError("invalid", error.message, { [error.array]: error.message });
  if ([GridFileError, NotPlane, NoCut, NoSurface, NoDivision].some((kind) => error instanceof kind))
    throw new UseCaseError("invalid", (error as Error).message);
  throw error;
}

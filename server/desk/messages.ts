import { BlobError } from "../blobs/blobStore.ts";
import { UseCaseError } from "../usecases/failure.ts";
import type { Input, TaskName } from "./tasks.ts";
import type { Told } from "./told.ts";

/** What a desk's thread is asked. */
export interface TaskMessage<K extends TaskName = TaskName> {
  readonly task: K;
  readonly input: Input<K>;
}

/** What it answers. */
export type DeskMessage =
  | ({ readonly type: "told" } & Told)
  | { readonly type: "done"; readonly value: unknown }
  /** spent: what the thread has loaded wears out with failures, and it should not be asked again */
  | { readonly type: "failed"; readonly error: WrittenError; readonly spent?: boolean };

/** An error as it crosses from thread to thread, which keeps no class but those of the language. */
export interface WrittenError {
  readonly name: string;
  readonly message: string;
  readonly stack?: string;
  readonly code?: unknown;
  readonly details?: unknown;
  readonly hash?: string;
}

export function writeError(error: unknown): WrittenError {
  if (!(error instanceof Error)) return { name: "Error", message: String(error) };
  const { name, message, stack } = error;
  const { code, details, hash } = error as { code?: unknown; details?: unknown; hash?: string };
  return { name: error instanceof RangeError ? "RangeError" : name, message, stack, code, details, hash };
}

/** The error again, of the class that answers know. */
export function readError(e: WrittenError): Error {
  if (e.name === "UseCaseError") return new UseCaseError(e.code as UseCaseError["code"], e.message, e.details);
  if (e.name === "BlobError" && e.hash !== undefined) return new BlobError(e.code as BlobError["code"], e.hash);
  const error = e.name === "RangeError" ? new RangeError(e.message) : new Error(e.message);
  if (e.name !== "RangeError") error.name = e.name;
  if (e.code !== undefined) Object.assign(error, { code: e.code });
  error.stack = e.stack;
  return error;
}

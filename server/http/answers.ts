import { HTTPException } from "hono/http-exception";
import { ZodError } from "zod";
import { BlobError } from "../blobs/blobStore.ts";
import { UseCaseError } from "../usecases/failure.ts";

const STATUS = { "not-found": 404, invalid: 422, conflict: 409 } as const;

/** A refusal with its sentence, and what each field is told. */
export const refuse = (status: number, sentence: string, details?: unknown): Response => Response.json({ error: sentence, details }, { status });

/** A database server that is being restarted: what was on its way may or may not have arrived. */
const AWAY = [
  503,
  "The database does not answer at the moment. Whether this was stored shows when it does: load the page again, then try again.",
] as const;

/** What the database and the disk say, where it is no fault of this side: by the code of the error. */
const FORESEEN: Readonly<Record<string, readonly [status: number, sentence: string]>> = {
  "22P02": [404, "There is nothing of that name."],
  "22003": [422, "A number is larger than can be stored."],
  "22021": [422, "A text holds a sign that cannot be stored."],
  "23503": [422, "Something that is named here does not exist any more. Load the page again."],
  "23505": [409, "That is there already, or somebody else made it at the same moment. Load the page again."],
  "40001": [409, "Somebody else changed this at the same moment. Try again."],
  "40P01": [409, "Somebody else changed this at the same moment. Try again."],
  "53100": [507, "The database's disk is full; nothing was stored. Make room and try again."],
  ENOSPC: [507, "The disk of the data folder is full; nothing was stored. Make room and try again."],
  EDQUOT: [507, "The disk of the data folder is full; nothing was stored. Make room and try again."],
  EROFS: [507, "The data folder can only be read; nothing was stored."],
  ...Object.fromEntries(["57P01", "57P02", "57P03", "08001", "08003", "08006", "ECONNREFUSED", "ECONNRESET", "EPIPE"].map((code) => [code, AWAY])),
  EACCES: [507, "The data folder may not be written; nothing was stored."],
};

/** The driver gives a connection that broke off no code. */
const BROKEN_OFF = /^Connection terminated|^Client (has encountered a connection error|was closed) and is not queryable/;

/** What was foreseen, along the causes of an error. */
function foreseenOf(error: unknown): readonly [status: number, sentence: string] | undefined {
  const { code, cause, message } = (error ?? {}) as { code?: unknown; cause?: unknown; message?: unknown };
  if (typeof code === "string" && code in FORESEEN) return FORESEEN[code];
  if (typeof message === "string" && BROKEN_OFF.test(message)) return AWAY;
  return cause ? foreseenOf(cause) : undefined;
}

/** What went wrong as an answer; only what nobody foresaw is an error of this side, and its words stay in the server's output. */
export function failure(error: unknown): Response {
  if (error instanceof UseCaseError) return refuse(STATUS[error.code], error.message, error.details);
  if (error instanceof ZodError) {
    const [first] = error.issues;
    const sentence = `${first.path.length ? `${first.path.join(".")}: ` : ""}${first.message}`;
    return refuse(422, sentence, Object.fromEntries(error.issues.map((i) => [i.path.join("."), i.message])));
  }
  if (error instanceof HTTPException && error.status === 400) return refuse(422, "What was sent is not JSON.");
  if (error instanceof RangeError || error instanceof BlobError) return refuse(422, error.message);
  const foreseen = foreseenOf(error);
  if (foreseen) return refuse(...foreseen);
  console.error(error);
  return refuse(500, "Something went wrong here. Nothing was changed; the server's output says what.");
}

import { HTTPException } from "hono/http-exception";
import { ZodError } from "zod";
import { BlobError } from "../blobs/blobStore.ts";
import { UseCaseError } from "../usecases/failure.ts";

const STATUS = { "not-found": 404, invalid: 422, conflict: 409 } as const;

/** A refusal with its sentence, and what each field is told. */
export const refuse = (status: number, sentence: string, details?: unknown): Response => Response.json({ error: sentence, details }, { status });

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
  console.error(error);
  return refuse(500, "Something went wrong here. Nothing was changed; the server's output says what.");
}

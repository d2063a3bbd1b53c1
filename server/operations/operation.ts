import { z } from "@hono/zod-openapi";
import type { Store } from "../db/store.ts";

type Keys<Path extends string> = Path extends `${string}{${infer Key}}${infer Rest}` ? Key | Keys<Rest> : never;

/** What an operation is called with: its input has passed its schema. */
export interface Call<Path extends string, Input, Query> {
  readonly opened: Store;
  /** values of the named parts of the path */
  readonly at: Readonly<Record<Keys<Path>, string>>;
  readonly input: Input;
  readonly query: Query;
  readonly request: Request;
}

/** A file that is answered in the place of JSON. */
export interface FileAnswer {
  readonly file: string;
}

/** Bytes with the name they are to be saved by, where they are to be saved. */
export interface Sent {
  readonly bytes: Uint8Array | string | ReadableStream;
  readonly name?: string;
}

/**
 * One thing that can be asked of the application, as data: routes, the API's description and the pages' client are made from it. A new one is
 * an entry in the list of its subject.
 */
export interface Operation<
  Path extends string = string,
  Input extends z.ZodType = z.ZodType,
  Query extends z.ZodObject = z.ZodObject,
  Output extends z.ZodType | FileAnswer = z.ZodType | FileAnswer,
> {
  readonly method: "get" | "post" | "put" | "delete";
  /** named parts in braces; `{id}` is always a UUID */
  readonly path: Path;
  /** what it does, in a sentence */
  readonly says: string;
  readonly input?: Input;
  readonly query?: Query;
  readonly output: Output;
  /** who may ask: pages of this very address, or bench nodes that know the secret; pages unless given */
  readonly caller?: "node";
  /** largest body, bytes; "stream" where it goes straight to where it is kept, which counts for itself */
  readonly most?: number | "stream";
  /** nothing is changed by it: it is no entry of the time line */
  readonly quiet?: true;
  /** work of minutes, which keeps its own order: other changes of the same thing do not wait for it */
  readonly long?: true;
  readonly run: (call: Call<Path, z.output<Input>, z.output<Query>>) => Promise<Answer<Output>>;
}

/** Whatever comes of an operation that has nothing to tell is not sent. */
type Answer<Output> = Output extends FileAnswer ? Sent : Output extends typeof Done ? unknown : Output extends z.ZodType ? z.input<Output> : never;

/** Checks an entry against its own schemas, and forgets their types so that entries stand in one list. */
export const operation = <Path extends string, Input extends z.ZodType, Query extends z.ZodObject, Output extends z.ZodType | FileAnswer>(
  o: Operation<Path, Input, Query, Output>,
): Operation => o as unknown as Operation;

export const Done = z.object({ ok: z.literal(true) });
export const Id = z.object({ id: z.string() });
export const Ids = z.array(z.string());

/** The name of what was made, and nothing else of it. */
export const idOf = ({ id }: { readonly id: string }) => ({ id });
export const idsOf = (rows: readonly { readonly id: string }[]) => rows.map((r) => r.id);

/** Something wrong in a file, and where. */
export const Problem = z.object({ file: z.string().optional(), line: z.number(), column: z.string().optional(), sentence: z.string() });

export { z };

import { createRoute, OpenAPIHono, z } from "@hono/zod-openapi";
import type { Context, MiddlewareHandler } from "hono";
import { type Store, store } from "../db/store.ts";
import type { Operation, Sent } from "../operations/operation.ts";
import { OPERATIONS } from "../operations/registry.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { enter } from "../usecases/timeLine.ts";
import { failure, refuse } from "./answers.ts";
import { hostAllowed, originAllowed } from "./guard.ts";
import { benchSecret, secretMatches } from "./secret.ts";

const MOST_BODY = 40 * 1024 * 1024;
const DESCRIPTION = "/description";

const Count = z.string().regex(/^\d{1,9}$/);
const PARTS: Readonly<Record<string, z.ZodType>> = { id: z.uuid(), other: z.uuid(), number: Count, index: Count };

/** Named parts of a path: ids, counts, and whatever else is text. */
function partsOf(path: string): z.ZodObject {
  const names = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]);
  return z.object(Object.fromEntries(names.map((name) => [name, PARTS[name] ?? z.string().refine(storable)])));
}

/** Whether a text can be stored: it holds no NUL and no half of a pair of surrogates. */
const storable = (text: string): boolean => !/[\0\p{Surrogate}]/u.test(text);

/** Where in what was sent a text stands that cannot be stored. */
function unstorable(value: unknown, at = ""): string | undefined {
  if (typeof value === "string") return storable(value) ? undefined : at || "text";
  if (!value || typeof value !== "object") return undefined;
  for (const [key, part] of Object.entries(value)) {
    const found = storable(key) ? unstorable(part, Array.isArray(value) ? at : key) : at || "text";
    if (found) return found;
  }
  return undefined;
}

const json = (schema: z.ZodType) => ({ content: { "application/json": { schema } } });
const Refusal = z.object({ error: z.string(), details: z.unknown().optional() });

function routeOf(subject: string, o: Operation) {
  const answer = "file" in o.output ? { content: { [o.output.file]: { schema: z.string().openapi({ format: "binary" }) } } } : json(o.output);
  return createRoute({
    method: o.method,
    path: o.path,
    tags: [subject],
    summary: o.says,
    ...(o.caller === "node" ? { security: [{ benchSecret: [] }] } : {}),
    middleware: [comesFrom(o), holdsWhole(o)],
    request: {
      params: partsOf(o.path),
      ...(o.query ? { query: o.query } : {}),
      ...(o.input ? { body: { ...json(o.input), required: true } } : {}),
    },
    responses: { 200: { description: "Done.", ...answer }, default: { description: "Refused, with a sentence.", ...json(Refusal) } },
  });
}

/** Whatever changes data comes from a page of this very address; no page makes the calls of nodes, so that a shared secret stands in for it. */
function comesFrom(o: Operation): MiddlewareHandler {
  return async (c, next) => {
    if (o.caller === "node") {
      if (!secretMatches(await benchSecret((await store()).folder), c.req.header("x-bench-secret") ?? null))
        return refuse(401, "The bench secret is missing or wrong.");
    } else if (o.method !== "get" && !originAllowed(c.req.header("origin") ?? null, c.req.header("host") ?? null))
      return refuse(403, "This change did not come from a page of Tin Ruler.");
    await next();
    return undefined;
  };
}

/** A body is within its limit and arrived whole; one that is streamed counts for itself. */
function holdsWhole({ method, most = MOST_BODY }: Operation): MiddlewareHandler {
  return async (c, next) => {
    if (most !== "stream" && (method === "post" || method === "put")) {
      const tooLarge = new UseCaseError("invalid", `That is more than ${Math.round(most / 1024 / 1024)} MB.`);
      const sent = Number(c.req.header("content-length") ?? Number.NaN);
      if (sent > most) throw tooLarge;
      const text = await c.req.text();
      if (text.length > most) throw tooLarge;
      if (Buffer.byteLength(text) < sent) throw new UseCaseError("invalid", "What was sent arrived cut off. Try again.");
    }
    await next();
  };
}

/** A file to be saved or shown. */
function fileOf({ bytes, name }: Sent, type: string): Response {
  const headers: Record<string, string> = {
    "content-type": type,
    "cache-control": bytes instanceof ReadableStream ? "no-cache, no-transform" : "no-store",
  };
  if (name) headers["content-disposition"] = `attachment; filename="${name.replace(/[^\w.-]+/g, "-")}"`;
  return new Response(bytes as BodyInit, { headers });
}

/** Whether an operation changes one thing and ends soon; streams, long work and what nodes tell go their own way. */
const changesOne = (o: Operation) => o.method !== "get" && o.caller !== "node" && o.most !== "stream" && !o.long;

/** Enters a change in the time line. One that cannot be entered stands all the same: it is done, and the next page says what is wrong with the folder. */
async function entered(opened: Store, { method, path, says }: Operation, { at, input }: { at: never; input: never }): Promise<void> {
  await enter(opened, { method, path, says, at, input }).catch((error: Error) => {
    console.error(`A change could not be entered in the time line: ${error.message}`);
  });
}

/** Runs an operation whose parts have passed their schemas. */
async function run(o: Operation, c: Context, opened: Store): Promise<Response> {
  const valid = c.req as unknown as { valid: (what: "param" | "query" | "json") => never };
  const at = valid.valid("param") as { readonly id?: string };
  const call = {
    opened,
    at: at as never,
    query: o.query ? valid.valid("query") : ({} as never),
    input: o.input ? valid.valid("json") : (undefined as never),
    request: c.req.raw,
  };
  const odd = o.caller === "node" ? undefined : unstorable(call.input);
  if (odd) return refuse(422, `${odd}: it holds a sign that cannot be stored. Type it again.`, { [odd]: "It holds a sign that cannot be stored." });
  // Two changes of one thing read it and write it: the second begins when the first has ended.
  const answer = await (changesOne(o) && at.id ? opened.alone(at.id, () => o.run(call)) : o.run(call));
  if (o.method !== "get" && o.caller !== "node" && !o.quiet) await entered(opened, o, call);
  // What was written into a deleted folder is lost: it is not acknowledged.
  if (o.method !== "get" && !(await opened.intact()))
    return refuse(503, "The data folder was deleted or replaced while it was in use; this was not kept. Put it back and start Tin Ruler again.");
  if ("file" in o.output) return fileOf(answer as Sent, o.output.file);
  return Response.json(answer ?? { ok: true });
}

/** The routes of all operations below `/api`, and their description at `/api/description`. */
export function makeRouter(operations = OPERATIONS): OpenAPIHono {
  const app = new OpenAPIHono({
    defaultHook: (result) => {
      if (result.success) return undefined;
      return result.target === "param" ? refuse(404, "There is nothing of that name.") : failure(result.error);
    },
  }).basePath("/api");
  app.use(async (c, next) => {
    if (!hostAllowed(c.req.header("host") ?? null)) return refuse(421, "This address is not served.");
    await next();
    return undefined;
  });
  for (const [subject, list] of Object.entries(operations))
    for (const o of list) {
      app.openapi(routeOf(subject, o), async (c) => (await run(o, c, await store())) as never);
    }
  app.openAPIRegistry.registerComponent("securitySchemes", "benchSecret", { type: "apiKey", in: "header", name: "x-bench-secret" });
  app.doc31(DESCRIPTION, {
    openapi: "3.1.0",
    info: { title: "Tin Ruler", version: "1", description: "Everything the pages ask for can be asked for here, on this machine alone." },
    servers: [{ url: "/api" }],
  });
  app.notFound(() => refuse(404, "There is no such address."));
  app.onError((error) => failure(error));
  return app;
}

let router: OpenAPIHono | undefined;

/** Answers one call below `/api`: checks where it comes from, its size and its shape, then hands it to its operation. */
export async function answer(request: Request): Promise<Response> {
  router ??= makeRouter();
  return router.fetch(request);
}

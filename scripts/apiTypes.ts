/**
 * Writes the types of every operation for the pages' client, from the schemas the router checks.
 * npm run api-types            writes ui/api/operations.ts
 */
import { writeFileSync } from "node:fs";
import path from "node:path";
import { compile, type JSONSchema } from "json-schema-to-typescript";
import { z } from "zod";
import type { Operation } from "../server/operations/operation.ts";
import { OPERATIONS } from "../server/operations/registry.ts";

export const API_TYPES = "ui/api/operations.ts";

const HEADER = "// Made from the server's operations by `npm run api-types`; a test says when it is behind.\n\n";

type Schema = Record<string, unknown>;

const schemaOf = (schema: z.ZodType, io: "input" | "output"): Schema => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: "any", target: "draft-7" });
  return rest;
};

/** What is sent and what comes back; a file is no data. */
function shapeOf(o: Operation): Schema {
  const properties = {
    ...(o.input ? { input: schemaOf(o.input, "input") } : {}),
    output: "file" in o.output ? { not: {} } : schemaOf(o.output, "output"),
  };
  return { type: "object", description: o.says, properties, required: Object.keys(properties), additionalProperties: false };
}

/** The text of the file. */
export async function apiTypes(): Promise<string> {
  const every = Object.values(OPERATIONS).flatMap((list) => list.filter((o) => o.caller !== "node"));
  const properties = Object.fromEntries(every.map((o) => [`${o.method.toUpperCase()} ${o.path}`, shapeOf(o)]));
  const schema = { title: "Operations", type: "object", properties, required: Object.keys(properties), additionalProperties: false };
  const text = await compile(schema as JSONSchema, "Operations", {
    bannerComment: "",
    additionalProperties: false,
    // An array of at most four hundred is an array: tuples of every length say nothing to a reader.
    ignoreMinAndMaxItems: true,
  });
  return HEADER + text;
}

if (process.argv[1] === import.meta.filename) writeFileSync(path.join(import.meta.dirname, "..", API_TYPES), await apiTypes());

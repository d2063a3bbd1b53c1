import { z } from "zod";
import type { WorkerMessage } from "./messages.ts";

// What a node tells comes over the wire from a program of any version: whatever is stored of it is checked first.

const MOST_COLUMNS = 400;
const MOST_CELLS = 20_000_000;
const MOST_MOMENTS = 1000;
const anyNumber = z.number().or(z.nan()).or(z.literal(Number.POSITIVE_INFINITY)).or(z.literal(Number.NEGATIVE_INFINITY));
const word = z.string().max(200);
const sentence = z.string().max(2000);
const byKey = z.record(word, anyNumber);
const seconds = z.number().min(0);
const doubles = z.instanceof(Float64Array).refine((v) => v.length <= MOST_CELLS, "too many cells");
const list = z.array(anyNumber).max(100_000);
const axis = z.looseObject({ name: word, unit: word, values: list });

const Column = z.object({ role: z.enum(["iteration", "time", "residual", "quantity", "balance"]), key: word });

const Flux = z.looseObject({
  name: word,
  mass: anyNumber.optional(),
  momentumX: list.optional(),
  momentumY: list.optional(),
  scalars: z.record(word, list).optional(),
});

const Result = z.looseObject({
  quantities: byKey,
  profiles: z.array(z.looseObject({ key: word, name: word, abscissa: axis, value: axis })).max(200),
  errorNorms: z.array(z.looseObject({ field: word, unit: word, l1: anyNumber, l2: anyNumber, linf: anyNumber })).max(50),
  balance: z.looseObject({ boundaries: z.array(Flux).max(500) }).optional(),
  laws: z
    .array(z.looseObject({ law: word }))
    .max(100)
    .optional(),
  second: z
    .array(z.looseObject({ name: word }))
    .max(100)
    .optional(),
});

const Status = z.looseObject({
  warnings: z.array(sentence).max(50),
  memoryBytes: anyNumber,
  balance: z.array(z.looseObject({ what: word })).max(50),
  boundaries: z.array(Flux).max(500),
});

const Message = z.discriminatedUnion("type", [
  z.object({ type: z.literal("ready"), columns: z.array(Column).max(MOST_COLUMNS), starts: byKey, fieldNames: z.array(word).max(100) }),
  z.object({ type: z.literal("alive") }),
  z.object({ type: z.literal("climbing"), cells: z.number(), left: z.number() }),
  z.object({
    type: z.literal("rows"),
    from: z.number().int().min(0),
    rows: z.array(z.array(anyNumber.nullable()).max(MOST_COLUMNS)).max(1_000_000),
    starts: byKey,
  }),
  z.object({ type: z.literal("status"), status: Status }),
  z.object({ type: z.literal("field"), iteration: z.number(), name: word, values: z.instanceof(Float32Array) }),
  z.object({
    type: z.literal("moment"),
    sequence: z.number().int().min(1).max(MOST_MOMENTS),
    timeS: z.number(),
    fields: z
      .array(z.object({ name: word, unit: word, values: z.instanceof(Float32Array).refine((v) => v.length <= MOST_CELLS, "too many cells") }))
      .max(50),
  }),
  z.object({ type: z.literal("checkpoint"), data: z.instanceof(Uint8Array) }),
  z.object({ type: z.literal("paused"), seconds }),
  z.object({
    type: z.literal("done"),
    state: z.enum(["done", "stopped"]),
    note: sentence.optional(),
    result: Result,
    fields: z.array(z.object({ name: word, unit: word, values: doubles })).max(50),
    mesh: z.instanceof(Uint8Array).optional(),
    seconds,
  }),
  z.object({ type: z.literal("failed"), state: z.enum(["diverged", "failed"]), sentence, seconds }),
]);

/** A message of a node. @throws {z.ZodError} it is none, and says where */
export const readMessage = (told: unknown): WorkerMessage => Message.parse(told) as WorkerMessage;

/** Whether what is stored as a result is one. */
export const isResult = (stored: unknown): boolean => Result.safeParse(stored).success;

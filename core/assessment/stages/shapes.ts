import { z } from "zod";
import { STAGES } from "../results/stage.ts";

/** Any number, also one that JSON has no word for. */
export const number = z.number().or(z.nan()).or(z.literal(Number.POSITIVE_INFINITY)).or(z.literal(Number.NEGATIVE_INFINITY));
export const State = z.enum(["holds", "remark", "fails", "stale", "none"]);
export const Stage = z.enum(STAGES);
export const remarks = z.array(z.looseObject({ rule: z.string(), severity: z.enum(["stop", "doubt", "note"]), sentence: z.string() }));

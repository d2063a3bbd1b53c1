import type { SlopeWork } from "../../dataset/slopes.ts";
import { FieldMistake } from "../../intake/gridFields.ts";
import { DerivedError } from "../../method/propagation/derived.ts";
import { fieldFormula } from "../fieldFormula.ts";
import { divergence, lambda2, q, slope, speed, vorticity } from "./flowFields.ts";
import { entropy, mach, pressureCoefficient, totalPressure, totalTemperature } from "./gasFields.ts";
import { KnownFields } from "./knownFields.ts";
import { ofMesh } from "./meshFields.ts";
import { type Made, type MadeKind, MESH_FIELDS, type MeshField, type SpaceSaid, type Wish } from "./said.ts";
import { wallShear, yPlus } from "./wallFields.ts";

const MAKERS = {
  speed,
  vorticity,
  divergence,
  q,
  lambda2,
  totalPressure,
  pressureCoefficient,
  mach,
  totalTemperature,
  entropy,
  wallShear,
  yPlus,
} as const;

/**
 * A field made of the arrays of a grid in space.
 * @throws {FieldMistake} what it needs is not there, is of another unit, or a formula that is none
 */
export function spaceField(work: SlopeWork, said: SpaceSaid, wish: Wish): Made {
  const known = new KnownFields(work, said);
  if (wish.kind === "formula") return formula(known, wish.text, wish.name);
  if (wish.kind === "slope") return slope(known, wish.of);
  if (isOfMesh(wish.kind)) return ofMesh(known, wish.kind);
  return MAKERS[wish.kind](known);
}

const isOfMesh = (kind: MadeKind): kind is MeshField => kind in MESH_FIELDS;

/** Names under which formulas find the fields of a grid. */
export const formulaNames = (work: SlopeWork, said: SpaceSaid): string[] => new KnownFields(work, said).named().map((f) => f.symbol);

function formula(fields: KnownFields, text: string, name: string): Made {
  try {
    const { values, unit, on = "cells" } = fieldFormula(text, fields.named());
    return fields.made(name, unit.replaceAll("*", " "), 1, values, on, text);
  } catch (error) {
    if (error instanceof DerivedError) throw new FieldMistake(name, error.message);
    throw error;
  }
}

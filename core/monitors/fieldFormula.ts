import { DerivedError, namesIn, readDerived, unitFound } from "../method/propagation/derived.ts";

/** A field as formulas name it, in SI. */
export interface NamedField {
  readonly symbol: string;
  /** "1" for pure numbers */
  readonly unit: string;
  readonly values: ArrayLike<number>;
  /** where its values lie, where they may lie on several things */
  readonly on?: "cells" | "points";
}

/**
 * A formula over fields, carried out place by place, with the unit that comes out. Numbers in it are pure; every field is counted in SI.
 * @throws {DerivedError} it is no formula, names what is not there, or its units do not go together
 */
export function fieldFormula(
  text: string,
  fields: readonly NamedField[],
): {
  readonly values: Float64Array;
  readonly unit: string;
  readonly on: NamedField["on"];
} {
  const node = readDerived(
    text,
    fields.map((f) => f.symbol),
  );
  const used = namesIn(node).map((name) => fields.find((f) => f.symbol === name) as NamedField);
  if (!used.length) throw new DerivedError(`"${text}" names no field.`);
  const [{ on, values: first }] = used;
  const other = used.find((f) => f.on !== on || f.values.length !== first.length);
  if (other)
    throw new DerivedError(
      `${other.symbol} lies on ${other.on ?? "other places"}, ${used[0].symbol} on ${on ?? "others"}: a formula needs them in one place.`,
    );
  const { unit } = unitFound(
    node,
    used.map((f) => ({ name: f.symbol, unit: f.unit })),
  );
  const compiled = node.compile();
  const scope: Record<string, number> = {};
  const values = new Float64Array(first.length);
  for (let k = 0; k < values.length; k++) {
    for (const f of used) scope[f.symbol] = f.values[k];
    const value: unknown = compiled.evaluate(scope);
    // A root of less than nothing is no number of ours.
    values[k] = typeof value === "number" ? value : Number.NaN;
  }
  return { values, unit: unit || "1", on };
}

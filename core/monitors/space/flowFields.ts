import { slopesOf } from "../../dataset/slopes.ts";
import { FieldMistake, plainName, ROLE_UNITS } from "../../intake/gridFields.ts";
import { eigenvaluesSymmetric3 } from "../../numeric/symmetric3.ts";
import type { KnownFields } from "./knownFields.ts";
import type { Made } from "./said.ts";

const wayOf = (on: "cells" | "points"): string =>
  on === "points" ? "what the faces of each cell carry of the values on points of" : "least squares over the cells round each of the cell values of";

export function speed(fields: KnownFields): Made {
  const u = fields.known("velocity", 3);
  return fields.each("speed", "m/s", [u], (at) => Math.hypot(at(0, 0), at(0, 1), at(0, 2)), `the size of ${u.array.name}`);
}

export function slope(fields: KnownFields, { name, on }: { readonly name: string; readonly on: "cells" | "points" }): Made {
  const said = fields.said.arrays.find((a) => a.name === name && a.on === on);
  const array = fields.find(name, on);
  if (array.components !== 1) throw new FieldMistake(name, `it has ${array.components} components; a slope is made of one.`);
  const role = said && said.role !== "ignore" && said.role !== "other" ? said.role : undefined;
  const own = said && role ? fields.roleInSi(array, said, role) : array;
  const unit = role ? ROLE_UNITS[role] : said?.unit || "1";
  const values = slopesOf(fields.work, own, on).map((v) => v / fields.said.unitM);
  const perMetre = unit === "1" ? "1/m" : `${unit.includes("/") || unit.includes(" ") ? `(${unit})` : unit}/m`;
  return fields.made(`slope of ${plainName(name)}`, perMetre, 3, values, "cells", `${wayOf(on)} ${name}`);
}

/** Slopes of the velocity, 1/s. */
function strain(fields: KnownFields): { readonly slopes: Float64Array; readonly words: string } {
  const { array, on } = fields.known("velocity", 3);
  return { slopes: slopesOf(fields.work, array, on).map((v) => v / fields.said.unitM), words: `${wayOf(on)} ${array.name}` };
}

function ofStrain(fields: KnownFields, name: string, unit: string, words: string, of: (g: Float64Array) => number): Made {
  const { slopes, words: way } = strain(fields);
  const out = new Float64Array(slopes.length / 9);
  for (let c = 0; c < out.length; c++) out[c] = of(slopes.subarray(9 * c, 9 * c + 9));
  return fields.made(name, unit, 1, out, "cells", `${words}, of ${way}`);
}

export function vorticity(fields: KnownFields): Made {
  const { slopes: g, words } = strain(fields);
  const out = new Float64Array(g.length / 3);
  for (let c = 0; c < out.length / 3; c++) {
    out[3 * c] = g[9 * c + 7] - g[9 * c + 5];
    out[3 * c + 1] = g[9 * c + 2] - g[9 * c + 6];
    out[3 * c + 2] = g[9 * c + 3] - g[9 * c + 1];
  }
  return fields.made("vorticity", "1/s", 3, out, "cells", `the curl, of ${words}`);
}

export function divergence(fields: KnownFields): Made {
  return ofStrain(fields, "divergence of the velocity", "1/s", "the sum of the three slopes along their own axes", (g) => g[0] + g[4] + g[8]);
}

export function q(fields: KnownFields): Made {
  return ofStrain(fields, "Q", "1/s^2", "half of the squared turning less the squared straining", (g) => {
    let [turning, straining] = [0, 0];
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) {
        turning += ((g[3 * i + j] - g[3 * j + i]) / 2) ** 2;
        straining += ((g[3 * i + j] + g[3 * j + i]) / 2) ** 2;
      }
    return (turning - straining) / 2;
  });
}

export function lambda2(fields: KnownFields): Made {
  return ofStrain(fields, "lambda-2", "1/s^2", "the middle eigenvalue of squared straining and squared turning together", (g) => {
    const s = (i: number, j: number) => (g[3 * i + j] + g[3 * j + i]) / 2;
    const w = (i: number, j: number) => (g[3 * i + j] - g[3 * j + i]) / 2;
    const m = (i: number, j: number) => [0, 1, 2].reduce((sum, k) => sum + s(i, k) * s(k, j) + w(i, k) * w(k, j), 0);
    if (!Number.isFinite(g[0])) return Number.NaN;
    return eigenvaluesSymmetric3(m(0, 0), m(0, 1), m(0, 2), m(1, 1), m(1, 2), m(2, 2))[1];
  });
}

import { type Patches, patchesOf } from "../dataset/patches.ts";
import type { StitchedSurface } from "../dataset/stitch.ts";
import { faceCount, type Surface } from "../dataset/surface.ts";
import { type PatchFlow, surfaceFlows } from "../dataset/surfaceFlows.ts";
import { type PatchForces, surfaceForces } from "../dataset/surfaceForces.ts";
import { at, dot, minus, plus, size, times, type Vector } from "../dataset/vector.ts";
import type { SurfaceFound, SurfaceSaid } from "../records/surfaces.ts";
import { surfaceFields } from "./surfaceFields.ts";

/** an opening smaller than this share of the area leaves no doubt which side is inside */
const NEARLY_CLOSED = 0.05;

/** Where the normals point, as far as the surface itself tells: out of a body it encloses, or out of the cells it is the outside of. */
export function normalsOf({ surface, geometry, sign }: StitchedSurface): { readonly normals: SurfaceSaid["normals"]; readonly why: string } {
  if (surface.ofCells) return { normals: "into the body", why: "the surface is the outside of cells: its normals point out of the fluid" };
  const centre = middleOf(geometry);
  let [sum, area, volume]: [Vector, number, number] = [[0, 0, 0], 0, 0];
  for (let f = 0; f < sign.length; f++) {
    const own = times(at(geometry.area, f), sign[f]);
    sum = plus(sum, own);
    area += size(own);
    volume += dot(minus(at(geometry.middle, f), centre), own) / 3;
  }
  if (!(size(sum) < NEARLY_CLOSED * area) || volume === 0) return { normals: "out of the body", why: "the surface is open and does not tell" };
  const closed = size(sum) < 1e-10 * area ? "closed" : "all but closed";
  return volume > 0
    ? { normals: "out of the body", why: `the surface is ${closed} and its normals point outwards` }
    : { normals: "into the body", why: `the surface is ${closed} and its normals point inwards` };
}

/** Middle of all faces. */
function middleOf({ middle }: StitchedSurface["geometry"]): Vector {
  let sum: Vector = [0, 0, 0];
  for (let f = 0; 3 * f < middle.length; f++) sum = plus(sum, at(middle, f));
  return times(sum, 3 / Math.max(3, middle.length));
}

/** rims and shells that are kept */
const MOST_KEPT = 20;

/**
 * Patches of a surface as they are said to be named, and the forces on them, in SI.
 * @param unitM metres of the file's unit of length
 * @throws {FieldMistake | NoDivision} what was said does not go with the file
 */
export function readSurface(s: StitchedSurface, said: SurfaceSaid, unitM: number, densityKgM3: number): { found: SurfaceFound; patches: Patches } {
  const patches = patchesOf(s, said.recipe);
  const fields = surfaceFields(s.grid, s.surface, said.arrays, densityKgM3);
  const outward = said.normals === "out of the body" ? 1 : -1;
  const shear = fields.shear && said.shearOn === "fluid" ? { ...fields.shear, values: fields.shear.values.map((v) => -v) } : fields.shear;
  const inputs = { ...fields, shear, referencePa: said.referencePa, about: said.aboutM, sign: s.sign.map((v) => v * outward) };
  const inMetres: Surface = unitM === 1 ? s.surface : { ...s.surface, points: s.surface.points.map((v) => v * unitM) };
  const forces = surfaceForces(inMetres, inputs, patches.nameOf, patches.names.length);
  // Out of the fluid is into the body.
  const flows =
    fields.velocity &&
    surfaceFlows(
      inMetres,
      {
        velocity: fields.velocity,
        density: fields.density ?? densityKgM3,
        sign: inputs.sign.map((v) => -v),
        ...(fields.temperature ? { scalar: fields.temperature } : {}),
      },
      patches.nameOf,
      patches.names.length,
    );
  const withFlow = (k: number): PatchForces & { readonly flow?: PatchFlow } => ({ ...forces[k], ...(flows ? { flow: flows[k] } : {}) });
  const unnamed = withFlow(patches.names.length);
  const { faults } = s;
  return {
    patches,
    found: {
      unitM,
      faces: faceCount(s.surface),
      areaM2: forces.reduce((sum, f) => sum + f.area, 0),
      shells: [...faults.shells]
        .sort((a, b) => b.area - a.area)
        .slice(0, MOST_KEPT)
        .map((x) => ({ ...x, area: x.area * unitM ** 2, ...(x.volume === undefined ? {} : { volume: x.volume * unitM ** 3 }) })),
      rims: faults.rims.slice(0, MOST_KEPT).map((r) => ({ ...r, length: r.length * unitM, at: times(r.at, unitM) })),
      openM: faults.rims.reduce((sum, r) => sum + r.length, 0) * unitM,
      openRims: faults.rims.length,
      turned: turnedOf(s, unitM),
      twice: faults.twice.length,
      crowded: faults.crowded.edges,
      oneSided: faults.oneSided,
      patches: patches.names.map((name, k) => ({ name, ...withFlow(k) })).filter((p) => p.faces > 0),
      ...(unnamed.faces ? { unnamed: { ...unnamed, pieces: unnamedPieces(patches) } } : {}),
      has: { pressure: fields.pressure !== undefined, shear: fields.shear !== undefined, velocity: fields.velocity !== undefined },
      notes: [
        ...s.grid.notes,
        ...s.surface.notes,
        ...patches.notes,
        ...fields.notes,
        ...(fields.velocity && !fields.density ? [`Mass flows are made with the density of the case, ${densityKgM3} kg/m^3.`] : []),
      ],
    },
  };
}

const unnamedPieces = ({ pieceOf, nameOf }: Patches): number => new Set(Array.from(pieceOf).filter((_, f) => nameOf[f] < 0)).size;

function turnedOf({ faults: { turned }, geometry }: StitchedSurface, unitM: number): SurfaceFound["turned"] {
  const area = turned.reduce((sum, f) => sum + size(at(geometry.area, f)), 0);
  return { faces: turned.length, areaM2: area * unitM ** 2, ...(turned.length ? { at: times(at(geometry.middle, turned[0]), unitM) } : {}) };
}

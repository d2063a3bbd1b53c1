import { faceCount, forTriangles, type Surface } from "./surface.ts";
import type { OnSurface } from "./surfaceForces.ts";
import { at, cross, dot, minus, plus, size, times, type Vector } from "./vector.ts";

/** What flows through part of a surface, outward positive. */
export interface PatchFlow {
  readonly area: number;
  /** m^3/s */
  readonly volume: number;
  /** kg/s, and of it what comes back against the rest, counted positive */
  readonly mass: number;
  readonly massBack: number;
  /** all mass without its sign, kg/s */
  readonly massWithoutSign: number;
  /** momentum carried by the flow, N */
  readonly momentum: Vector;
  /** mean of a scalar by area and by the mass that passes, absent where none was given or nothing passes */
  readonly meanByArea?: number;
  readonly meanByMass?: number;
}

export interface FlowInputs {
  /** m/s */
  readonly velocity: OnSurface;
  /** kg/m^3: a field, or the same everywhere */
  readonly density: OnSurface | number;
  /** averaged, such as a temperature */
  readonly scalar?: OnSurface;
  /** 1 where the faces' own normal points out of the fluid, -1 where into it: by face */
  readonly sign: Int8Array;
}

/** Places of a triangle with their weights: exact to the fourth degree. @source Dunavant, Int. J. Numer. Meth. Eng. 21, 1129 (1985), table II, p = 4 */
const RULE: readonly (readonly [share: number, share: number, share: number, weight: number])[] = [
  [0.10810301816807, 0.445948490915965, 0.445948490915965, 0.223381589678011],
  [0.816847572980459, 0.091576213509771, 0.091576213509771, 0.109951743655322],
].flatMap(([a, b, c, w]) => [[a, b, c, w] as const, [b, a, c, w] as const, [b, c, a, w] as const]);

const ZERO: Vector = [0, 0, 0];

/** sums of a patch while they grow */
interface Sums {
  area: number;
  volume: number;
  mass: number;
  inward: number;
  outward: number;
  momentum: Vector;
  scalarArea: number;
  scalarMass: number;
  massAbs: number;
}

/**
 * Flows through the patches of a surface. Over a triangle values at corners vary linearly; products of three of them are integrated exactly.
 * @param patchOf of each face, -1 for those without a name
 * @returns of each patch, and last of the faces without a name
 */
export function surfaceFlows(surface: Surface, inputs: FlowInputs, patchOf: Int32Array, count: number): PatchFlow[] {
  const sums = Array.from(
    { length: count + 1 },
    (): Sums => ({ area: 0, volume: 0, mass: 0, inward: 0, outward: 0, momentum: ZERO, scalarArea: 0, scalarMass: 0, massAbs: 0 }),
  );
  for (let f = 0; f < faceCount(surface); f++) addFace(surface, inputs, f, sums[patchOf[f] < 0 ? count : patchOf[f]]);
  return sums.map((s) => ({
    area: s.area,
    volume: s.volume,
    mass: s.mass,
    massBack: s.mass >= 0 ? s.inward : s.outward,
    massWithoutSign: s.massAbs,
    momentum: s.momentum,
    ...(inputs.scalar && s.area > 0 ? { meanByArea: s.scalarArea / s.area } : {}),
    ...(inputs.scalar && s.massAbs > 0 ? { meanByMass: s.scalarMass / s.massAbs } : {}),
  }));
}

function addFace(surface: Surface, { velocity, density, scalar, sign }: FlowInputs, f: number, into: Sums): void {
  forTriangles(surface, f, (a, b, c) => {
    const [p, q, r] = [a, b, c].map((k) => at(surface.points, surface.corners[k]));
    const normal = times(cross(minus(q, p), minus(r, p)), sign[f] / 2);
    const area = size(normal);
    into.area += area;
    for (const [sa, sb, sc, weight] of RULE) {
      const mixed = (values: Float64Array, components: number, d: number): number =>
        sa * values[components * a + d] + sb * values[components * b + d] + sc * values[components * c + d];
      const scalarAt = ({ on, values }: OnSurface): number => (on === "faces" ? values[f] : mixed(values, 1, 0));
      const { on, values } = velocity;
      const u: Vector = on === "faces" ? at(values, f) : [mixed(values, 3, 0), mixed(values, 3, 1), mixed(values, 3, 2)];
      const through = dot(u, normal) * weight;
      const mass = through * (typeof density === "number" ? density : scalarAt(density));
      into.volume += through;
      into.mass += mass;
      into.massAbs += Math.abs(mass);
      if (mass < 0) into.inward -= mass;
      else into.outward += mass;
      into.momentum = plus(into.momentum, times(u, mass));
      if (!scalar) continue;
      const t = scalarAt(scalar);
      into.scalarArea += t * area * weight;
      into.scalarMass += t * Math.abs(mass);
    }
  });
}

import { integrate } from "../numeric/ode.ts";
import { secant } from "../numeric/secant.ts";

/** f''' + a f f'' + b (1 - f'^2) = 0 with f(0) = f'(0) = 0 and f' going to 1: every similar boundary layer of this library. */
export interface SimilarLayer {
  readonly a: number;
  readonly b: number;
}

/** A solved layer: its profile at ascending places, and what is read off it. */
export interface SolvedLayer {
  /** f''(0) */
  readonly wall: number;
  /** f, f', f'' at ascending places */
  readonly at: (eta: readonly number[]) => Float64Array[];
  /** integral of 1 - f' */
  readonly displacement: number;
  /** integral of f' (1 - f') */
  readonly momentum: number;
  /** where f' is 0.99 */
  readonly thickness: number;
}

const slope =
  ({ a, b }: SimilarLayer) =>
  (_: number, y: Float64Array, out: Float64Array) => {
    out[0] = y[1];
    out[1] = y[2];
    out[2] = -a * y[0] * y[2] - b * (1 - y[1] * y[1]);
    // Both thicknesses ride along.
    out[3] = 1 - y[1];
    out[4] = y[1] * (1 - y[1]);
  };

/** Step from one far end to the next while the wall's curvature is found: a long shot at once runs away. */
const REACHES = [3, 4.5, 6, 8, 10];

const solved = new Map<string, SolvedLayer>();

/**
 * Solves a similar layer by shooting from the wall, further out at each step.
 * @param layer a + 2 b over 3 or so positive; separation lies at b / a = -0.1988
 * @throws {RangeError} No layer that stays attached.
 */
export function similarLayer(layer: SimilarLayer): SolvedLayer {
  const key = `${layer.a} ${layer.b}`;
  const known = solved.get(key);
  if (known) return known;
  const f = slope(layer);
  const miss = (wall: number, reach: number) => integrate(f, 0, [0, 0, wall, 0, 0], [reach])[0][1] - 1;
  // Layers grow thinner with a + b: far ends are counted in them.
  const unit = 1 / Math.sqrt(layer.a + Math.max(layer.b, 0));
  let wall = Math.sqrt(Math.max(0.03, 0.22 * layer.a + 1.52 * layer.b));
  for (const reach of REACHES) {
    const from = wall;
    wall = secant((w) => miss(w, reach * unit), from, from * 1.01);
  }
  if (!(wall > -1e-9)) throw new RangeError("The layer separates: there is no attached solution.");
  const far = REACHES[REACHES.length - 1] * unit;
  const at = (eta: readonly number[]) => {
    const inner = eta.filter((x) => x <= far);
    const found = integrate(f, 0, [0, 0, wall, 0, 0], inner);
    const edge = integrate(f, 0, [0, 0, wall, 0, 0], [far])[0];
    // Outside the layer f grows with the distance alone.
    return [...found, ...eta.slice(inner.length).map((x) => Float64Array.from([edge[0] + x - far, 1, 0, edge[3], edge[4]]))];
  };
  const [edge] = at([far]);
  const thickness = secant((x) => at([x])[0][1] - 0.99, 2.5 * unit, 2.6 * unit);
  const found = { wall, at, displacement: edge[3], momentum: edge[4], thickness };
  solved.set(key, found);
  return found;
}

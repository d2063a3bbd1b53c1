import { lowest, stencilStart } from "../core/numeric/lagrange.ts";
import { solveDense } from "../core/numeric/solveDense.ts";
import { liddedBox } from "../core/problems/truth/liddedBox.ts";
import { LIDDED_BOX_TABLES, type LiddedBoxTable } from "../core/tables/liddedBox.ts";
import { WARM_WALL, type WarmWallTable, warmWallUncertainty } from "../core/tables/warmWall.ts";
import { differenceWeights } from "./differenceWeights.ts";
import { say } from "./say.ts";
import { sharpBox } from "./sharpBox.ts";
import { type BoxFlow, steadyBox } from "./steadyBox.ts";

/** Published tables held against flows of another method on three meshes each, carried on to no spacing by h^2 and h^4 under the lid. */
const SPACES = [96, 120, 150] as const;
/** the last two say how far it is settled; the first is where conditions lead on to one another */
const WARM_SPACES = [60, 76, 92, 108] as const;
const PRANDTL = 0.71;
/** points of a local polynomial in flows of three lines and of seven */
const WIDTH = 6;
const SHARP_WIDTH = 8;

/** Value and derivative at x of the polynomial through the points next to it. */
function local(xs: ArrayLike<number>, ys: ArrayLike<number>, x: number, derivative: boolean, width: number): number {
  const s = stencilStart(xs, x, width);
  const at = Array.from({ length: width }, (_, k) => xs[s + k]);
  return differenceWeights(at, x)[derivative ? 1 : 0].reduce((sum, w, k) => sum + w * ys[s + k], 0);
}

/** Velocities along both middles, and the extremum of the stream function. */
export class Readings {
  private readonly column: Float64Array;
  private readonly row: Float64Array;

  constructor(
    private readonly flow: BoxFlow,
    private readonly width = WIDTH,
  ) {
    const count = flow.lines.length;
    const middle = count >> 1;
    this.column = Float64Array.from({ length: count }, (_, j) => flow.psi[j * count + middle]);
    this.row = flow.psi.slice(middle * count, (middle + 1) * count);
  }

  u(y: number): number {
    return local(this.flow.lines, this.column, y, true, this.width);
  }

  v(x: number): number {
    return -local(this.flow.lines, this.row, x, true, this.width);
  }

  /** Lowest value of a curve over (0, 1), and its place. */
  static lowestOf(curve: (x: number) => number, from = 0, to = 1): { x: number; value: number } {
    const xs = Array.from({ length: 801 }, (_, k) => from + ((to - from) * k) / 800);
    return lowest(xs, xs.map(curve));
  }

  /** Lowest stream function: along y at every x, then along x. */
  vortex(): { x: number; y: number; value: number } {
    const { lines, psi } = this.flow;
    const count = lines.length;
    let at = 0;
    for (let k = 0; k < psi.length; k++) if (psi[k] < psi[at]) at = k;
    const [i, j] = [at % count, Math.floor(at / count)];
    const columns = [-3, -2, -1, 0, 1, 2, 3].map((d) => i + d);
    const deepest = columns.map((c) => {
      const column = Float64Array.from({ length: count }, (_, r) => psi[r * count + c]);
      return Readings.lowestOf((y) => local(lines, column, y, false, this.width), lines[j - 2], lines[j + 2]);
    });
    const xs = columns.map((c) => lines[c]);
    const values = Float64Array.from(deepest, (d) => d.value);
    const best = Readings.lowestOf((x) => local(xs, values, x, false, this.width), xs[1], xs[5]);
    return {
      x: best.x,
      value: best.value,
      y: local(
        xs,
        Float64Array.from(deepest, (d) => d.x),
        best.x,
        false,
        this.width,
      ),
    };
  }

  /** Heat carried and conducted from side to side, over what would be conducted at rest. */
  nusselt(): number {
    const { lines, psi, heat } = this.flow;
    if (!heat) return Number.NaN;
    const count = lines.length;
    const weights = integralWeights(count - 1);
    let sum = 1;
    for (let i = 0; i < count; i++) {
      const column = Float64Array.from(lines, (_, j) => psi[j * count + i]);
      lines.forEach((y, j) => {
        sum += weights[i] * weights[j] * local(lines, column, y, true, this.width) * heat[j * count + i];
      });
    }
    return sum;
  }
}

/** Weights of the integral over [0, 1] of the polynomial through so many spaces' lines. @source Clenshaw & Curtis, Numer. Math. 2 (1960) 197 */
export function integralWeights(n: number): number[] {
  return Array.from({ length: n + 1 }, (_, k) => {
    let sum = 1;
    for (let j = 1; 2 * j <= n; j++) sum -= ((2 * j === n ? 1 : 2) * Math.cos((2 * j * k * Math.PI) / n)) / (4 * j * j - 1);
    return ((k === 0 || k === n ? 1 : 2) * sum) / (2 * n);
  });
}

/** What three spacings tell of none: through h^2 and h^4; doubt is what h^4 made of it. */
export function carriedOn(spaces: readonly number[], values: readonly number[]): { value: number; doubt: number } {
  const of = (k: readonly number[]) =>
    (
      solveDense(
        k.map((i) => k.map((_, power) => spaces[i] ** (-2 * power))),
        k.map((i) => values[i]),
        1e-14,
      ) as number[]
    )[0];
  const last = spaces.length - 1;
  const [two, three] = [of([last - 1, last]), of([last - 2, last - 1, last])];
  return { value: three, doubt: Math.abs(three - two) };
}

/** What the finest of several meshes says; doubt is what became of it since the one before. */
export function settledOn(values: readonly number[]): { value: number; doubt: number } {
  const [before, value] = values.slice(-2);
  return { value, doubt: Math.abs(value - before) };
}

/**
 * How far each point lies off the straight line through its neighbours. Differences between two flows bend slowly along a profile, a wrong digit does not.
 * @param points by place, in order
 */
export function kinks(points: readonly (readonly [at: number, value: number])[]): { at: number; off: number }[] {
  return points.slice(1, -1).map(([at, value], i) => {
    const [[a, p], [b, q]] = [points[i], points[i + 2]];
    return { at, off: value - (p + ((q - p) * (at - a)) / (b - a)) };
  });
}

/** What is read of the flow at a condition, on no spacing. */
type Limit = (read: (r: Readings) => number) => { value: number; doubt: number };

function head(...columns: readonly string[]): void {
  say(`| ${columns.join(" | ")} |`);
  say(`|${"---|".repeat(columns.length)}`);
}

/** Flows under the lid at ascending Reynolds numbers on every mesh, each begun from the one before. */
function liddedLimits(reynolds: readonly number[]): (reynolds: number) => Limit {
  const readings = SPACES.map((n) => {
    let flow: BoxFlow | undefined;
    return reynolds.map((re) => {
      flow = steadyBox({ lidSpeed: 1, viscosity: 1 / re }, n, flow);
      process.stderr.write(`${n} spaces, ${re}: ${flow.iterations} iterations\n`);
      return new Readings(flow);
    });
  });
  return (re) => (read) =>
    carriedOn(
      SPACES,
      readings.map((list) => read(list[reynolds.indexOf(re)])),
    );
}

/** A printed velocity within the box against ours. */
interface Difference {
  readonly at: number;
  readonly off: number;
  readonly doubt: number;
  readonly misprint: boolean;
}

const furthestOf = <T extends { readonly off: number }>(list: readonly T[]): T => list.reduce((a, b) => (Math.abs(b.off) > Math.abs(a.off) ? b : a));

function differences(t: LiddedBoxTable, limit: Limit): Readonly<Record<"u" | "v", readonly Difference[]>> {
  const of = (points: LiddedBoxTable["u"], misprints: LiddedBoxTable["misprintU"], read: (r: Readings, x: number) => number) =>
    points
      .filter(([x]) => x > 0 && x < 1)
      .map(([at, printed]) => {
        const { value, doubt } = limit((r) => read(r, at));
        return { at, off: printed - value, doubt, misprint: misprints?.some((m) => m.x === at) ?? false };
      });
  return { u: of(t.u, t.misprintU, (r, y) => r.u(y)), v: of(t.v, t.misprintV, (r, x) => r.v(x)) };
}

/** A table as the application holds flows against it. */
const yardstickOf = ({ id, reynolds }: LiddedBoxTable) =>
  liddedBox.yardsticks({ densityKgM3: 1, lidSpeedMS: 1, sideM: 1, viscosityPaS: 1 / reynolds }, {}).find((y) => y.key === id);

function liddedPart(): void {
  const tables = LIDDED_BOX_TABLES.filter((t) => t.u.length);
  const conditions = [...new Set([100, 400, 1000, 2000, ...tables.map((t) => t.reynolds), 6000, 8700])].sort((a, b) => a - b);
  const limitAt = liddedLimits(conditions);
  const found = tables.map((t) => ({ table: t, ...differences(t, limitAt(t.reynolds)) }));
  say("## Box under a sliding lid");
  say();
  say("Largest difference of a printed value from ours, where the source's own misprints are left out; in lid speeds.");
  say();
  head("table", "u", "at y", "v", "at x", "stated, u and v (95 %)", "ours is doubtful by");
  for (const { table, u, v } of found) {
    const [worstU, worstV] = [u, v].map((list) => furthestOf(list.filter((d) => !d.misprint)));
    const doubt = Math.max(...[...u, ...v].filter((d) => !d.misprint).map((d) => d.doubt));
    const stated = (key: string) => (2 * Number(yardstickOf(table)?.profiles.find((p) => p.profileKey === key)?.standardUncertainty)).toFixed(5);
    say(
      `| ${table.name} | ${worstU.off.toFixed(5)} | ${worstU.at} | ${worstV.off.toFixed(5)} | ${worstV.at} | ${stated("uMid")}, ${stated("vMid")} | ${doubt.toFixed(5)} |`,
    );
  }
  say();
  kinkPart(found);
  head("table", "figure", "printed", "ours", "difference", "stated (95 %)", "ours is doubtful by");
  for (const t of LIDDED_BOX_TABLES) {
    const limit = limitAt(t.reynolds);
    const figures: Record<string, (r: Readings) => number> = {
      uMin: (r) => Readings.lowestOf((y) => r.u(y)).value,
      vMin: (r) => Readings.lowestOf((x) => r.v(x)).value,
      vMax: (r) => -Readings.lowestOf((x) => -r.v(x)).value,
      vortexX: (r) => r.vortex().x,
      vortexY: (r) => r.vortex().y,
      psiMin: (r) => r.vortex().value,
    };
    for (const [key, printed] of Object.entries(t.extrema)) {
      const { value, doubt } = limit(figures[key]);
      const stated = 2 * (yardstickOf(t)?.values.find((v) => v.quantityKey === key)?.standardUncertainty ?? Number.NaN);
      say(`| ${t.name} | ${key} | ${printed} | ${value.toFixed(6)} | ${(printed - value).toFixed(6)} | ${stated.toFixed(6)} | ${doubt.toFixed(6)} |`);
    }
  }
  say();
}

/** points further apart do not tell a digit from a bend */
const CLOSE = 0.1;

/** Where a wrong digit would stand out of the differences, and how far it would have to go to be seen. */
function kinkPart(found: readonly ({ readonly table: LiddedBoxTable } & ReturnType<typeof differences>)[]): void {
  say(
    "How far the difference of each point lies off the line through its neighbours', in lid speeds: a wrong digit stands out by its size, a mesh's error",
  );
  say("bends slowly. Only points less than 0.1 from both neighbours are asked, misprints among all, the others without them.");
  say();
  head("table", "profile", "half lie within", "furthest", "at", "misprints");
  for (const { table, ...profiles } of found)
    for (const name of ["u", "v"] as const) {
      const list = profiles[name];
      // On both sides the printed value is the given one.
      const kinked = (kept: readonly Difference[]) => kinks([[1, 0], ...kept.map((d) => [d.at, d.off] as const), [0, 0]]);
      const rest = list.filter((d) => !d.misprint);
      const near = (k: number) => Math.max((rest[k - 1]?.at ?? 1) - rest[k].at, rest[k].at - (rest[k + 1]?.at ?? 0)) < CLOSE;
      const others = kinked(rest).filter((_, k) => near(k));
      const sizes = others.map((o) => Math.abs(o.off)).sort((a, b) => a - b);
      const furthest = furthestOf(others);
      const misprints = kinked(list).filter((_, k) => list[k].misprint);
      const cells = [sizes[sizes.length >> 1].toFixed(5), furthest.off.toFixed(5), furthest.at];
      say(`| ${[table.name, name, ...cells, misprints.map((m) => `${m.off.toFixed(5)} at ${m.at}`).join(", ") || "none"].join(" | ")} |`);
    }
  say();
}

/** Flows of seven lines at a condition, mesh by mesh, from one that is near. */
function sharpFlows(rayleigh: number, near: BoxFlow): BoxFlow[] {
  const problem = { lidSpeed: 0, viscosity: PRANDTL, heat: { buoyancy: PRANDTL * rayleigh } };
  let guess = near;
  return WARM_SPACES.map((n) => {
    guess = sharpBox(problem, n, guess);
    process.stderr.write(`${n} spaces by seven lines, ${rayleigh}: ${guess.iterations} iterations\n`);
    return guess;
  });
}

function warmPart(): void {
  const conditions = [1e3, 1e4, 1e5, 1e6, 2e6, 4e6, 1e7, 2e7, 3e7, 4.5e7, 7e7, 1e8];
  say("## Chamber with one warm wall");
  say();
  head("Ra", "figure", "printed", "ours", "difference, %", "stated (95 %), %", "ours is doubtful by, %");
  let near: BoxFlow | undefined;
  for (const rayleigh of conditions) {
    near = steadyBox({ lidSpeed: 0, viscosity: PRANDTL, heat: { buoyancy: PRANDTL * rayleigh } }, WARM_SPACES[0], near);
    const t = WARM_WALL.find((w) => w.rayleigh === rayleigh);
    if (t) warmTable(t, sharpFlows(rayleigh, near));
  }
  say();
}

function warmTable(t: WarmWallTable, flows: readonly BoxFlow[]): void {
  const readings = flows.map((f) => new Readings(f, SHARP_WIDTH));
  const read = (of: (r: Readings) => number) => settledOn(readings.map(of));
  // The warm side is x = 0: up along it, and to the right under the top.
  const upper = (r: Readings) => Readings.lowestOf((y) => -r.u(y), 0.5, 1);
  const left = (r: Readings) => Readings.lowestOf((x) => -r.v(x), 0, 0.5);
  const figures = [
    ["Nu", "nusselt", read((r) => r.nusselt())],
    ["u max", "uMax", read((r) => -upper(r).value)],
    ["at y", "uMaxAt", read((r) => upper(r).x)],
    ["v max", "vMax", read((r) => -left(r).value)],
    ["at x", "vMaxAt", read((r) => left(r).x)],
  ] as const;
  const uncertainty = warmWallUncertainty(t);
  for (const [name, key, { value, doubt }] of figures) {
    const share = (d: number) => ((100 * d) / value).toFixed(3);
    const cells = [t[key], value.toPrecision(6), share(t[key] - value), share(2 * uncertainty[key]), share(doubt)];
    say(`| ${[t.rayleigh.toExponential(0).replace("e+", "e"), name, ...cells].join(" | ")} |`);
  }
}

/** Says docs/tables.md. */
export function tables(): void {
  say("# Published tables held against another method");
  say();
  say(
    `Written by \`npm run bench tables\`. Stream function and vorticity by differences of second order on lines that crowd towards the sides, solved whole by Newton's method (bench/steadyBox.ts): nothing of the bench's solvers, and steady also where a flow would not stay so. Under the lid meshes of ${SPACES.join(", ")} spaces a side, carried on to no spacing by h² and h⁴; doubtful is what h⁴ made of it. In the chamber polynomials through seven lines (bench/sharpBox.ts) on ${WARM_SPACES.slice(1).join(", ")} spaces a side; doubtful is what the last mesh changed.`,
  );
  say();
  liddedPart();
  warmPart();
}

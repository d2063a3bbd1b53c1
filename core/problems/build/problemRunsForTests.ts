import type { BalanceRecord } from "../../records/balance.ts";
import { DEFAULT_NUMERICS } from "../describe/caseSetup.ts";
import { presetFormulas, presetParameters } from "../describe/catalogue.ts";
import type { Numerics, RunSettings } from "../describe/runSettings.ts";
import { BenchJob } from "./benchJob.ts";
import { benchProblem } from "./catalogue.ts";

/** What a test changes of a template's presets. */
export interface Changes {
  /** times the cells of the template's first mesh, each way */
  readonly scale?: number;
  readonly numerics?: Partial<Numerics>;
  readonly parameters?: Readonly<Record<string, number>>;
  readonly formulas?: Readonly<Record<string, string>>;
  readonly shape?: "rows" | "smooth" | "jittered" | "triangles" | "hexagons";
}

export function settingsOf(id: string, c: Changes = {}): RunSettings {
  const p = benchProblem(id);
  const { baseNx, baseNy, gradingX, gradingY, shape } = p.family;
  const scale = c.scale ?? 1;
  return {
    problemId: id,
    parameters: { ...presetParameters(p), ...c.parameters },
    formulas: { ...presetFormulas(p), ...c.formulas },
    numerics: { ...DEFAULT_NUMERICS, ...p.numerics, ...c.numerics },
    mesh: {
      nx: Math.round(baseNx * scale),
      ny: Math.round(baseNy * scale),
      gradingX,
      gradingY,
      ...((c.shape ?? shape) ? { shape: c.shape ?? shape } : {}),
    },
    code: "bench",
  };
}

export function run(id: string, c: Changes = {}, most = Number.POSITIVE_INFINITY): BenchJob {
  const job = new BenchJob(settingsOf(id, c));
  for (let k = 0; k < most && job.underWay; k++) job.step();
  return job;
}

/** Observed orders of all fields' L2 errors between a mesh and one twice as fine. */
export function orders(id: string, c: Changes, from: number): number[] {
  const [coarse, fine] = [from, 2 * from].map((scale) => run(id, { ...c, scale }).result().errorNorms);
  return coarse.map(({ l2 }, field) => Math.log2(l2 / fine[field].l2));
}

export const order = (id: string, c: Changes, field: number, from: number): number => orders(id, c, from)[field];

/** Net over throughput of everything a record balances. */
export function misfits(b: BalanceRecord): Record<string, number> {
  const out: Record<string, number> = {};
  const add = (what: string, net: number, parts: number[]) => {
    const through = Math.max(...parts.map(Math.abs));
    if (through > 0) out[what] = Math.abs(net) / through;
  };
  const sum = (v: number[]) => v.reduce((s, x) => s + x, 0);
  const mass = b.boundaries.map((r) => r.mass ?? 0);
  add("mass", sum(mass) + (b.storage?.mass ?? 0) - (b.sources?.mass ?? 0), [...mass, b.massReference ?? 0]);
  const all = b.boundaries
    .flatMap((r) => [...(r.momentumX ?? []), ...(r.momentumY ?? [])])
    .concat(b.bodyForce ?? [], 0.1 * (b.momentumReference ?? 0));
  // Where everything is joined, no boundary pushes: what is left is rounding.
  if (b.boundaries.some((r) => r.momentumX))
    add("x", sum(b.boundaries.flatMap((r) => [...(r.momentumX ?? [])])) - (b.bodyForce?.[0] ?? 0) + (b.storage?.momentum?.[0] ?? 0), all);
  if (b.boundaries.some((r) => r.momentumY) && b.boundaries.every((r) => r.momentumY || r.name.includes("joined")))
    add("y", sum(b.boundaries.flatMap((r) => [...(r.momentumY ?? [])])) - (b.bodyForce?.[1] ?? 0) + (b.storage?.momentum?.[1] ?? 0), all);
  for (const key of Object.keys(b.boundaries[0]?.scalars ?? {})) {
    const parts = b.boundaries.map((r) => sum([...(r.scalars?.[key] ?? [])]));
    add(key, sum(parts) - (b.sources?.[key] ?? 0) + (b.storage?.scalars?.[key] ?? 0), parts);
  }
  return out;
}

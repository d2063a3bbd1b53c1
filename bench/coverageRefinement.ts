import { writeFileSync } from "node:fs";
import { LOOK_WORDS, LOOKS, lookOf } from "../core/method/refinement/look.ts";
import { judgeLadder } from "../core/method/refinement/procedures.ts";
import { normalsOf, randomFrom } from "../core/numeric/random.ts";
import { BenchJob } from "../core/problems/build/benchJob.ts";
import { BENCH_PROBLEMS } from "../core/problems/build/catalogue.ts";
import type { BenchProblem } from "../core/problems/build/problem.ts";
import { DEFAULT_NUMERICS } from "../core/problems/describe/caseSetup.ts";
import { presetFormulas, presetParameters } from "../core/problems/describe/catalogue.ts";
import { familyMesh } from "../core/problems/describe/problem.ts";
import { PROCEDURE_WORDS, PROCEDURES, type ProcedureKey } from "../core/records/procedure.ts";
import { say } from "./say.ts";

const SETS = 1000;
const RUNGS = [3, 4, 5, 6];
const FORMAL = 2;

const random = randomFrom(20_27);
const between = (a: number, b: number) => a + (b - a) * random();
const spread = (a: number, b: number) => Math.exp(between(Math.log(a), Math.log(b)));
const normal = normalsOf(random);
const size = () => spread(0.001, 0.1) * (random() < 0.5 ? -1 : 1);
const percent = (share: number) => `${(100 * share).toFixed(0)} %`;

/** A family of values about 1, with its noise as a share of the last difference, and whether that was told. */
interface Family {
  readonly value: (h: number) => number;
  readonly noise?: number;
  readonly told?: boolean;
}

const power = (low: number, high: number) => (): Family => {
  const [p, c] = [between(low, high), size()];
  return { value: (h) => 1 + c * h ** p };
};
const two = (signs: 1 | -1) => (): Family => {
  const c = size();
  const b = signs * c * spread(0.1, 10);
  return { value: (h) => 1 + c * h * h + b * h };
};
const noisy = (told: boolean) => (): Family => {
  const c = size();
  return { value: (h) => 1 + c * h * h, noise: spread(0.01, 0.5), told };
};

/** Classes of behaviour; h1 is the finest spacing, which three of them are placed by. */
const FAMILIES: readonly (readonly [name: string, make: (finest: number) => Family, monotone: boolean])[] = [
  ["power, order 0.3 to 0.5", power(0.3, 0.5), true],
  ["power, order 0.5 to 1", power(0.5, 1), true],
  ["power, order 1 to 1.8", power(1, 1.8), true],
  ["power, order 1.8 to 2.2", power(1.8, 2.2), true],
  ["power, order 2.2 to 4", power(2.2, 4), true],
  ["first and second order, like signs", two(1), true],
  ["first and second order, unlike signs", two(-1), true],
  [
    "second and third order",
    () => {
      const c = size();
      const b = c * between(-0.5, 0.5);
      return { value: (h) => 1 + c * h * h + b * h ** 3 };
    },
    true,
  ],
  ["second order, noise of 1 to 50 % of the last difference, told", noisy(true), true],
  ["the same, not told", noisy(false), true],
  [
    "second order, wavy by 5 to 40 %",
    () => {
      const [c, w, e, phase] = [size(), spread(1, 6), between(0.05, 0.4), between(0, 6.3)];
      return { value: (h) => 1 + c * h * h * (1 + e * Math.sin(w * Math.log(h) + phase)) };
    },
    true,
  ],
  [
    "coarse rungs before the asymptotic range",
    () => {
      const [c, s] = [size(), spread(0.4, 3)];
      return { value: (h) => 1 + (c * h * h) / (1 + (h / s) ** 2) };
    },
    true,
  ],
  [
    "turning over on a coarse rung",
    (finest) => {
      const [c, at] = [size(), finest * spread(1.2, 6)];
      return { value: (h) => 1 + c * h * h * (1 - 0.5 * (h / at) ** 2) };
    },
    false,
  ],
  [
    "saturating on coarse rungs",
    (finest) => {
      const [c, at] = [size(), finest * spread(1, 4)];
      return { value: (h) => 1 + c * (1 - Math.exp(-((h / at) ** 2))) };
    },
    false,
  ],
];

function ladderOf(make: (finest: number) => Family, rungs: number) {
  const spacing = [between(0.08, 0.25)];
  while (spacing.length < rungs) spacing.push(spacing[spacing.length - 1] * between(1.25, 2.1));
  const { value, noise = 0, told } = make(spacing[0]);
  const error = noise * Math.abs(value(spacing[1]) - value(spacing[0]));
  return spacing.map((h) => ({ spacing: h, value: value(h) + (error / 2) * normal(), error: told ? error : 0 }));
}

interface Tally {
  sets: number;
  covered: number;
  readonly widths: number[];
}

const fresh = (): Tally => ({ sets: 0, covered: 0, widths: [] });

function count(t: Tally, uncertainty: number, error: number): void {
  t.sets++;
  if (error <= uncertainty) t.covered++;
  t.widths.push(error > 0 ? uncertainty / error : Number.POSITIVE_INFINITY);
}

const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[list.length >> 1];
const told = (t: Tally | undefined) =>
  t?.sets ? `${percent(t.covered / t.sets)} × ${median(t.widths) < 1000 ? median(t.widths).toPrecision(2) : "many"}` : "–";

/** How often the uncertainty of each procedure covers the truth, by class of behaviour and number of rungs. */
export function refinements(): void {
  say("## Refinement");
  say();
  say(
    `${SETS} seeded ladders a class and number of rungs, ratios of 1.25 to 2.1 that are all different, formal order ${FORMAL}: the share whose true error of the fine value lies within the stated 95 % uncertainty, and the uncertainty over that error (median). What is adopted is the larger of the three-mesh index and least squares. The aim is 93 % on classes that are monotone, 90 % with noise; turning over and saturating cannot be told from other classes with three rungs.`,
  );
  say();
  say(`| class | ${RUNGS.map((n) => `adopted, ${n} rungs`).join(" | ")} | least squares, 5 | factor of safety, 3 | correction factor, 3 |`);
  say(`|${" --- |".repeat(RUNGS.length + 4)}`);
  const looks = new Map<string, Tally>();
  for (const [name, make, monotone] of FAMILIES) {
    const adopted = new Map<number, Tally>();
    const by = new Map<string, Tally>();
    for (const rungs of RUNGS) {
      for (let s = 0; s < SETS; s++) {
        const ladder = ladderOf(make, rungs);
        const j = judgeLadder(ladder, FORMAL);
        const error = Math.abs(ladder[0].value - 1);
        const into = (map: Map<string, Tally>, key: string) => map.get(key) ?? map.set(key, fresh()).get(key)!;
        count(adopted.get(rungs) ?? adopted.set(rungs, fresh()).get(rungs)!, j.adopted.uncertainty, error);
        count(into(looks, `${lookOf(j.three, FORMAL)} ${rungs}`), j.adopted.uncertainty, error);
        for (const p of j.procedures) count(into(by, `${p.key} ${rungs}`), p.uncertainty, error);
      }
    }
    const cells = [...RUNGS.map((n) => told(adopted.get(n))), told(by.get("least-squares 5")), told(by.get("factor-of-safety 3"))];
    say(`| ${name}${monotone ? "" : " (not monotone)"} | ${cells.join(" | ")} | ${told(by.get("correction-factor 3"))} |`);
  }
  say();
  byLook(looks);
  exactCases();
}

/** The same sets by how they look, which is all that is known of a real one: what the application prints beside its uncertainty. */
function byLook(looks: ReadonlyMap<string, Tally>): void {
  say("The same ladders by how their finest three values look, all classes together; the application prints this beside an uncertainty.");
  say();
  say(`| look | ${RUNGS.map((n) => `${n} rungs`).join(" | ")} |`);
  say(`|${" --- |".repeat(RUNGS.length + 1)}`);
  for (const look of LOOKS) {
    const cells = RUNGS.map((n) => {
      const t = looks.get(`${look} ${n}`);
      return t ? `${percent(t.covered / t.sets)} of ${t.sets}` : "–";
    });
    say(`| ${LOOK_WORDS[look]} | ${cells.join(" | ")} |`);
  }
  say();
  const rows = LOOKS.flatMap((look) =>
    RUNGS.flatMap((n) => {
      const t = looks.get(`${look} ${n}`);
      return t ? [`  "${look} ${n}": { sets: ${t.sets}, covered: ${t.covered} },`] : [];
    }),
  );
  writeFileSync(
    "core/method/refinement/lookCoverage.ts",
    `// Written by \`npm run coverage\`: sets by how they looked and how many rungs they had, and how many of them the adopted uncertainty covered.\nexport const LOOK_COVERAGE: Readonly<Record<string, { readonly sets: number; readonly covered: number }>> = {\n${rows.join("\n")}\n};\n`,
  );
}

const MESHES = 5;
const RATIO = 1.5;
/** a true error below this share of the value is exact, and proves nothing */
const EXACT = 1e-9;

/** Values of a problem's quantities on five meshes, and what they truly are. */
function solved(p: BenchProblem) {
  const parameters = presetParameters(p);
  const formulas = presetFormulas(p);
  const runs = Array.from({ length: MESHES }, (_, k) => {
    const scale = RATIO ** (MESHES - 1 - k) / 2;
    const mesh = familyMesh(p.family, Math.max(4, Math.round(p.family.baseNx * scale)), Math.max(4, Math.round(p.family.baseNy * scale)));
    const job = new BenchJob({ problemId: p.id, parameters, formulas, numerics: { ...DEFAULT_NUMERICS, ...p.numerics }, mesh, code: "bench" });
    while (job.underWay) job.step();
    return { spacing: 1 / Math.sqrt(job.mesh.cellCount), values: job.result().quantities };
  });
  const truths = p.yardsticks(parameters, formulas).filter((y) => y.kind === "exact" && y.validity.inside);
  const known = new Map(truths.flatMap((y) => y.values.map((v) => [v.quantityKey, v.value] as const)));
  return p.quantities.flatMap((q) => {
    const truth = known.get(q.key);
    return truth === undefined ? [] : [{ q, truth, rungs: runs.map((r) => ({ spacing: r.spacing, value: r.values[q.key], error: 0 })) }];
  });
}

/** The bench's exact cases over a ladder of five meshes each. */
function exactCases(): void {
  say(
    `Every exact case of the bench at its preset on ${MESHES} meshes, each ${RATIO} times as fine as the last: quantities whose true error the stated uncertainty covers, of those that are not exact from the start.`,
  );
  say();
  say(`| procedure | three finest, or all | covered | over the error, median |`);
  say("| --- | --- | --- | --- |");
  const tallies = new Map<ProcedureKey | "adopted", Tally>();
  const missed: string[] = [];
  for (const p of BENCH_PROBLEMS.filter((b) => b.kind === "exact")) {
    for (const { q, truth, rungs } of solved(p)) {
      const error = Math.abs(rungs[0].value - truth);
      if (!Number.isFinite(error) || error <= EXACT * Math.max(Math.abs(truth), 1e-300)) continue;
      const j = judgeLadder(rungs, p.formalOrder);
      for (const [key, uncertainty] of [...j.procedures.map((x) => [x.key, x.uncertainty] as const), ["adopted", j.adopted.uncertainty] as const])
        count(tallies.get(key) ?? tallies.set(key, fresh()).get(key)!, uncertainty, error);
      if (error > j.adopted.uncertainty)
        missed.push(`${p.title}: ${q.name}, error ${error.toPrecision(2)}, stated ${j.adopted.uncertainty.toPrecision(2)}`);
    }
  }
  for (const key of [...PROCEDURES, "adopted"] as const) {
    const t = tallies.get(key);
    if (!t) continue;
    const name = key === "adopted" ? "what is adopted" : PROCEDURE_WORDS[key];
    say(
      `| ${name} | ${key === "least-squares" || key === "adopted" ? "all" : "three"} | ${t.covered} of ${t.sets} | ${median(t.widths).toPrecision(2)} |`,
    );
  }
  say();
  for (const line of missed) say(`- not covered: ${line}`);
  if (missed.length) say();
}

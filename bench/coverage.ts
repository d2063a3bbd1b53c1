import { readFileSync, writeFileSync } from "node:fs";
import { meanUncertainty } from "../core/method/averaging/meanUncertainty.ts";
import { averageRecord } from "../core/method/averaging/record.ts";
import { iterationError } from "../core/method/iteration/iterationError.ts";
import { normalsOf, randomFrom } from "../core/numeric/random.ts";
import { refinements } from "./coverageRefinement.ts";
import { out, say } from "./say.ts";

/**
 * Writes docs/coverage.md: how often stated uncertainties hold on seeded records whose truth is known.
 * npm run coverage                  all of it
 * npm run coverage -- refinement    that part alone
 */

const SERIES = 1000;
const random = randomFrom(20_26);
const between = (a: number, b: number) => a + (b - a) * random();
const spread = (a: number, b: number) => Math.exp(between(Math.log(a), Math.log(b)));
const normal = normalsOf(random);
const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

function autoregressive(n: number, coefficients: readonly number[]): Float64Array {
  const y = new Float64Array(n + 600);
  for (let i = coefficients.length; i < y.length; i++) y[i] = coefficients.reduce((sum, a, k) => sum + a * y[i - 1 - k], normal());
  return y.subarray(600);
}

function means(): void {
  say("## Means");
  say();
  say(`Share of ${SERIES} seeded series whose 95 % interval holds the true mean. The aim is 93 to 97 %.`);
  say();
  say("| series | 200 samples | 1,000 samples |");
  say("| --- | --- | --- |");
  const pair = (period: number, radius: number) => [2 * radius * Math.cos((2 * Math.PI) / period), -radius * radius];
  const classes: readonly (readonly [string, (n: number) => Float64Array])[] = [
    ...[-0.9, -0.8, -0.6, -0.3, 0, 0.3, 0.6, 0.8, 0.9, 0.95, 0.97].map((phi) => [`AR(1), ${phi}`, (n: number) => autoregressive(n, [phi])] as const),
    ...[2.5, 3, 4, 8, 20].flatMap((period) =>
      [0.8, 0.95].map((radius) => [`AR(2), period ${period}, radius ${radius}`, (n: number) => autoregressive(n, pair(period, radius))] as const),
    ),
    ["ugly: AR(1) 0.9 under white noise of its size", (n) => autoregressive(n, [0.9]).map((v) => v + 2 * normal())],
    ["ugly: moving sum of five", (n) => movingSum(n)],
    ["ugly: telegraph signal", (n) => telegraph(n)],
    [
      "ugly: sine under white noise",
      (n) =>
        wave(
          n,
          7 + 10 * random(),
          new Float64Array(n).map(() => 0.5 * normal()),
        ),
    ],
    [
      "ugly: sine five times an AR(1) of 0.8",
      (n) =>
        wave(
          n,
          17 + 20 * random(),
          autoregressive(n, [0.8]).map((v) => v / 5),
        ),
    ],
    ["ugly: skewed, exponential of AR(1) 0.8", (n) => autoregressive(n, [0.8]).map((v) => Math.exp(v * 0.6) - Math.exp(0.36 / (1 - 0.64) / 2))],
  ];
  for (const [name, make] of classes) {
    const covered = [200, 1000].map((n) => {
      let inside = 0;
      for (let s = 0; s < SERIES; s++) {
        const m = meanUncertainty(make(n));
        if (Math.abs(m.mean) <= m.expanded) inside++;
      }
      return percent(inside / SERIES);
    });
    say(`| ${name} | ${covered.join(" | ")} |`);
  }
  say();
  say(
    "Weak slow start-ups: a record of deviation 1 (AR(1) of 0.5) with a start-up of the height given that falls to a third within the share of the record given.",
  );
  say();
  say("| height, share | 200 samples | 1,000 samples | 4,000 samples |");
  say("| --- | --- | --- | --- |");
  for (const [height, share] of [
    [0, 0.2],
    [0.5, 0.2],
    [1, 0.2],
    [1, 0.3],
    [2, 0.3],
  ]) {
    const covered = [200, 1000, 4000].map((n) => {
      const at = Float64Array.from({ length: n }, (_, i) => i);
      let inside = 0;
      for (let s = 0; s < 300; s++) {
        const y = autoregressive(n, [0.5]).map((v, i) => v * Math.sqrt(0.75) + height * Math.exp(-i / (share * n)));
        const r = averageRecord(at, y, { abscissa: "iterations" });
        if (Math.abs(r.mean) <= r.expanded || r.doubts.some((d) => ["slow-start-up", "drift", "too-short"].includes(d.rule))) inside++;
      }
      return percent(inside / 300);
    });
    say(`| ${height}, ${share} | ${covered.join(" | ")} |`);
  }
  say();
}

const movingSum = (n: number) => {
  const e = Float64Array.from({ length: n + 4 }, normal);
  return Float64Array.from({ length: n }, (_, i) => e[i] + e[i + 1] + e[i + 2] + e[i + 3] + e[i + 4]);
};
const telegraph = (n: number) => {
  let v = random() < 0.5 ? 1 : -1;
  return Float64Array.from({ length: n }, () => {
    if (random() < 0.05) v = -v;
    return v + 0.1 * normal();
  });
};
const wave = (n: number, period: number, noise: Float64Array) => {
  const phase = 6.28 * random();
  return noise.map((e, i) => e + Math.sin((2 * Math.PI * i) / period + phase)).subarray(0, n);
};

interface Made {
  readonly n: number;
  readonly value: (i: number) => number;
  /** size of what is left at the last entry; NaN for a drift */
  readonly truth: number;
  readonly scale: number;
}

const slowFactor = () => 1 - spread(5e-4, 0.3);
const lengthFor = (factor: number) => Math.round(Math.max(40, between(0.6, 5) / (1 - factor)));

const RECORDS: Readonly<Record<string, () => Made>> = {
  "one real factor, 0.7 to 0.9995": () => {
    const [factor, c] = [slowFactor(), spread(0.01, 100)];
    const [n, a] = [lengthFor(factor), c * spread(0.003, 0.3)];
    return { n, value: (i) => c + a * factor ** i, truth: a * factor ** (n - 1), scale: c };
  },
  "two real factors": () => {
    const [factor, c] = [slowFactor(), spread(0.01, 100)];
    const second = 1 - Math.min(0.9, (1 - factor) * spread(3, 30));
    const [n, a, b] = [lengthFor(factor), c * spread(0.003, 0.3), c * spread(0.003, 0.3) * (random() < 0.5 ? -1 : 1)];
    return { n, value: (i) => c + a * factor ** i + b * second ** i, truth: Math.abs(a * factor ** (n - 1) + b * second ** (n - 1)), scale: c };
  },
  alternating: () => {
    const [factor, c] = [slowFactor(), spread(0.01, 100)];
    const [n, a] = [lengthFor(factor), c * spread(0.003, 0.3)];
    return { n, value: (i) => c + a * (-factor) ** i, truth: a * factor ** (n - 1), scale: c };
  },
  "complex pair, angles 0.02 to 3.1": () => {
    const [factor, c, angle, phase] = [slowFactor(), spread(0.01, 100), spread(0.02, 3.1), between(0, 6.3)];
    const [n, a] = [lengthFor(factor), c * spread(0.003, 0.3)];
    return { n, value: (i) => c + a * factor ** i * Math.cos(angle * i + phase), truth: a * factor ** (n - 1), scale: c };
  },
  "cycles of period 3 to 300": () => {
    const [period, c, phase] = [spread(3, 300), spread(0.01, 100), between(0, 6.3)];
    const [n, a] = [Math.round(Math.max(60, period * between(2, 8))), c * spread(0.001, 0.1)];
    return { n, value: (i) => c + a * Math.cos((2 * Math.PI * i) / period + phase), truth: a, scale: c };
  },
  "steps of 2 to 12 rows": () => {
    const [every, factor, c] = [Math.round(between(2, 12)), 1 - spread(0.002, 0.2), spread(0.01, 100)];
    const rows = Math.round(Math.max(12, between(0.6, 4) / (1 - factor)));
    const a = c * spread(0.003, 0.3);
    return { n: rows * every, value: (i) => c + a * factor ** Math.floor(i / every), truth: a * factor ** (rows - 1), scale: c };
  },
  drift: () => {
    const [n, c] = [Math.round(between(100, 2000)), spread(0.01, 100)];
    const a = c * spread(0.001, 0.1);
    return { n, value: (i) => c + (a * i) / n, truth: Number.NaN, scale: c };
  },
};

function iterations(): void {
  say("## Iteration error");
  say();
  say(
    `Share of ${SERIES} seeded records a class whose stated error is within a factor of two of what is left, or of half the printed digit where that is larger. For drifts: the share named moving or growing, with at least half of what the later half of the record moved. The aim is 90 %.`,
  );
  say();
  say("| class | 5 digits | 6 digits | 8 digits |");
  say("| --- | --- | --- | --- |");
  for (const [name, make] of Object.entries(RECORDS)) {
    const shares = [5, 6, 8].map((digits) => {
      let right = 0;
      for (let s = 0; s < SERIES; s++) {
        const made = make();
        const e = iterationError(Array.from({ length: made.n }, (_, i) => Number(made.value(i).toPrecision(digits))));
        if (Number.isNaN(made.truth)) {
          const moved = Math.abs(made.value(made.n) - made.value(made.n / 2));
          if (e.kind !== "still" && e.kind !== "noise" && Math.abs(e.error) >= 0.5 * moved) right++;
          continue;
        }
        const half = 10 ** (Math.floor(Math.log10(made.scale)) - digits + 1) / 2;
        const ratio = Math.abs(e.error) / Math.max(made.truth, half);
        if (ratio >= 0.5 && ratio <= 2) right++;
      }
      return percent(right / SERIES);
    });
    say(`| ${name} | ${shares.join(" | ")} |`);
  }
  say();
}

const PAGE = "docs/coverage.md";
const REFINEMENT = "## Refinement";

/** What stands on the page before the part on refinement. */
function keptParts(): string {
  const page = readFileSync(PAGE, "utf8");
  return page.slice(0, page.indexOf(REFINEMENT)).trimEnd();
}

let before = "";
if (process.argv[2] === "refinement") before = `${keptParts()}\n\n`;
else {
  say("# How often stated uncertainties hold");
  say();
  say(
    "Written by `npm run coverage`, of refinement alone by `npm run coverage -- refinement`. Every record is made from one seed, its truth known; what is called ugly breaks an assumption of the method on purpose.",
  );
  say();
  means();
  iterations();
}
refinements();
writeFileSync(PAGE, `${before}${out.join("\n").trimEnd()}\n`);

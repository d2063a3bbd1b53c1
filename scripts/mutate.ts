/**
 * Changes the code a little in many places and counts how many of the changes the tests notice.
 * npm run mutate                      a seeded sample of every subject, ended within ten minutes
 * npm run mutate -- --wide            about twice as many, of which the small sample is the beginning
 * npm run mutate -- setup formats     a sample of these subjects
 * npm run mutate -- --all [subjects]  every change
 * npm run mutate -- --survivors       lists what was not noticed
 * npm run mutate -- --wide --document writes the figures into docs/tests.md, each subject as it ends
 */
import { spawnSync } from "node:child_process";
import { cpSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, symlinkSync, writeFileSync } from "node:fs";
import path from "node:path";
import { parse } from "@babel/parser";
import { randomFrom } from "../core/numeric/random.ts";
import { SUBJECTS, type Subject } from "./mutationSubjects.ts";

const ROOT = process.cwd();
const COPY = path.join(ROOT, ".tmp/mutation");
const SEED = 20260404;
/** changes tried of each subject in a sample, about; and of subjects whose tests start workers or databases, and take long each time they are asked */
const QUICK = { plain: 8, slow: 7 };
const WIDE = { plain: 20, slow: 12 };
/** lines drawn together: few, so that no dense place makes up a sample by itself */
const BLOCK_LINES = 2;

interface Outcome {
  readonly noticed: number;
  readonly tried: number;
  readonly survivors: readonly string[];
}

const isTest = (file: string) => file.endsWith(".test.ts");

function filesIn(place: string): string[] {
  if (statSync(place).isFile()) return [place];
  return readdirSync(place, { withFileTypes: true }).flatMap((e) => filesIn(path.join(place, e.name)));
}

const sourcesOf = (s: Subject) => s.code.flatMap(filesIn).filter((f) => /\.ts$/.test(f) && !isTest(f) && !/\.(d|as|wasm)\.ts$/.test(f));

interface Node {
  readonly type: string;
  readonly start: number;
  readonly end: number;
  readonly [key: string]: unknown;
}

/** calls whose numbers are digits or places in a list, not limits of a judgement */
const LAYOUT_CALLS =
  /^(toFixed|toPrecision|toExponential|significant|quantityText|scientific|slice|subarray|at|padStart|padEnd|repeat|toString|max|min)$/;

/** Where the numbers of a file stand that say something: not 0 or 1, no index, no count of digits, no type. */
function constantsOf(text: string): { start: number; end: number }[] {
  const found: { start: number; end: number }[] = [];
  const visit = (node: Node, parent: Node | undefined) => {
    if (node.type.startsWith("TS") && !/^TS(AsExpression|NonNullExpression|SatisfiesExpression)$/.test(node.type)) return;
    if (node.type === "NumericLiteral" && (node.value as number) !== 0 && (node.value as number) !== 1) {
      const callee = parent?.type === "CallExpression" ? (parent.callee as Node) : undefined;
      const name = ((callee?.property as Node | undefined)?.name ?? callee?.name ?? "") as string;
      const small = LAYOUT_CALLS.test(name) && Number.isInteger(node.value as number);
      const place =
        (parent?.type === "MemberExpression" && parent.property === node) || (/Property$/.test(parent?.type ?? "") && parent?.key === node);
      if (!small && !place) found.push({ start: node.start, end: node.end });
    }
    for (const value of Object.values(node)) {
      for (const child of Array.isArray(value) ? value : [value]) {
        if (child && typeof child === "object" && typeof (child as Node).type === "string") visit(child as Node, node);
      }
    }
  };
  visit(parse(text, { sourceType: "module", plugins: ["typescript"] }).program as unknown as Node, undefined);
  return found.sort((a, b) => b.start - a.start);
}

/** Spells every constant x as (x * 2 / 2): the same to the last bit, and a changed sign of the product makes it four times or a quarter. */
function spelled(text: string): string {
  return constantsOf(text).reduce((out, { start, end }) => `${out.slice(0, start)}(${out.slice(start, end)} * 2 / 2)${out.slice(end)}`, text);
}

/** what the mutation package changes, counted roughly in a piece of code */
const CHANGEABLE = /[<>]=?|[=!]==|&&|\|\||\?\?|[^\w]-|[+*/%!]|\b(?:if|for|while|true|false|some|every|filter|slice|min|max)\b|\b\d+(?:\.\d+)?\b/g;

interface Block {
  readonly place: string;
  readonly weight: number;
}

/** The lines of a file in blocks, with how many changes each has room for. */
function blocksOf(file: string): Block[] {
  const lines = readFileSync(file, "utf8").split("\n");
  return Array.from({ length: Math.ceil(lines.length / BLOCK_LINES) }, (_, b) => {
    const own = lines.slice(b * BLOCK_LINES, (b + 1) * BLOCK_LINES).filter((line) => !/^\s*(?:\/?\*|\/\/|import )/.test(line));
    const weight =
      own
        .join("\n")
        .replace(/"[^"]*"/g, "")
        .match(CHANGEABLE)?.length ?? 0;
    return { place: `${file}:${b * BLOCK_LINES + 1}-${Math.min(lines.length, (b + 1) * BLOCK_LINES)}`, weight };
  }).filter((b) => b.weight > 0);
}

/** Blocks in a seeded order until they have room for so many changes. */
function drawn(files: readonly string[], most: number): string[] {
  const random = randomFrom(SEED);
  const order = files
    .flatMap(blocksOf)
    .map((b) => ({ ...b, at: random() }))
    .sort((x, y) => x.at - y.at);
  const places: string[] = [];
  for (let left = most; left > 0 && order.length; ) {
    const { place, weight } = order.shift()!;
    places.push(place);
    left -= weight;
  }
  return places;
}

function prepareCopy(subjects: readonly Subject[]): void {
  rmSync(COPY, { recursive: true, force: true });
  mkdirSync(COPY, { recursive: true });
  for (const name of ["core", "server", "demo", "scripts", "package.json", "stryker.config.json", "vitest.mutate.config.ts"])
    cpSync(path.join(ROOT, name), path.join(COPY, name), { recursive: true });
  symlinkSync(path.join(ROOT, "node_modules"), path.join(COPY, "node_modules"));
  // A copy: a build meanwhile would take the workers away from under the tests.
  cpSync(path.join(ROOT, "dist"), path.join(COPY, "dist"), { recursive: true });
  for (const file of new Set(subjects.flatMap(sourcesOf))) writeFileSync(path.join(COPY, file), spelled(readFileSync(file, "utf8")));
}

/** How many changes are tried: about so many of a subject, or all of them. */
type Extent = typeof QUICK | "all";

function run(s: Subject, extent: Extent): Outcome {
  const files = sourcesOf(s);
  const places = extent === "all" ? files : drawn(files, s.slow ? extent.slow : extent.plain);
  const report = path.join(COPY, "mutation.json");
  rmSync(report, { force: true });
  const tests = s.tests.flatMap(filesIn).filter(isTest).join(",");
  const env = { ...process.env, MUTATION_TESTS: tests, MUTATION_APART: s.apart ? "yes" : "no" };
  const done = spawnSync("npx", ["--no-install", "stryker", "run", "-m", places.join(",")], {
    cwd: COPY,
    env,
    encoding: "utf8",
    maxBuffer: 1 << 28,
  });
  if (done.status !== 0) throw new Error(`${s.name}: ${done.stdout}\n${done.stderr}`);
  return read(report, env);
}

/**
 * Makes a change for good and asks the tests once more. The package overlooks one that already breaks what a file of tests prepares outside its
 * tests: no test fails, for none begins.
 */
function breaksAtOnce(file: string, source: string, { location, replacement }: Mutant, env: NodeJS.ProcessEnv): boolean {
  const lines = source.split("\n");
  const offset = ({ line, column }: Place) => lines.slice(0, line - 1).reduce((n, l) => n + l.length + 1, 0) + column - 1;
  const place = path.join(COPY, file);
  writeFileSync(place, source.slice(0, offset(location.start)) + replacement + source.slice(offset(location.end)));
  const { status } = spawnSync("npx", ["--no-install", "vitest", "run", "--bail=1", "--config", "vitest.mutate.config.ts"], {
    cwd: COPY,
    env,
    timeout: 120_000,
  });
  writeFileSync(place, source);
  return status !== 0;
}

/** What the mutation run wrote, with the lines that survived. */
function read(report: string, env: NodeJS.ProcessEnv): Outcome {
  const found = JSON.parse(readFileSync(report, "utf8")) as {
    files: Record<string, { source: string; mutants: Mutant[] }>;
  };
  const survivors: string[] = [];
  let [noticed, tried] = [0, 0];
  for (const [file, { source, mutants }] of Object.entries(found.files)) {
    const lines = source.split("\n");
    for (const m of mutants) {
      if (!["Killed", "Timeout", "Survived", "NoCoverage"].includes(m.status)) continue;
      tried++;
      if (m.status === "Killed" || m.status === "Timeout" || breaksAtOnce(file, source, m, env)) noticed++;
      else survivors.push(`${file}:${m.location.start.line} ${was(lines, m.location)} -> ${m.replacement.replace(/\s+/g, " ").slice(0, 90)}`);
    }
  }
  return { noticed, tried, survivors };
}

interface Place {
  readonly line: number;
  readonly column: number;
}

interface Location {
  readonly start: Place;
  readonly end: Place;
}

interface Mutant {
  readonly status: string;
  readonly replacement: string;
  readonly location: Location;
}

function was(lines: readonly string[], { start, end }: Location): string {
  const text = lines[start.line - 1] ?? "";
  return text.slice(start.column - 1, start.line === end.line ? end.column - 1 : undefined).slice(0, 90);
}

const DOCUMENT = path.join(ROOT, "docs/tests.md");
const MARK = /<!-- figures -->[\s\S]*<!-- end of figures -->/;

const HEAD = ["| subject | tried | noticed | share | wanted |", "|---|---|---|---|---|"];
const subjectOf = (row: string) => row.split("|")[1]?.trim() ?? "";

/** Puts a subject's row into the table of the page, in the order of the subjects; the rows of others stay as they were measured. */
function document(row: string): void {
  const page = readFileSync(DOCUMENT, "utf8");
  const old = (page.match(MARK)?.[0] ?? "").split("\n").filter((line) => SUBJECTS.some((s) => s.name === subjectOf(line)));
  const rows = SUBJECTS.flatMap((s) => [row, ...old].find((line) => subjectOf(line) === s.name) ?? []);
  const block = `<!-- figures -->\nMeasured by \`npm run mutate -- --wide --document\`, seed ${SEED}, a sample of each subject.\n\n${[...HEAD, ...rows].join("\n")}\n<!-- end of figures -->`;
  writeFileSync(DOCUMENT, page.replace(MARK, block));
}

function main(words: readonly string[]): void {
  const extent = words.includes("--all") ? "all" : words.includes("--wide") ? WIDE : QUICK;
  const named = words.filter((w) => !w.startsWith("--"));
  const unknown = named.find((n) => !SUBJECTS.some((s) => s.name === n));
  if (unknown) throw new Error(`No subject ${unknown}; there are ${SUBJECTS.map((s) => s.name).join(", ")}.`);
  const subjects = SUBJECTS.filter((s) => !named.length || named.includes(s.name));
  prepareCopy(subjects);
  for (const s of subjects) {
    const begun = performance.now();
    const o = run(s, extent);
    const share = o.tried ? o.noticed / o.tried : 1;
    if (words.includes("--document")) document(`| ${s.name} | ${o.tried} | ${o.noticed} | ${(100 * share).toFixed(0)} % | ${100 * s.floor} % |`);
    console.log(
      `${s.name}: ${o.noticed} of ${o.tried} noticed (${(100 * share).toFixed(0)} %, ${100 * s.floor} wanted), ${((performance.now() - begun) / 1000).toFixed(0)} s`,
    );
    if (words.includes("--survivors")) for (const line of o.survivors) console.log(`  ${line}`);
    if (share < s.floor) process.exitCode = 1;
  }
}

main(process.argv.slice(2));

import type { EvalFunction, MathNode, Unit } from "mathjs";
import { derivative, EXPRESSIONS } from "../../numeric/expressions.ts";
import { parseFormula } from "../../numeric/formulaCost.ts";
import type { Numbers } from "../../numeric/numbers.ts";
import type { DerivedSpec, NamedValue } from "../../records/derived.ts";
import { withUnits } from "../../units/units.ts";

const unitOf = (value: number, unit: string): Unit => withUnits(EXPRESSIONS).unit(value, unit);

/** A formula that cannot be used, with the part that shows it. */
export class DerivedError extends Error {}

const FUNCTIONS = ["sqrt", "abs", "exp", "log", "sin", "cos", "tan", "min", "max"];
const OPERATORS = ["add", "subtract", "multiply", "divide", "pow", "unaryMinus", "unaryPlus"];
const CONSTANTS = ["pi"];
/** brackets in brackets */
const DEEPEST = 10;

/**
 * Reads a formula of names, numbers, + - * / ^ and a few functions; nothing else is carried out.
 * @throws {DerivedError} anything that is not among them, a name that is not known
 */
export function readDerived(text: string, names: readonly string[]): MathNode {
  const node = parseFormula(text, DEEPEST, (sentence) => new DerivedError(sentence));
  node.traverse((part) => {
    const p = part as MathNode & { name?: string; fn?: { name?: string } | string; value?: unknown };
    if (p.type === "ParenthesisNode" || (p.type === "ConstantNode" && typeof p.value === "number")) return;
    if (p.type === "OperatorNode" && OPERATORS.includes(String(p.fn))) return;
    if (p.type === "FunctionNode" && FUNCTIONS.includes(String((p.fn as { name?: string }).name))) return;
    if (p.type === "SymbolNode" && [...names, ...CONSTANTS, ...FUNCTIONS].includes(String(p.name))) return;
    const known = names.length ? ` Known are ${names.join(", ")}.` : "";
    throw new DerivedError(
      p.type === "SymbolNode"
        ? `Nothing is called "${p.name}".${known}`
        : `"${part.toString()}" is not allowed in a formula; use names, numbers, + - * / ^ and ${FUNCTIONS.join(", ")}.`,
    );
  });
  return node;
}

/** Names a formula uses. */
export function namesIn(node: MathNode): string[] {
  const found = new Set<string>();
  node.traverse((part, path) => {
    const name = (part as MathNode & { name?: string }).name;
    if (part.type === "SymbolNode" && path !== "fn" && name && !CONSTANTS.includes(name)) found.add(name);
  });
  return [...found];
}

/** What a formula gives where every name stands for one of its unit. @throws {DerivedError} units that do not go together */
function evaluatedInUnits(node: MathNode, values: readonly NamedValue[]): unknown {
  const scope: Record<string, unknown> = {};
  // 2 keeps sums from vanishing and roots real, and squares what a pure number is the exponent of; only the dimension of what comes out matters.
  for (const { name, unit } of values) scope[name] = unit === "" || unit === "1" ? 2 : unitOf(1, unit);
  try {
    return node.evaluate(scope);
  } catch (error) {
    throw new DerivedError(`The units of "${node.toString()}" do not go together: ${(error as Error).message}.`);
  }
}

/** A number, or a complex one, which a root makes of a difference whose sign is not known here. */
const isPure = (out: unknown): boolean => typeof (out as Partial<Unit>).toSI !== "function";

/** What kind of quantity a formula gives: a key that is the same for quantities that can be compared, its SI unit, and words for it. @throws {DerivedError} units that do not go together */
export function unitFound(node: MathNode, values: readonly NamedValue[]): { key: string; unit: string; words: string } {
  const out = evaluatedInUnits(node, values);
  if (isPure(out)) return { key: "", unit: "1", words: "a pure number" };
  const unit = (out as Unit).toSI().formatUnits().replaceAll(" / ", "/");
  return { key: JSON.stringify((out as unknown as { dimensions: number[] }).dimensions), unit, words: `counted in ${unit}` };
}

/**
 * Checks that a formula gives the unit it is to have.
 * @throws {DerivedError} dimensions do not fit
 */
export function checkUnits(node: MathNode, values: readonly NamedValue[], wanted: string): void {
  const out = evaluatedInUnits(node, values);
  const pure = isPure(out);
  const target = wanted === "" || wanted === "1" ? undefined : unitOf(1, wanted);
  const fits = pure ? target === undefined : target !== undefined && (out as Unit).equalBase(target);
  if (!fits)
    throw new DerivedError(
      `"${node.toString()}" gives ${pure ? "a pure number" : (out as Unit).toSI().formatUnits() || "a pure number"}, not ${wanted === "" || wanted === "1" ? "a pure number" : wanted}.`,
    );
}

/** Order in which derived quantities can be worked out. @throws {DerivedError} a circle, named link by link */
export function inOrder(specs: readonly (DerivedSpec & { readonly symbol: string })[], names: readonly string[]): number[] {
  const at = new Map(specs.map((s, i) => [s.symbol, i]));
  const needs = specs.map((s) => namesIn(readDerived(s.formula, names)).flatMap((n) => at.get(n) ?? []));
  const state = specs.map(() => 0);
  const order: number[] = [];
  const visit = (i: number, path: readonly number[]) => {
    if (state[i] === 2) return;
    if (state[i] === 1) {
      const circle = [...path.slice(path.indexOf(i)), i].map((k) => specs[k].symbol);
      throw new DerivedError(`These need each other in a circle: ${circle.join(" needs ")}.`);
    }
    state[i] = 1;
    for (const j of needs[i]) visit(j, [...path, i]);
    state[i] = 2;
    order.push(i);
  };
  for (let i = 0; i < specs.length; i++) visit(i, []);
  return order;
}

export interface DerivedValue {
  readonly value: number;
  /** derivatives by the base names: what is not itself derived */
  readonly sensitivities: Readonly<Record<string, number>>;
  /** first-order standard uncertainty from those of the base names; undefined while one is not known */
  readonly standard?: number;
}

interface Ready {
  readonly key: string;
  readonly symbol: string;
  readonly value: EvalFunction;
  readonly slopes: readonly (readonly [name: string, slope: EvalFunction])[];
}

/** Derived quantities of a case, checked and ready to be evaluated on single values or records. All values are SI. */
export class DerivedSet {
  private readonly ready: readonly Ready[];

  /**
   * @param given everything that is not derived
   * @throws {DerivedError} a formula, a unit, a circle
   */
  constructor(specs: readonly (DerivedSpec & { readonly symbol: string })[], given: readonly NamedValue[]) {
    const all = [...given, ...specs.map((s) => ({ name: s.symbol, unit: s.unit }))];
    const names = all.map((v) => v.name);
    this.ready = inOrder(specs, names).map((i) => {
      const { key, symbol, formula, unit } = specs[i];
      const node = readDerived(formula, names);
      checkUnits(node, all, unit);
      return { key, symbol, value: node.compile(), slopes: namesIn(node).map((n) => [n, slopeOf(node, n)] as const) };
    });
  }

  /** Names the formula of a derived quantity uses. */
  uses(key: string): string[] {
    return this.ready.find((d) => d.key === key)?.slopes.map(([name]) => name) ?? [];
  }

  /** Keys of the derived quantities that rest, at first or second hand, on some of these names. */
  restingOn(names: Iterable<string>): Set<string> {
    const reached = new Set(names);
    const out = new Set<string>();
    for (const d of this.ready) {
      if (!d.slopes.some(([name]) => reached.has(name))) continue;
      reached.add(d.symbol);
      out.add(d.key);
    }
    return out;
  }

  /**
   * Values of all derived quantities, with first-order uncertainties; what two parts share is counted once, with its sign.
   * @param standard standard uncertainties of the base names, where known
   */
  values(base: Readonly<Record<string, number>>, standard: Readonly<Record<string, number | undefined>> = {}): Record<string, DerivedValue> {
    const scope: Record<string, number> = { ...base };
    const reach: Record<string, Record<string, number>> = Object.fromEntries(Object.keys(base).map((n) => [n, { [n]: 1 }]));
    const out: Record<string, DerivedValue> = {};
    for (const d of this.ready) {
      const value = Number(d.value.evaluate(scope));
      const sensitivities: Record<string, number> = {};
      for (const [name, slope] of d.slopes) {
        const s = Number(slope.evaluate(scope));
        for (const [b, t] of Object.entries(reach[name] ?? {})) sensitivities[b] = (sensitivities[b] ?? 0) + s * t;
      }
      const parts = Object.entries(sensitivities).map(([b, s]) => (standard[b] === undefined ? Number.NaN : s * (standard[b] ?? 0)));
      const u = Math.sqrt(parts.reduce((sum, p) => sum + p * p, 0));
      scope[d.symbol] = value;
      reach[d.symbol] = sensitivities;
      out[d.key] = { value, sensitivities, ...(Number.isFinite(u) ? { standard: u } : {}) };
    }
    return out;
  }

  /** Derived records, entry by entry; names without a record stay at their single value. */
  records(series: Readonly<Record<string, Numbers>>, constants: Readonly<Record<string, number>>, length: number): Record<string, Float64Array> {
    const out: Record<string, Float64Array> = Object.fromEntries(this.ready.map((d) => [d.key, new Float64Array(length)]));
    const scope: Record<string, number> = { ...constants };
    const names = Object.keys(series);
    for (let i = 0; i < length; i++) {
      for (const n of names) scope[n] = series[n][i];
      for (const d of this.ready) {
        const value = Number(d.value.evaluate(scope));
        scope[d.symbol] = value;
        out[d.key][i] = value;
      }
    }
    return out;
  }
}

/** one-sided slopes that differ by more than this share make a kink */
const KINK = 1e-3;

/**
 * Derivative by one name: in closed form where the library knows it and it is finite, else by differences. At a kink, as of an absolute value
 * at zero or of the larger of two equal values, the steeper side counts: an uncertainty reaches to both.
 */
function slopeOf(node: MathNode, name: string): EvalFunction {
  const f = node.compile();
  const byDifferences = (scope: Record<string, number>): number => {
    const x = scope[name];
    const h = 1e-6 * Math.max(Math.abs(x), 1e-3);
    const at = (by: number) => Number(f.evaluate({ ...scope, [name]: x + by }));
    const [before, here, after] = [at(-h), at(0), at(h)];
    const [left, right] = [(here - before) / h, (after - here) / h];
    const steep = Math.abs(left) > Math.abs(right) ? left : right;
    return Math.abs(left - right) > KINK * Math.abs(steep) ? steep : (after - before) / (2 * h);
  };
  let closed: EvalFunction | undefined;
  try {
    closed = derivative(node, name).compile();
  } catch {
    closed = undefined;
  }
  return {
    evaluate: (scope: Record<string, number>) => {
      const value = closed ? Number(closed.evaluate(scope)) : Number.NaN;
      return Number.isFinite(value) ? value : byDifferences(scope);
    },
  } as EvalFunction;
}

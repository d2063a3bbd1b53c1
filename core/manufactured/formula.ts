import type { EvalFunction, MathNode } from "mathjs";
import { derivative, parse, simplify } from "../numeric/expressions.ts";
import { parseFormula } from "../numeric/formulaCost.ts";

/** A formula that cannot be used, with the part that shows it. */
export class FormulaError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "FormulaError";
  }
}

const VARIABLES = ["x", "y", "t"];
const CONSTANTS = ["pi", "e"];
const FUNCTIONS = ["sin", "cos", "tan", "exp", "log", "sqrt", "sinh", "cosh", "tanh"];
const OPERATORS = ["add", "subtract", "multiply", "divide", "pow", "unaryMinus", "unaryPlus"];
/** brackets in brackets */
const DEEPEST = 6;

/**
 * Reads a formula in x, y and t: numbers, pi, e, + - * / ^, and sin, cos, tan, exp, log, sqrt, sinh, cosh, tanh. Nothing else is carried out.
 * @throws {FormulaError} A name, call or sign that is not among them.
 */
export function readFormula(text: string): MathNode {
  const node = parseFormula(text, DEEPEST, (sentence) => new FormulaError(sentence));
  node.traverse((part) => {
    const p = part as MathNode & { name?: string; fn?: { name?: string } | string };
    switch (p.type) {
      case "ConstantNode":
      case "ParenthesisNode":
        return;
      case "OperatorNode":
        if (OPERATORS.includes(String(p.fn))) return;
        break;
      case "FunctionNode":
        if (FUNCTIONS.includes(String((p.fn as { name?: string }).name))) return;
        break;
      case "SymbolNode":
        if ([...VARIABLES, ...CONSTANTS, ...FUNCTIONS].includes(String(p.name))) return;
        break;
      default:
    }
    throw new FormulaError(`"${part.toString()}" is not allowed in a formula; use x, y, t, numbers, pi, + - * / ^ and ${FUNCTIONS.join(", ")}.`);
  });
  return node;
}

export type FieldFunction = (x: number, y: number, t: number) => number;

/** A formula that can be differentiated and evaluated. */
export class Formula {
  private compiled: EvalFunction | undefined;

  /** @param shorten made shorter before it is carried out; long sums take minutes for that and are carried out as they stand */
  constructor(
    readonly node: MathNode,
    private readonly shorten = true,
  ) {}

  static of(text: string): Formula {
    return new Formula(readFormula(text));
  }

  /** d/dx, d/dy or d/dt, symbolically. */
  by(variable: "x" | "y" | "t"): Formula {
    return new Formula(derivative(this.node, variable));
  }

  get usesTime(): boolean {
    return this.node.filter((n) => (n as { name?: string }).name === "t").length > 0;
  }

  /** The value at a point and time. */
  readonly at: FieldFunction = (x, y, t) => {
    this.compiled ??= (this.shorten ? simplify(this.node) : this.node).compile();
    return Number(this.compiled.evaluate({ x, y, t }));
  };
}

/** A formula made of others: `combine("a * b", { a, b })`. */
export function combine(text: string, parts: Readonly<Record<string, Formula>>): Formula {
  const node = parse(text).transform((n) => {
    const name = (n as { name?: string }).name;
    return n.type === "SymbolNode" && name !== undefined && parts[name] ? parts[name].node.cloneDeep() : n;
  });
  return new Formula(node);
}

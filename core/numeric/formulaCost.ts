import type { MathNode } from "mathjs";
import { parse } from "./expressions.ts";

/** Terms of an expression, of its first and of its second derivative, written out. */
interface Terms {
  readonly own: number;
  readonly first: number;
  readonly second: number;
}

const LEAF: Terms = { own: 1, first: 1, second: 1 };

const sum = (a: Terms, b: Terms): Terms => ({ own: a.own + b.own + 1, first: a.first + b.first + 1, second: a.second + b.second + 1 });

const product = (a: Terms, b: Terms): Terms => ({
  own: a.own + b.own + 1,
  first: a.first + b.own + a.own + b.first + 3,
  second: a.second + b.own + 2 * (a.first + b.first) + a.own + b.second + 8,
});

/** A function of one expression, by the chain rule. */
const chain = (a: Terms): Terms => ({ own: a.own + 1, first: a.own + a.first + 3, second: 2 * a.own + 2 * a.first + a.second + 8 });

function power(base: Terms, exponent: Terms, constant: boolean): Terms {
  const own = base.own + exponent.own + 1;
  // With a variable in its exponent it is exp(exponent log(base)), and stands in its own derivatives.
  const inner = constant ? chain(base) : chain(product(exponent, chain(base)));
  return { own, first: inner.first + own, second: inner.second + 2 * own };
}

const isConstant = (node: MathNode): boolean => node.filter((n) => n.type === "SymbolNode").length === 0;

function termsOf(node: MathNode): Terms {
  const { args = [], content, fn } = node as MathNode & { args?: MathNode[]; content?: MathNode; fn?: string | object };
  if (content) return termsOf(content);
  const [a, b] = args;
  if (!a) return LEAF;
  if (!b) return fn === "unaryMinus" || fn === "unaryPlus" ? sum(termsOf(a), LEAF) : chain(termsOf(a));
  if (fn === "pow") return power(termsOf(a), termsOf(b), isConstant(b));
  if (fn === "divide") return product(termsOf(a), chain(termsOf(b)));
  const two = fn === "multiply" ? product : sum;
  return args.slice(1).reduce((so, next) => two(so, termsOf(next)), termsOf(a));
}

/**
 * How long a formula becomes when it is differentiated twice, in terms, without doing it: products grow with the square of their factors, powers
 * of powers without end.
 */
export const termsWhenDifferentiated = (node: MathNode): number => Math.max(termsOf(node).own, termsOf(node).second);

/** How many powers have a variable in their exponent. Each further one multiplies what differentiation takes: five of them take minutes. */
export const variablePowers = (node: MathNode): number =>
  node.filter((n) => {
    const { fn, args = [] } = n as MathNode & { fn?: unknown; args?: MathNode[] };
    return fn === "pow" && !isConstant(args[1]);
  }).length;

/**
 * Whether brackets are nested deeper than a formula needs. Looked at before a text is parsed: the parser goes one level deeper for each.
 * @example
 * nestedTooDeep("(((x)))", 2) // true
 */
export function nestedTooDeep(text: string, most: number): boolean {
  let depth = 0;
  for (const sign of text) {
    if (sign === "(") depth++;
    else if (sign === ")") depth--;
    if (depth > most) return true;
  }
  return false;
}

const LONGEST = 300;
/** terms of a formula and its derivatives: what is longer keeps everything else waiting */
const MOST_TERMS = 1500;
const MOST_VARIABLE_POWERS = 3;

/**
 * Parses a formula that can be worked on in a short time. What may stand in it is the caller's to check.
 * @param deepest brackets in brackets
 * @param refuse makes the error that is thrown where the text is no formula, or one that is too much work
 */
export function parseFormula(text: string, deepest: number, refuse: (sentence: string) => Error): MathNode {
  if (text.length > LONGEST) throw refuse(`A formula may have at most ${LONGEST} signs.`);
  if (nestedTooDeep(text, deepest)) throw refuse(`A formula may have brackets in brackets ${deepest} deep at most.`);
  let node: MathNode;
  try {
    node = parse(text);
  } catch (error) {
    throw refuse(`"${text}" is no formula: ${(error as Error).message}.`);
  }
  if (variablePowers(node) > MOST_VARIABLE_POWERS)
    throw refuse(`A formula may have ${MOST_VARIABLE_POWERS} powers with a variable in the exponent at most.`);
  const terms = termsWhenDifferentiated(node);
  if (terms > MOST_TERMS)
    throw refuse(
      `With its derivatives written out this formula has about ${terms} terms; ${MOST_TERMS} is the most. Take fewer factors, or simpler ones.`,
    );
  return node;
}

import type { MathNode } from "mathjs";
import { FormulaError } from "./formula.ts";
import type { Named, WrittenSolution } from "./written.ts";

/** Languages a solution is written in. */
export const LANGUAGES = ["c", "python", "fortran", "json", "latex", "text"] as const;
export type Language = (typeof LANGUAGES)[number];

/** Ending of the file in each language. */
export const ENDINGS: Readonly<Record<Language, string>> = { c: "c", python: "py", fortran: "f90", json: "json", latex: "tex", text: "txt" };

type Code = "c" | "python" | "fortran";

interface Node {
  readonly type: string;
  readonly value?: unknown;
  readonly name?: string;
  readonly fn?: string | { readonly name?: string };
  readonly args?: readonly Node[];
  readonly content?: Node;
}

/** Functions a derivative may bring that languages do not have, by those they have. */
const TURNED: Readonly<Record<string, (a: string, f: (name: string, a: string) => string, one: string) => string>> = {
  sec: (a, f, one) => `(${one} / ${f("cos", a)})`,
  csc: (a, f, one) => `(${one} / ${f("sin", a)})`,
  cot: (a, f, one) => `(${one} / ${f("tan", a)})`,
  sech: (a, f, one) => `(${one} / ${f("cosh", a)})`,
  csch: (a, f, one) => `(${one} / ${f("sinh", a)})`,
  coth: (a, f, one) => `(${one} / ${f("tanh", a)})`,
};
const KNOWN = ["sin", "cos", "tan", "exp", "log", "sqrt", "sinh", "cosh", "tanh", "abs"];
const CONSTANTS: Readonly<Record<string, number>> = { pi: Math.PI, e: Math.E };
const SIGNS: Readonly<Record<string, string>> = { add: "+", subtract: "-", multiply: "*", divide: "/" };

/** A number with all its digits, in double precision. */
function figure(value: number, language: Code): string {
  const text = Number.isInteger(value) && Math.abs(value) < 1e15 ? `${value}.0` : String(value);
  const written = language === "fortran" ? (text.includes("e") ? text.replace("e", "d") : `${text}d0`) : text;
  return value < 0 ? `(${written})` : written;
}

const call =
  (language: Code) =>
  (name: string, a: string): string => {
    if (language === "python") return `${name === "abs" ? "abs" : `math.${name}`}(${a})`;
    return `${name === "abs" && language === "c" ? "fabs" : name}(${a})`;
  };

/**
 * A formula as an expression of a language, every operation in brackets of its own so that no two languages read it differently.
 * @throws {FormulaError} A part no language has.
 */
export function expressionOf(root: MathNode, language: Code): string {
  const write = (n: Node): string => {
    const [a, b] = n.args ?? [];
    switch (n.type) {
      case "ConstantNode":
        return figure(Number(n.value), language);
      case "ParenthesisNode":
        return write(n.content as Node);
      case "SymbolNode":
        return CONSTANTS[n.name ?? ""] === undefined ? String(n.name) : figure(CONSTANTS[n.name ?? ""], language);
      case "FunctionNode": {
        const name = String((n.fn as { name?: string }).name);
        const inner = write(a);
        if (KNOWN.includes(name) && n.args?.length === 1) return call(language)(name, inner);
        const turned = TURNED[name];
        if (turned) return turned(inner, call(language), figure(1, language));
        break;
      }
      case "OperatorNode": {
        const fn = String(n.fn);
        if (fn === "unaryMinus") return `(-${write(a)})`;
        if (fn === "unaryPlus") return write(a);
        if (fn === "pow") return power(write(a), b, write(b), language);
        if (SIGNS[fn]) return `(${(n.args ?? []).map(write).join(` ${SIGNS[fn]} `)})`;
        break;
      }
      default:
    }
    throw new FormulaError(`"${String(root)}" holds a part that cannot be written in ${language}.`);
  };
  return write(root as unknown as Node);
}

/** A whole exponent stays whole: a real one has no power of a negative base in Fortran. */
function power(base: string, exponent: Node, written: string, language: Code): string {
  const inner = exponent.type === "ParenthesisNode" ? (exponent.content as Node) : exponent;
  const whole = inner.type === "ConstantNode" && Number.isInteger(Number(inner.value)) ? String(Number(inner.value)) : undefined;
  if (language === "c") return `pow(${base}, ${written})`;
  return `(${base} ** ${whole ?? written})`;
}

/** Lines of Fortran no longer than a compiler takes, broken between the parts of an expression. */
function folded(line: string): string {
  const out: string[] = [];
  let rest = line;
  while (rest.length > 100) {
    const at = rest.lastIndexOf(" ", 100);
    if (at < 10) break;
    out.push(`${rest.slice(0, at)} &`);
    rest = `    & ${rest.slice(at + 1)}`;
  }
  return [...out, rest].join("\n");
}

const HEADING = "Manufactured solution: fields and the sources that keep them up, in x, y (m) and t (s).";

const FUNCTIONS: Readonly<Record<Code, (f: Named) => string>> = {
  c: (f) =>
    `/* ${f.name}, ${f.unit} */\ndouble ${f.key}(double x, double y, double t)\n{\n    (void)x; (void)y; (void)t;\n    return ${expressionOf(f.formula.node, "c")};\n}\n`,
  python: (f) => `def ${f.key}(x, y, t):\n    """${f.name}, ${f.unit}"""\n    return ${expressionOf(f.formula.node, "python")}\n`,
  fortran: (f) =>
    [
      `  ! ${f.name}, ${f.unit}`,
      `  pure function ${f.key}(x, y, t) result(value)`,
      "    double precision, intent(in) :: x, y, t",
      "    double precision :: value",
      folded(`    value = ${expressionOf(f.formula.node, "fortran")}`),
      `  end function ${f.key}`,
      "",
    ].join("\n"),
};

/** A formula in TeX. */
export const latexOf = (f: Named): string => f.formula.node.toTex();
/** A formula as it is typed. */
export const textOf = (f: Named): string => f.formula.node.toString();

/** A whole solution as a file of a language. */
export function printed(w: WrittenSolution, language: Language): string {
  const all = [...w.fields, ...w.sources];
  switch (language) {
    case "c":
      return `/* ${HEADING} */\n#include <math.h>\n\n${all.map(FUNCTIONS.c).join("\n")}`;
    case "python":
      return `"""${HEADING}"""\nimport math\n\n\n${all.map(FUNCTIONS.python).join("\n\n")}`;
    case "fortran":
      return `! ${HEADING}\nmodule manufactured\n  implicit none\ncontains\n\n${all.map(FUNCTIONS.fortran).join("\n")}\nend module manufactured\n`;
    case "json": {
      const plain = (list: readonly Named[]) => list.map((f) => ({ key: f.key, name: f.name, unit: f.unit, text: textOf(f), latex: latexOf(f) }));
      return `${JSON.stringify({ kind: w.kind, variables: { x: "m", y: "m", t: "s" }, fields: plain(w.fields), sources: plain(w.sources) }, null, 2)}\n`;
    }
    case "latex":
      return `% ${HEADING}\n${all.map((f) => `% ${f.name}, ${f.unit}\n\\begin{equation}\n  \\mathrm{${f.key.replaceAll("_", "\\_")}} = ${latexOf(f)}\n\\end{equation}`).join("\n\n")}\n`;
    case "text":
      return `${HEADING}\n\n${all.map((f) => `${f.key} (${f.name}, ${f.unit}) =\n  ${textOf(f)}`).join("\n\n")}\n`;
    default:
      return language satisfies never;
  }
}

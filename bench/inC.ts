import { readFileSync } from "node:fs";

/**
 * The compiled loops in C: the same sources, translated line by line, so that both languages are given the same work. Addresses stay what they are,
 * bytes in one memory, which in C is an array of its own; element types tell the compiler what may overlap.
 */
const FOLDER = "core/solver/kernels";

const TYPES: Readonly<Record<string, string>> = { i32: "int", usize: "addr", f64: "double", f32: "float", bool: "_Bool", v128: "v128", void: "void" };

/** A loop that is called from outside. */
interface Exported {
  readonly name: string;
  readonly parameters: readonly string[];
}

const HEAD = `#define _GNU_SOURCE
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
typedef unsigned long addr;
typedef double v128 __attribute__((vector_size(16)));
typedef double v128u __attribute__((vector_size(16), aligned(8)));
typedef long v128i __attribute__((vector_size(16)));
typedef float v4f __attribute__((vector_size(16)));
static char M[SIZE] __attribute__((aligned(4096)));
#define AT(type, at) (*(type *)(M + (at)))
#define load_f64(at, by) AT(double, (at) + (by))
#define load_f32(at, by) AT(float, (at) + (by))
#define load_i32(at, by) AT(int, (at) + (by))
#define store_f64(at, x, by) (AT(double, (at) + (by)) = (x))
#define store_f32(at, x, by) (AT(float, (at) + (by)) = (x))
#define v128_load(at, by) ((v128)AT(v128u, (at) + (by)))
#define v128_store(at, x, by) (AT(v128u, (at) + (by)) = (x))
#define v128_splat(x) ((v128){(x), (x)})
#define v128_extract_lane(x, i) ((x)[i])
#define v128_replace_lane(x, i, y) ({ v128 changed = (x); changed[i] = (y); changed; })
#define v128_sqrt(a) ((v128){sqrt((a)[0]), sqrt((a)[1])})
#define v128_neg(a) (-(a))
#define v128_add(a, b) ((a) + (b))
#define v128_sub(a, b) ((a) - (b))
#define v128_mul(a, b) ((a) * (b))
#define v128_div(a, b) ((a) / (b))
#define v128_gt(a, b) ((v128)((a) > (b)))
#define v128_bitselect(a, b, m) ((v128)(((v128i)(a) & (v128i)(m)) | ((v128i)(b) & ~(v128i)(m))))
#define v128_pmin(a, b) v128_bitselect(b, a, (b) < (a))
#define v128_pmax(a, b) v128_bitselect(b, a, (a) < (b))
#define v128_load_zero(at) ((v4f){AT(float, at), AT(float, (at) + 4), 0, 0})
#define v128_promote_low(x) ((v128){(x)[0], (x)[1]})
#define v128_shuffle(a, b, i, j) __builtin_shuffle(a, b, (v128i){i, j})
static inline double real(addr at, addr i) { return AT(double, at + (i << 3)); }
static inline addr index_(addr at, addr i) { return (addr)AT(int, at + (i << 2)); }
static inline void put(addr at, addr i, double x) { AT(double, at + (i << 3)) = x; }
static inline void add(addr at, addr i, double x) { AT(double, at + (i << 3)) += x; }
static inline void take(addr at, addr i, double x) { AT(double, at + (i << 3)) -= x; }
static inline float single(addr at, addr i) { return AT(float, at + (i << 2)); }
static inline void putSingle(addr at, addr i, float x) { AT(float, at + (i << 2)) = x; }
static inline void addSingle(addr at, addr i, float x) { AT(float, at + (i << 2)) += x; }
static inline v128 both(addr first, addr second, addr i) { return (v128){real(first, i), real(second, i)}; }
static inline double sumOf(v128 x) { return x[0] + x[1]; }
static inline double greater(double a, double b) { return a > b ? a : b; }
static inline double lesser(double a, double b) { return a < b ? a : b; }
`;

/** One statement or expression of the loops' language in C. */
function inC(line: string): string {
  return line
    .replace(/memory\.fill\(/g, "memory_fill(")
    .replace(/memory\.copy\(/g, "memory_copy(")
    .replace(/\b(load|store)<(\w+)>\(/g, "$1_$2(")
    .replace(/\bv128\.(\w+)(<\w+>)?\(/g, "v128_$1(")
    .replace(/<(i32|usize|f64|f32)>/g, (_, t: string) => `(${TYPES[t]})`)
    .replace(/\b(let|const) (\w+): (\w+) = /g, (_, __, name: string, t: string) => `${TYPES[t]} ${name} = `)
    .replace(/\b(let|const) (\w+) =(\s)/g, "__auto_type $2 =$3")
    .replace(/\blet ((?:\w+: (f64|v128|bool)(?:, )?)+);/g, (_, list: string, t: string) => `${TYPES[t]} ${list.replace(/: \w+/g, "")};`)
    .replace(/Math\.abs\(/g, "fabs(")
    .replace(/Math\.sqrt\(/g, "sqrt(")
    .replace(/(Math\.)?\bmax\(/g, "greater(")
    .replace(/(Math\.)?\bmin\(/g, "lesser(")
    .replace(/\bindex\(/g, "index_(")
    .replace(/\btrue\b/g, "1")
    .replace(/\bfalse\b/g, "0");
}

/** Loads and stores take an offset, 0 where none is given; the memory's own operations work on it. */
function completed(text: string): string {
  let out = "";
  let at = 0;
  const call = /\b(load_\w+|store_\w+|v128_load|v128_store|memory_fill|memory_copy)\(/g;
  for (let m = call.exec(text); m; m = call.exec(text)) {
    const open = m.index + m[0].length;
    let [depth, commas, k] = [1, 0, open];
    for (; depth > 0; k++) {
      if (text[k] === "(") depth++;
      else if (text[k] === ")") depth--;
      else if (text[k] === "," && depth === 1) commas++;
    }
    const inner = completed(text.slice(open, k - 1));
    const kind = m[1];
    out += text.slice(at, m.index);
    if (kind === "memory_fill") out += `memset(M + ${inner})`;
    else if (kind === "memory_copy") out += `memcpy(M + ${inner.replace(",", ", M +")})`;
    else out += `${kind}(${inner}${commas < (kind.includes("store") ? 2 : 1) ? ", 0" : ""})`;
    at = k;
    call.lastIndex = k;
  }
  return out + text.slice(at);
}

/** A module of loops in C, every name with the module's before it. */
function translated(module: string): { text: string; exported: Exported[] } {
  const source = readFileSync(`${FOLDER}/${module}.as.ts`, "utf8")
    .replace(/\/\*\*[\s\S]*?\*\//g, "")
    .replace(/^\s*\/\/.*$/gm, "")
    .replace(/^import .*$/gm, "")
    .replace(/^@inline$/gm, "INLINE");
  const exported: Exported[] = [];
  const names = [...source.matchAll(/function (\w+)\(/g)].map((m) => m[1]);
  const heads: string[] = [];
  let text = source.replace(
    /(INLINE\s+)?(export )?function (\w+)\(([^)]*)\): (\w+) \{/g,
    (_, inline, isExported, name: string, list: string, result: string) => {
      const parameters = list.split(",").flatMap((p) => (p.trim() ? [p.trim().split(/:\s*/)] : []));
      if (isExported) exported.push({ name: `${module}_${name}`, parameters: parameters.map(([, type]) => TYPES[type]) });
      const head = `static ${inline ? "inline __attribute__((always_inline)) " : isExported ? "__attribute__((noipa)) " : ""}${TYPES[result]} ${name}(${parameters.map(([n, t]) => `${TYPES[t]} ${n}`).join(", ")})`;
      heads.push(`${head};`);
      return `${head} {`;
    },
  );
  text = text.replace(/^const (\w+) = (\d+);$/gm, "enum { $1 = $2 };");
  const own = [...names, ...[...text.matchAll(/enum \{ (\w+) =/g)].map((m) => m[1])];
  const named = (t: string) => own.reduce((s, name) => s.replace(new RegExp(`\\b${name}\\b(?!\\.)`, "g"), `${module}_${name}`), t);
  return { text: `${named(heads.join("\n"))}\n${completed(named(inC(text)))}`, exported };
}

/** A program that carries out recorded calls on the image of a memory and tells what they took. */
export function programInC(modules: readonly string[]): { source: string; number: (name: string) => number } {
  const parts = modules.map(translated);
  const exported = parts.flatMap((p) => p.exported);
  const cases = exported.map(({ name, parameters }, k) => {
    const given = parameters.map((type, i) => (type === "double" ? `a[${i}]` : `(${type})(long)a[${i}]`));
    return `    case ${k}: ${name}(${given.join(", ")}); break;`;
  });
  const extra = [
    `    case ${exported.length}: { double *to = &AT(double, (addr)a[0]); for (long i = 0; i < (long)a[1]; i++) to[i] = a[2]; break; }`,
    `    case ${exported.length + 1}: memmove(M + (addr)a[0], M + (addr)a[1], (size_t)a[2]); break;`,
    `    case ${exported.length + 2}: memset(M + (addr)a[0], 0, (size_t)a[1]); break;`,
  ];
  const names = [...exported.map((e) => e.name), "fill", "copy", "clear"];
  const main = readFileSync("bench/replay.c", "utf8");
  const source = `${HEAD}${parts.map((p) => p.text).join("\n")}\nstatic void call(int kind, const double *a) {\n  switch (kind) {\n${[...cases, ...extra].join("\n")}\n  }\n}\nenum { KINDS = ${names.length} };\n${main}`;
  return {
    source,
    number: (name) => {
      const found = names.indexOf(name);
      if (found < 0) throw new Error(`No loop in C is called ${name}.`);
      return found;
    },
  };
}

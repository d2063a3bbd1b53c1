import { execFileSync } from "node:child_process";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { writtenFlow } from "../../core/manufactured/flow.ts";
import { writtenGas } from "../../core/manufactured/gas.ts";
import { printed } from "../../core/manufactured/printed.ts";
import type { WrittenSolution } from "../../core/manufactured/written.ts";

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-written-"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const has = (tool: string): boolean => {
  try {
    execFileSync(tool, ["--version"], { stdio: "ignore" });
    return true;
  } catch {
    return false;
  }
};
const AT = [0.37, 0.61, 0.83] as const;
const SOLUTIONS: Record<string, () => WrittenSolution> = {
  flow: () =>
    writtenFlow(
      { streamFunction: "y + 0.2 * sin(pi * x) * sin(pi * y) * exp(-t)", pressure: "0.3 * cos(pi * x) ^ 2 + tan(0.3 * y)" },
      { viscosity: 0.02 },
    ),
  gas: () =>
    writtenGas(
      { density: "1.2 + 0.15 * sin(pi * x)", u: "2 - 0.3 * (x - 0.8) ^ 3", v: "1 + 0.1 * tanh(y)", pressure: "10 + x * y + sqrt(1 + t)" },
      { gamma: 1.4, gasConstant: 287.05, viscosityPaS: 0.05, prandtl: 0.71 },
    ),
};
const expected = (w: WrittenSolution) => [...w.fields, ...w.sources].map((f) => f.formula.at(...AT));
const close = (said: string, w: WrittenSolution) => {
  const values = said.trim().split(/\s+/).map(Number);
  expected(w).forEach((v, i) => {
    expect(Math.abs(values[i] / v - 1)).toBeLessThan(1e-12);
  });
};
const keys = (w: WrittenSolution) => [...w.fields, ...w.sources].map((f) => f.key);

describe.each(Object.keys(SOLUTIONS))("a manufactured %s in other languages gives the same values to twelve digits", (name) => {
  const w = SOLUTIONS[name]();
  test.skipIf(!has("python3"))("Python", async () => {
    const file = path.join(folder, `${name}.py`);
    await writeFile(file, `${printed(w, "python")}\n\nfor f in (${keys(w).join(", ")}):\n    print(repr(f(${AT.join(", ")})))\n`);
    close(execFileSync("python3", [file], { encoding: "utf8" }), w);
  });
  test.skipIf(!has("gcc"))("C", async () => {
    const file = path.join(folder, `${name}.c`);
    const prints = keys(w).map((k) => `printf("%.17g\\n", ${k}(${AT.join(", ")}));`);
    await writeFile(file, `#include <stdio.h>\n${printed(w, "c")}\nint main(void)\n{\n    ${prints.join("\n    ")}\n    return 0;\n}\n`);
    execFileSync("gcc", ["-std=c99", "-Wall", "-Werror", file, "-lm", "-o", `${file}.out`]);
    close(execFileSync(`${file}.out`, { encoding: "utf8" }), w);
  });
  test.skipIf(!has("gfortran"))("Fortran", async () => {
    const file = path.join(folder, `${name}.f90`);
    const args = AT.map((v) => `${v}d0`).join(", ");
    const prints = keys(w).map((k) => `  print '(ES24.16)', ${k}(${args})`);
    await writeFile(file, `${printed(w, "fortran")}\nprogram main\n  use manufactured\n${prints.join("\n")}\nend program main\n`);
    execFileSync("gfortran", ["-J", folder, file, "-o", `${file}.out`]);
    close(execFileSync(`${file}.out`, { encoding: "utf8" }), w);
  });
});

import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, test } from "vitest";

const EXAMPLE = /^ \* @example\n((?: \* .*\n)+?)(?= \*(?:\/| @))/gm;
/** an expression, and what it gives */
const LINE = /^ \* (.+?) \/\/ (.+)$/gm;

interface Example {
  readonly expression: string;
  readonly gives: string;
}

function examplesIn(text: string): Example[] {
  return [...text.matchAll(EXAMPLE)].flatMap(([, block]) => [...block.matchAll(LINE)].map(([, expression, gives]) => ({ expression, gives })));
}

const files = readdirSync(import.meta.dirname, { recursive: true, encoding: "utf8" })
  .filter((f) => f.endsWith(".ts") && !f.endsWith(".test.ts"))
  .map((f) => ({ file: f, examples: examplesIn(readFileSync(path.join(import.meta.dirname, f), "utf8")) }))
  .filter((f) => f.examples.length);

describe("worked examples of the docstrings", () => {
  describe.each(files)("$file", ({ file, examples }) => {
    test.each(examples)("$expression", async ({ expression, gives }) => {
      const own: Record<string, unknown> = await import(path.join(import.meta.dirname, file));
      const evaluate = (code: string) => new Function(...Object.keys(own), `return (${code});`)(...Object.values(own));
      expect(evaluate(expression)).toEqual(evaluate(gives));
    });
  });
  test("there are some for the functions that are used most", () => {
    expect(files.reduce((n, f) => n + f.examples.length, 0)).toBeGreaterThanOrEqual(30);
  });
});

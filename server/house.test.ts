import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { circlesIn, importsOf } from "../scripts/imports.ts";

interface Manifest {
  readonly dependencies: Record<string, string>;
  readonly devDependencies: Record<string, string>;
}

describe("packages", () => {
  const manifest = JSON.parse(readFileSync("package.json", "utf8")) as Manifest;
  test("every version is exact", () => {
    const all = Object.entries({ ...manifest.dependencies, ...manifest.devDependencies });
    expect(all.length).toBeGreaterThan(40);
    expect(all.filter(([, version]) => !/^\d+\.\d+\.\d+(-[\w.]+)?$/.test(version))).toEqual([]);
  });
  test("the lock file names what is asked for and no address it came from", () => {
    const lock = JSON.parse(readFileSync("package-lock.json", "utf8")) as { packages: Record<string, { version?: string; resolved?: string }> };
    for (const [name, version] of Object.entries({ ...manifest.dependencies, ...manifest.devDependencies }))
      expect(lock.packages[`node_modules/${name}`]?.version, name).toBe(version);
    expect(Object.values(lock.packages).filter((p) => p.resolved?.startsWith("http"))).toEqual([]);
  });
});

test("no files of the server import one another in a circle", () => {
  const imports = importsOf("server");
  expect(imports.size).toBeGreaterThan(70);
  expect(circlesIn(imports)).toEqual([]);
  expect(
    circlesIn(
      new Map([
        ["a", ["b"]],
        ["b", ["c"]],
        ["c", ["b"]],
      ]),
    ),
  ).toEqual(["b -> c -> b"]);
});

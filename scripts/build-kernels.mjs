import { createHash } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { kernelBuild } from "./method-hash.mjs";

// Compiles the AssemblyScript kernels and puts them, as text, into modules: the core reads no files. What has not changed is left as it is.
const folder = "core/solver/kernels";
const { options, compiler } = kernelBuild(".");
await mkdir("dist/kernels", { recursive: true });

for (const name of ["flow", "faces", "rows", "cells", "single", "gas", "gasVectors"]) {
  const source = `${folder}/${name}.as.ts`;
  const made = `${folder}/${name}.wasm.ts`;
  const from = createHash("sha256")
    .update(readFileSync(source))
    .update(readFileSync(`${folder}/memory.as.ts`))
    .update(JSON.stringify([options, compiler]))
    .digest("hex");
  const head = `// Made by scripts/build-kernels.mjs from ${name}.as.ts, ${from}.\n`;
  if (existsSync(made) && readFileSync(made, "utf8").startsWith(head)) continue;
  const { default: asc } = await import("assemblyscript/asc");
  const binary = `dist/kernels/${name}.wasm`;
  const { error, stderr } = await asc.main([source, "--outFile", binary, ...options]);
  if (error) {
    console.error(stderr.toString());
    process.exit(1);
  }
  const constant = name.replace(/[A-Z]/g, (c) => `_${c}`).toUpperCase();
  const text = (await readFile(binary)).toString("base64");
  await writeFile(made, `${head}export const ${constant}_WASM =\n  "${text}";\n`);
}

import { mkdir, readFile, writeFile } from "node:fs/promises";
import asc from "assemblyscript/asc";

// Compiles the AssemblyScript kernels and puts them, as text, into a module: the core reads no files.
const source = "core/solver/compressible/assembly/gas.as.ts";
const binary = "dist/kernels/gas.wasm";
await mkdir("dist/kernels", { recursive: true });
const { error, stderr } = await asc.main([
  source,
  "--outFile",
  binary,
  "-O3",
  "--noAssert",
  "--runtime",
  "stub",
  "--importMemory",
  "--enable",
  "bulk-memory",
]);
if (error) {
  console.error(stderr.toString());
  process.exit(1);
}
const text = (await readFile(binary)).toString("base64");
await writeFile(
  "core/solver/compressible/assembly/gas.wasm.ts",
  `// Made by scripts/build-kernels.mjs from gas.as.ts.\nexport const GAS_WASM =\n  "${text}";\n`,
);

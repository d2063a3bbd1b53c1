import { mkdir, readFile, writeFile } from "node:fs/promises";
import asc from "assemblyscript/asc";

// Compiles the AssemblyScript kernels and puts them, as text, into modules: the core reads no files.
const folder = "core/solver/kernels";
const options = ["-O3", "--noAssert", "--runtime", "stub", "--importMemory", "--enable", "bulk-memory", "--enable", "simd"];
await mkdir("dist/kernels", { recursive: true });
for (const name of ["flow", "gas"]) {
  const binary = `dist/kernels/${name}.wasm`;
  const { error, stderr } = await asc.main([`${folder}/${name}.as.ts`, "--outFile", binary, ...options]);
  if (error) {
    console.error(stderr.toString());
    process.exit(1);
  }
  const text = (await readFile(binary)).toString("base64");
  const constant = `${name.toUpperCase()}_WASM`;
  await writeFile(
    `${folder}/${name}.wasm.ts`,
    `// Made by scripts/build-kernels.mjs from ${name}.as.ts.\nexport const ${constant} =\n  "${text}";\n`,
  );
}

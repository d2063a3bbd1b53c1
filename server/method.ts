import { randomUUID } from "node:crypto";

/** Before a build nobody knows which code this is: what is cached holds for this process alone. */
const UNBUILT = `unbuilt-${randomUUID()}`;

/** The bench's own version: that of the product with a hash of what computes its runs. */
export const benchVersion = (): string => process.env.TIN_RULER_BENCH ?? "unbuilt";

/** Which method the assessments were made by: a hash of the core's code, put in by the build. */
export const methodVersion = (): string => process.env.TIN_RULER_METHOD ?? UNBUILT;

/** How the bench of this machine was built and what runs it, as far as the build tells. */
export function benchBuild(): { readonly options?: string; readonly compiler?: string } {
  const told = process.env.TIN_RULER_KERNELS;
  if (!told) return {};
  const { compiler, options } = JSON.parse(told) as { compiler: string; options: string[] };
  const { node, v8 } = process.versions;
  return { options: options.join(" "), compiler: `AssemblyScript ${compiler}, V8 ${v8} in Node ${node}` };
}

import type { SourceAssessor } from "./source.ts";

export const balance: SourceAssessor = {
  key: "balance",
  name: "balance",
  group: "numerical",
  stage: "balance",
  find: ({ balance: found, finest }) => {
    // Where nothing flows through, as in a closed box in time, what else is conserved stands for it.
    const line = found?.lines.find((l) => l.what === "mass") ?? found?.lines[0];
    const note = line ? `net ${line.what} over ${line.over ?? "throughput"} of the finest run` : "no boundary fluxes";
    return { at: finest?.finishedAt, relative: line?.relative, note };
  },
  settle: () => ({ sentence: "add the flows through the boundaries to the finest run, or say why none is needed", go: "runs" }),
  effort: 5,
};

import { finite, type SourceAssessor } from "./source.ts";

export const mesh: SourceAssessor = {
  key: "mesh",
  name: "mesh",
  group: "numerical",
  stage: "refinement",
  find: ({ refinement, finest }) => ({ at: finest?.finishedAt, relative: finite(refinement.relative), note: refinement.headline }),
  settle: ({ broughtIn, refinement }) => {
    const more = Math.max(1, 3 - refinement.rungs.filter((r) => r.value !== undefined).length);
    const meshes = `${more} more ${more === 1 ? "mesh" : "meshes"}`;
    return broughtIn
      ? { sentence: `bring in ${meshes}, or estimate the mesh error`, go: "runs" }
      : { sentence: `run ${meshes} of the family`, go: "meshes" };
  },
  effort: 9,
};

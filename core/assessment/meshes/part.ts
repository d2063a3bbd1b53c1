import { plural, type StagePart } from "../stages/part.ts";

export const meshes: StagePart = {
  stage: "meshes",
  line: (e) => ({
    line: plural(new Set(e.runs.map((r) => r.mesh?.label)).size, "mesh", "meshes"),
    state: e.runs.length ? "holds" : "none",
  }),
};

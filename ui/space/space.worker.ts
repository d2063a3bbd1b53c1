import { patchesOf } from "@/core/dataset/patches";
import { type StitchedSurface, stitch } from "@/core/dataset/stitch";
import { drawSurface } from "@/core/drawing/surfaceDrawing";
import { readGridFile } from "@/core/formats/surface/readAny";
import { writeStl } from "@/core/formats/surface/stl";
import { writeVtkSurface } from "@/core/formats/vtk/writeSurface";
import { stationCurves } from "@/core/intake/stationCurves";
import { lookAtSurface } from "@/core/intake/surfaceLook";
import { fieldOf, surfacePoints } from "@/core/intake/surfacePoints";
import { answering } from "../engine/answering";
import type { SpaceKind, SpaceQuestions } from "./asks";

let surface: StitchedSurface | undefined;

function held(): StitchedSurface {
  if (!surface) throw new Error("There is no surface. Choose its file again.");
  return surface;
}

type Answers = {
  readonly [K in SpaceKind]: (ask: SpaceQuestions[K]["ask"]) => SpaceQuestions[K]["answer"] | Promise<SpaceQuestions[K]["answer"]>;
};

const ANSWERS: Answers = {
  load: async ({ bytes, division, names }) => {
    surface = undefined;
    surface = stitch(await readGridFile(bytes));
    return lookAtSurface(surface, division, names);
  },
  divide: ({ division }) => lookAtSurface(held(), division),
  draw: ({ recipe, painted }) => {
    const patches = patchesOf(held(), recipe);
    const shown = painted.by === "said" ? ({ by: "field", field: fieldOf(held(), painted.said, painted.densityKgM3, painted.of) } as const) : painted;
    return { drawing: drawSurface(held(), patches, shown), notes: patches.notes };
  },
  points: ({ said, unitM, densityKgM3, of, text }) => surfacePoints(held(), said, unitM, densityKgM3, of, text),
  cut: ({ said, unitM, densityKgM3, asked }) => stationCurves(held(), said, unitM, densityKgM3, asked),
  write: ({ recipe, as, title }) => {
    const { surface: own } = held();
    if (as === "stl") return writeStl(own, title);
    const { nameOf, names } = patchesOf(held(), recipe);
    const called = `patch${names.length ? ` (${names.map((n, k) => `${k + 1} ${n}`).join("; ")}; 0 without a name)` : ""}`;
    const text = writeVtkSurface(own, [{ name: called, on: "faces", components: 1, values: nameOf.map((k) => k + 1), whole: true }]);
    return new TextEncoder().encode(text);
  },
};

answering(ANSWERS);

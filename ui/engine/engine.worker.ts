import { cellsUnderPixels, type Window } from "@/core/drawing/cellRaster";
import { lineTexture } from "@/core/drawing/lineTexture";
import { contourLines, pointValues, streamlines } from "@/core/drawing/lineWork";
import type { Segments } from "@/core/drawing/meshLines";
import { bounds } from "@/core/mesh/bounds";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { meshQuality } from "@/core/mesh/quality";
import { derivedFields } from "@/core/monitors/derived";
import { aroundPlane } from "@/core/monitors/reach/around";
import { departureFrom, reachOfDisturbance } from "@/core/monitors/reach/reach";
import { benchProblem } from "@/core/problems/build/catalogue";
import { line } from "@/core/problems/describe/common";
import { unpackMesh } from "@/core/solver/meshFile";
import { samplerOf } from "@/core/solver/readings/sampler";
import { answering } from "./answering";
import { type Kind, MESHES_KEPT, type MeshWish, type Questions, type SentMesh } from "./asks";

const meshOf = ({ problemId, parameters, spec }: MeshWish) => benchProblem(problemId).mesh(parameters, spec);

const STREAM_STEPS = 400;

type Answers = { readonly [K in Kind]: (ask: Questions[K]["ask"]) => Questions[K]["answer"] };

const ANSWERS: Answers = {
  build: meshOf,
  measure: (wish) => {
    const quick = benchProblem(wish.problemId).quickQuality?.(wish.parameters, wish.spec);
    // Large meshes without a short cut are measured when they are run.
    return quick ?? (wish.cells > wish.mostCells ? undefined : meshQuality(meshOf(wish)));
  },
  unpack: ({ bytes }) => unpackMesh(bytes),
  derive: ({ mesh, fields, fluid }) => derivedFields(mesh, fields, fluid),
  slopes: ({ mesh, values }) => samplerOf(mesh).slopes(values),
  streams: ({ mesh, u, v, seedsAcross }) => {
    const sampler = samplerOf(mesh);
    const { low, high } = bounds(mesh.pointsM);
    const at = (k: 0 | 1, i: number) => low[k] + ((i + 0.5) / seedsAcross) * (high[k] - low[k]);
    const seeds = Array.from({ length: seedsAcross ** 2 }, (_, n): [number, number] => [at(0, Math.floor(n / seedsAcross)), at(1, n % seedsAcross)]);
    const segments: Segments = [];
    for (const path of streamlines({ mesh, u, v, slopesU: sampler.slopes(u), slopesV: sampler.slopes(v) }, seeds, STREAM_STEPS))
      for (let k = 0; k + 3 < path.length; k += 2) segments.push(path[k], path[k + 1], path[k + 2], path[k + 3]);
    return segments;
  },
  under: ({ mesh, view }) => under(mesh, view),
  texture: ({ mesh, u, v, view }) => lineTexture(under(mesh, view), view, u, v),
  reach: ({ mesh, values, free, limit, body }) => {
    const departure = departureFrom(values, free);
    const slopes = samplerOf(mesh).slopes(departure);
    const contour = contourLines(mesh, departure, pointValues(mesh, departure, slopes), [limit]);
    return { reach: reachOfDisturbance(aroundPlane(mesh), departure, limit, body), contour };
  },
  sample: ({ mesh, values, from, to, count }) => samplerOf(mesh).at(values, line(from, to, count)),
};

const atHand = new Map<number, FaceMesh>();

/** A question with its mesh, which stays here for the next ones. */
function withMesh(ask: unknown): unknown {
  if (typeof ask !== "object" || ask === null || !("mesh" in ask)) return ask;
  const { number, mesh = atHand.get(number) } = ask.mesh as SentMesh;
  if (!mesh) throw new Error("The mesh is not at hand any more. Load the page again.");
  // The one used last stands at the end.
  atHand.delete(number);
  atHand.set(number, mesh);
  if (atHand.size > MESHES_KEPT) atHand.delete(atHand.keys().next().value as number);
  return { ...ask, mesh };
}

/** the picture asked for last: a texture is laid over the same */
let pixels: { readonly mesh: FaceMesh; readonly view: Window; readonly ids: Int32Array } | undefined;

function under(mesh: FaceMesh, view: Window): Int32Array {
  const same = pixels?.mesh === mesh && (Object.keys(view) as (keyof Window)[]).every((k) => pixels?.view[k] === view[k]);
  if (!pixels || !same) pixels = { mesh, view, ids: cellsUnderPixels(mesh, view) };
  return pixels.ids;
}

answering(ANSWERS, withMesh);

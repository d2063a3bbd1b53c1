import { readFileSync } from "node:fs";
import path from "node:path";
import { expect, test } from "vitest";
import { acrossAxis, cutGrid } from "../../core/dataset/cutGrid.ts";
import { gridQuality } from "../../core/dataset/gridQuality.ts";
import { stitch } from "../../core/dataset/stitch.ts";
import { faceGeometry, forTriangles, surfaceOf } from "../../core/dataset/surface.ts";
import { surfaceForces } from "../../core/dataset/surfaceForces.ts";
import { readPlainGrid } from "../../core/formats/surface/readAny.ts";
import { writtenByLibrary } from "./libraryForTests.ts";

const { there, folder } = writtenByLibrary("writeSurfaces.py", "surfaces");

interface Figures {
  readonly ball: { readonly area: number; readonly volume: number; readonly points: number; readonly faces: number };
  readonly cloud: { readonly cells: number; readonly volume: number; readonly worst: number; readonly median: number };
  readonly cuts: Readonly<Record<"0" | "1" | "2", { readonly at: number; readonly area: number; readonly integral: number }>>;
}
const figures = (): Figures => JSON.parse(readFileSync(path.join(folder, "figures.json"), "utf8"));
const read = (name: string) => readPlainGrid(Uint8Array.from(readFileSync(path.join(folder, name))));

test.runIf(there).each(["ball-text.stl", "ball-binary.stl", "ball-text.ply", "ball-little.ply", "ball-big.ply"])(
  "%s: points, faces, area and volume are those of the library that wrote it, and so is the force of a pressure that rises evenly",
  (name) => {
    const { ball } = figures();
    const s = stitch(read(name));
    expect([s.surface.points.length / 3, s.surface.cellOf.length]).toEqual([ball.points, ball.faces]);
    // Its files hold single precision, its text ones six digits.
    const near = (a: number, b: number) => expect(Math.abs(a / b - 1)).toBeLessThan(3e-6);
    near(s.faults.shells[0].area, ball.area);
    near(s.faults.shells[0].volume as number, ball.volume);
    const values = Float64Array.from(s.surface.corners, (q) => 3 * s.surface.points[3 * q + 1]);
    const inputs = { pressure: { on: "corners" as const, components: 1 as const, values }, referencePa: 1, about: [0, 0, 0] as const, sign: s.sign };
    const [force] = surfaceForces(s.surface, inputs, new Int32Array(ball.faces), 1);
    near(force.pressureForce[1], -3 * ball.volume);
  },
);

test.runIf(there)("tetrahedra: their volume, and circumradius over three times the inradius, worst and in the middle", () => {
  const { cloud } = figures();
  const q = gridQuality(read("cloud.vtu"));
  expect([q.cells, q.open, q.inverted]).toEqual([cloud.cells, [], []]);
  expect(q.volume / cloud.volume).toBeCloseTo(1, 12);
  const aspect = q.metrics.find((m) => m.metric === "aspect");
  expect((aspect?.worst ?? 0) / cloud.worst).toBeCloseTo(1, 9);
  expect((aspect?.median ?? 0) / cloud.median).toBeCloseTo(1, 9);
});

test.runIf(there).each([0, 1, 2] as const)("a plane cut across axis %d: its area, and the integral of a value over it", (axis) => {
  const { at, area, integral } = figures().cuts[`${axis}`];
  const cut = cutGrid(read("cloud.vtu"), acrossAxis(axis, at));
  const surface = surfaceOf(cut);
  const vectors = faceGeometry(surface).area;
  let [own, sum] = [0, 0];
  for (let f = 0; f < surface.cellOf.length; f++) {
    own += Math.hypot(...vectors.subarray(3 * f, 3 * f + 3));
    forTriangles(surface, f, (a, b, c) => {
      const [p, q, r] = [a, b, c].map((k) => surface.points.subarray(3 * surface.corners[k], 3 * surface.corners[k] + 3));
      const [u, v] = [q.map((x, d) => x - p[d]), r.map((x, d) => x - p[d])];
      const size = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
      sum += (size * [a, b, c].reduce((s, k) => s + cut.onPoints[0].values[surface.pointOf[k]], 0)) / 3;
    });
  }
  expect(own / area).toBeCloseTo(1, 6);
  expect(sum / integral).toBeCloseTo(1, 6);
});

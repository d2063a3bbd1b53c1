import { describe, expect, test } from "vitest";
import { polygonMesh } from "../../mesh/polygons.ts";
import { rectangleMesh } from "../../mesh/rectangle.ts";
import { aroundPlane, HOLES, OFF_BOX } from "./around.ts";
import { departureFrom, NoReach, proposedLengths, reachOfDisturbance } from "./reach.ts";

/** Square cells of side 0.5 from -half to half, without those of a body of side 1 about the origin. */
function roundBody(half: number, height = half) {
  const [nx, ny] = [4 * half, 4 * height];
  const pointsM = Float64Array.from(
    Array.from({ length: (nx + 1) * (ny + 1) }, (_, q) => [(q % (nx + 1)) / 2 - half, Math.floor(q / (nx + 1)) / 2 - height]).flat(),
  );
  const cells = Array.from({ length: nx * ny }, (_, c) => [c % nx, Math.floor(c / nx)])
    .filter(([i, j]) => Math.max(Math.abs((i + 0.5) / 2 - half), Math.abs((j + 0.5) / 2 - height)) > 0.5)
    .map(([i, j]) => [i + (nx + 1) * j, i + 1 + (nx + 1) * j, i + 1 + (nx + 1) * (j + 1), i + (nx + 1) * (j + 1)]);
  const near = (q: number) => Math.max(Math.abs(pointsM[2 * q]), Math.abs(pointsM[2 * q + 1])) < 0.6;
  return polygonMesh({ pointsM, cells, boundaryOf: (a, b) => (near(a) && near(b) ? "body" : "rim") });
}

type Mesh = ReturnType<typeof roundBody>;
const reachOf = (mesh: Mesh, values: Float64Array, free: number, limit: number, body: string) =>
  reachOfDisturbance(aroundPlane(mesh), departureFrom(values, free), limit, body);
const field = (mesh: Mesh, of: (x: number, y: number) => number) =>
  Float64Array.from({ length: mesh.cellCount }, (_, c) => of(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1]));
const dipole = (x: number, y: number) => 3 + (x > 0 ? 1 : -1) / (x * x + y * y);

describe("how far a disturbance reaches", () => {
  test("one that falls with the square of the distance reaches as far as the square root of the limit says, every way", () => {
    const mesh = roundBody(15);
    const found = reachOf(mesh, field(mesh, dipole), 3, 0.01, "body");
    expect(found).toMatchObject({ bodyM: 1, elsewhere: 0 });
    expect(found.ways.map((w) => w.way)).toEqual(["left", "right", "below", "above"]);
    for (const w of found.ways) {
      expect(w.cutOff).toBe(false);
      expect(Math.abs(w.extentM - 9.5)).toBeLessThan(0.06);
      expect(w.roomM).toBeCloseTo(14.5, 12);
      expect(proposedLengths(w, found.bodyM)).toBe(11.5);
    }
  });
  test("what stands inside the mesh is the body where no boundary has its name", () => {
    const mesh = roundBody(6);
    const values = field(mesh, dipole);
    expect(reachOf(mesh, values, 3, 0.05, HOLES)).toEqual(reachOf(mesh, values, 3, 0.05, "body"));
    expect(reachOf(mesh, values, 3, 0.05, OFF_BOX)).toEqual(reachOf(mesh, values, 3, 0.05, "body"));
    const whole = rectangleMesh({
      lengthM: 2,
      heightM: 1,
      nx: 4,
      ny: 2,
      gradingX: { kind: "uniform" },
      gradingY: { kind: "uniform" },
      periodicX: false,
    });
    expect(() => reachOf(whole, new Float64Array(8), 0, 1, HOLES)).toThrow("has no hole");
    expect(() => reachOf(whole, new Float64Array(8), 0, 1, OFF_BOX)).toThrow("nothing stands in it");
  });
  test("where the domain cuts it off, that is said, and where it would end follows from how it falls", () => {
    const mesh = roundBody(6);
    const found = reachOf(mesh, field(mesh, dipole), 3, 0.01, "body");
    for (const w of found.ways) {
      expect(w.cutOff).toBe(true);
      expect(w.extentM).toBeCloseTo(5.5, 12);
      expect(Math.abs((w.expectedM ?? 0) - 9.5)).toBeLessThan(0.8);
      expect(proposedLengths(w, 1)).toBeGreaterThan(10);
    }
  });
  test("one that does not fall along a way has no end there, and none is proposed", () => {
    const mesh = roundBody(8, 5);
    const wake = field(mesh, (x, y) => (x > -1 && Math.abs(y) < 1 ? 0.5 : 1));
    const [left, right, below] = reachOf(mesh, wake, 1, 0.01, "body").ways;
    expect(right).toEqual({ way: "right", extentM: 7.5, roomM: 7.5, cutOff: true });
    expect(proposedLengths(right, 1)).toBeUndefined();
    expect(left.cutOff).toBe(false);
    expect(left.extentM).toBeLessThan(1);
    expect(below.extentM).toBeLessThan(1);
  });
  test("what does not hang together with the body is counted apart; nothing above the limit reaches nowhere", () => {
    const mesh = roundBody(8);
    const apart = field(mesh, (x, y) => (Math.hypot(x, y) < 2 || Math.hypot(x - 6, y) < 1 ? 2 : 1));
    const found = reachOf(mesh, apart, 1, 0.5, "body");
    expect(found.elsewhere).toBeGreaterThan(4);
    for (const w of found.ways) expect(w.extentM).toBeLessThan(2);
    const none = reachOf(
      mesh,
      field(mesh, () => 1),
      1,
      0.5,
      "body",
    );
    expect(none.ways.every((w) => w.extentM === 0 && !w.cutOff)).toBe(true);
    expect(none.cells).toBe(0);
  });
  test.each([
    [0, "body", "a limit above 0"],
    [0.1, "shelf", 'no boundary "shelf"'],
  ])("limit %d of %s is refused", (limit, body, sentence) => {
    const mesh = roundBody(2);
    expect(() => reachOf(mesh, field(mesh, dipole), 3, limit, body)).toThrow(NoReach);
    expect(() => reachOf(mesh, field(mesh, dipole), 3, limit, body)).toThrow(sentence);
  });
});

import { describe, expect, test } from "vitest";
import { revolved } from "../mesh/revolved.ts";
import { shapedRectangle } from "../mesh/shaped.ts";
import { writtenFlow } from "./flow.ts";
import { writtenGas } from "./gas.ts";
import { averagesOnMesh, fluxesOnMesh } from "./onMesh.ts";

const uniform = { kind: "uniform" } as const;
const box = shapedRectangle({ lengthM: 1, heightM: 1, nx: 4, ny: 4, gradingX: uniform, gradingY: uniform, periodicX: false }, "jittered");
/** What flows out of every cell. */
function net(columns: readonly ArrayLike<number>[], k: number): Float64Array {
  const out = new Float64Array(box.cellCount);
  const [from, to, flux] = [columns[1], columns[2], columns[k]];
  for (let f = 0; f < from.length; f++) {
    out[from[f] - 1] += flux[f];
    if (to[f]) out[to[f] - 1] -= flux[f];
  }
  return out;
}

describe("exact means and fluxes on a mesh", () => {
  test("steady balances close cell by cell: what flows out is what the sources put in, where nothing is conducted", () => {
    const gas = { gamma: 1.4, gasConstant: 287, viscosityPaS: 0, prandtl: 0.7 };
    const w = writtenGas({ density: "1 + x * y", u: "2 + x", v: "1 - y", pressure: "5 + x" }, gas);
    const means = averagesOnMesh(w, box, 0);
    const fluxes = fluxesOnMesh(w, box, 0, 1.4);
    expect(fluxes.header.slice(5)).toEqual(["mass flux", "flux of momentum along x", "flux of momentum along y", "flux of energy"]);
    for (let k = 0; k < 4; k++) {
      const supplied = means.columns[4 + 4 + k];
      net(fluxes.columns, 5 + k).forEach((v, c) => {
        // No flux goes beyond the fifth power: quadrature leaves nothing.
        expect(v).toBeCloseTo(supplied[c] * box.volumeM2[c], 11);
      });
    }
  });
  test("a flow from a stream function leaves every cell as it came, in the plane and round an axis", () => {
    const plane = fluxesOnMesh(writtenFlow({ streamFunction: "sin(x) * y ^ 2 + x", pressure: "0" }, { viscosity: 0.1 }), box, 0);
    for (const v of net(plane.columns, 5)) expect(v).toBeCloseTo(0, 9);
    const carried = writtenFlow(
      { streamFunction: "x * y ^ 3 + y ^ 2", pressure: "0", carried: "x + t" },
      { viscosity: 1, diffusivity: 1, revolved: true },
    );
    const ring = fluxesOnMesh(carried, revolved(box), 2);
    for (const v of net(ring.columns, 5)) expect(v).toBeCloseTo(0, 12);
    expect(ring.header[6]).toBe("flux of what is carried, by the flow");
  });
  test("means are told with where the cells lie, at the moment asked for", () => {
    const w = writtenFlow({ streamFunction: "y ^ 2 / 2 + t * y", pressure: "x" }, { viscosity: 0.1 });
    const { header, columns } = averagesOnMesh(w, box, 3);
    expect(header.slice(0, 5)).toEqual(["cell", "x (m)", "y (m)", "volume of unit depth (m^3/m)", "velocity along x (m/s)"]);
    columns[4] &&
      Array.from(columns[4]).forEach((u, c) => {
        expect(u).toBeCloseTo(box.centroidM[2 * c + 1] + 3, 12);
      });
    expect(columns.every((col) => col.length === box.cellCount)).toBe(true);
  });
});

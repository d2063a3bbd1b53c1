import { expect, test } from "vitest";
import { boxFaces, polygons } from "../dataset/made.ts";
import { stitch } from "../dataset/stitch.ts";
import type { Vector } from "../dataset/vector.ts";
import { assessBalance } from "../method/balance/balance.ts";
import type { SurfaceRole, SurfaceSaid } from "../records/surfaces.ts";
import { PLAIN_SAID } from "./saidForTests.ts";
import { balanceOf } from "./surfaceBalance.ts";
import { readSurface } from "./surfaceRecord.ts";

// A duct of 2 by 1 by 0.5 m: the fluid inside, the faces' normals out of it and into what is round it.
const DUCT = boxFaces([0, 0, 0], [2, 1, 0.5], 4);
const ENDS = (k: number) => k < 32;

interface Duct {
  readonly speed?: (k: number) => number;
  readonly wallStress?: number;
  readonly pressure?: (k: number) => number;
  readonly without?: readonly SurfaceRole[];
  readonly faces?: typeof DUCT;
}

function balanceIn({ speed = () => 2, wallStress = 0, pressure = () => 0, without = [], faces = DUCT }: Duct) {
  const each = (of: (k: number) => number | Vector) => Float64Array.from(faces.flatMap((_, k) => of(k)));
  const grid = polygons(faces, [
    { name: "U", components: 3, values: each((k) => [ENDS(k) ? speed(k) : 0, 0, 0]) },
    { name: "p", components: 1, values: each(pressure) },
    { name: "tau", components: 3, values: each((k) => [ENDS(k) ? 0 : wallStress, 0, 0]) },
  ]);
  const arrays: SurfaceSaid["arrays"] = [
    { name: "U", on: "cells", role: "velocity", unit: "m/s" },
    { name: "p", on: "cells", role: "pressure", unit: "Pa" },
    { name: "tau", on: "cells", role: "shear", unit: "Pa" },
  ];
  const said: SurfaceSaid = {
    ...PLAIN_SAID,
    length: "m",
    arrays: arrays.filter((a) => !without.includes(a.role)),
    recipe: {
      division: { by: "angle", degrees: 30 },
      names: [
        { at: [0, 0.5, 0.25], name: "inlet" },
        { at: [2, 0.5, 0.25], name: "outlet" },
      ],
      splits: [],
    },
    normals: "into the body",
  };
  return balanceOf(readSurface(stitch(grid), said, 1, 1.2).found);
}

test("what comes in goes out; walls are told from openings; the pressure drop is what the walls take", () => {
  // 1.3 Pa less at the outlet over half a square metre, against a stress on six square metres of wall.
  const record = balanceIn({ pressure: (k) => (k < 16 ? 1.3 : 0), wallStress: (1.3 * 0.5) / 6 });
  expect(record?.from).toBe("surface");
  expect(record?.boundaries.map((b) => [b.name, b.closed, b.outlet, Number(b.mass?.toFixed(9))])).toEqual([
    ["inlet", undefined, undefined, -1.2],
    ["outlet", undefined, true, 1.2],
    ["without a name", true, undefined, 0],
  ]);
  expect(record?.boundaries[0].momentumX).toEqual([expect.closeTo(-2.4, 9), expect.closeTo(-0.65, 12), 0]);
  const { lines } = assessBalance(record as NonNullable<typeof record>);
  expect(lines.map((l) => [l.what, l.state])).toEqual([
    ["mass", "holds"],
    ["x momentum", "holds"],
    ["y momentum", "holds"],
    ["z momentum", "holds"],
  ]);
});

test("a leak of one in a hundred, and what flows back through the outlet", () => {
  const leak = balanceIn({ speed: (k) => (k < 16 ? 2 : 1.98) });
  expect(assessBalance(leak as NonNullable<typeof leak>).lines[0]).toMatchObject({ what: "mass", state: "fails", relative: expect.closeTo(0.01, 9) });
  const back = balanceIn({ speed: (k) => (k < 16 ? 2 : k < 20 ? -1 : 3) });
  expect(back?.boundaries[1]).toMatchObject({ outlet: true, mass: expect.closeTo(1.2, 9), massBack: expect.closeTo(0.15, 9) });
});

test.each<[string, Duct]>([
  ["the stress along the walls", { without: ["shear"] }],
  ["the pressure", { without: ["pressure"] }],
  ["a piece of the surface", { faces: DUCT.slice(0, 95) }],
])("without %s there is mass, and no momentum that could not close", (_what, duct) => {
  const record = balanceIn(duct);
  expect(record?.boundaries.every((b) => b.momentumX === undefined && b.mass !== undefined)).toBe(true);
});

test("without a velocity, or where nothing flows, there is no balance", () => {
  expect(balanceIn({ without: ["velocity"] })).toBeUndefined();
  expect(balanceIn({ speed: () => 0 })).toBeUndefined();
});

import { boxSide, hexahedra, polygons } from "../core/dataset/made.ts";
import { surfaceOf } from "../core/dataset/surface.ts";
import { at, cross, plus, times, type Vector } from "../core/dataset/vector.ts";
import { writeCsv } from "../core/formats/csv.ts";
import { writeVtkCells } from "../core/formats/vtk/writeCells.ts";
import { writeVtkSurface } from "../core/formats/vtk/writeSurface.ts";
import { normalsOf, randomFrom } from "../core/numeric/random.ts";

/**
 * What stands behind Lintel's made-up results on the loading door's leaf, ajar in the wind: a pressure that is quadratic in the leaf's own
 * frame, so that the divergence theorem gives force and moment exactly, and an even stress along its two large sides.
 */
export const LEAF = {
  widthM: 1.2,
  thicknessM: 0.08,
  heightM: 2.1,
  ajarDeg: 25,
  densityKgM3: 1.274,
  speedMS: 8,
  viscosityPaS: 1.74e-5,
  /** pressures over the dynamic pressure: from windward to lee, along the width, and how they fall off towards the edges */
  across: -1.3,
  along: 0.12,
  roundWidth: -0.5,
  roundHeight: -0.15,
  shear: 0.004,
  volumeM3: 60,
} as const;

const q = 0.5 * LEAF.densityKgM3 * LEAF.speedMS ** 2;
const angle = (LEAF.ajarDeg * Math.PI) / 180;
const E_S: Vector = [Math.cos(angle), Math.sin(angle), 0];
const E_N: Vector = [-Math.sin(angle), Math.cos(angle), 0];
const { widthM, thicknessM, heightM } = LEAF;

/** Place in the leaf's frame, from the hinge along its width, through its thickness, up. */
const place = ([s, n, z]: Vector): Vector => plus(plus(times(E_S, s), times(E_N, n)), [0, 0, z]);

/** Gauge pressure, Pa. */
const pressure = ([s, n, z]: Vector): number =>
  q *
  (0.85 +
    LEAF.across * (n / thicknessM) +
    LEAF.along * (s / widthM) +
    LEAF.roundWidth * (s / widthM - 0.5) ** 2 +
    LEAF.roundHeight * (z / heightM - 0.5) ** 2);

/** Force on the leaf, N, and moment about the hinge's axis, N m: exact. */
export function leafTruth(): { readonly force: Vector; readonly hingeMoment: number } {
  const volume = widthM * thicknessM * heightM;
  const [slopeN, slopeS] = [LEAF.across / thicknessM, LEAF.along / widthM];
  const byPressure = times(plus(times(E_N, slopeN), times(E_S, slopeS)), -q * volume);
  const side = widthM * heightM;
  const byShear = times(E_S, 2 * LEAF.shear * q * side);
  // About z: -int (s dp/dn - n dp/ds) dV; the round parts cancel about the middle but for s times their own slope along n, which is none.
  const momentOfPressure = -q * volume * (slopeN * (widthM / 2) - slopeS * (thicknessM / 2));
  const momentOfShear = cross(times(E_N, thicknessM), times(E_S, LEAF.shear * q * side))[2];
  return { force: plus(byPressure, byShear), hingeMoment: momentOfPressure + momentOfShear };
}

interface LeafRun {
  readonly label: string;
  readonly cells: number;
  /** what Lintel reported, with its mesh error of second order */
  readonly reported: { readonly drag: number; readonly side: number; readonly moment: number };
  readonly quantities: string;
}

/** mesh error: coefficient times spacing squared, a share */
const MESH_SHARE = 0.9;

export function leafRuns(): LeafRun[] {
  const { force, hingeMoment } = leafTruth();
  return [
    ["D1 coarse", 180_000],
    ["D2 medium", 600_000],
    ["D3 fine", 2_000_000],
  ].map(([label, cells]) => {
    const spacing = (LEAF.volumeM3 / Number(cells)) ** (1 / 3);
    const share = 1 + MESH_SHARE * spacing ** 2;
    const reported = { drag: force[1] * share, side: force[0] * share, moment: hingeMoment * (1 + 0.7 * MESH_SHARE * spacing ** 2) };
    const rows = [
      ["drag", reported.drag, "N"],
      ["side force", reported.side, "N"],
      ["hinge moment", reported.moment, "N m"],
    ] as const;
    return {
      label: String(label),
      cells: Number(cells),
      reported,
      quantities: `name,value,unit\n${rows.map(([n, v, u]) => `${n},${v.toPrecision(7)},${u}`).join("\n")}\n`,
    };
  });
}

/** zones as the file numbers them */
export const ZONES = { windward: 1, lee: 2, rims: 3, "kick plate": 4 } as const;
const KICK_M = 0.3;
const CELL_M = 0.05;

interface LeafFace {
  readonly corners: readonly Vector[];
  readonly zone: number;
}

const SIZE: Vector = [widthM, thicknessM, heightM];
const COUNTS = SIZE.map((v) => Math.max(2, Math.round(v / CELL_M))) as unknown as Vector;
/** face of the lower rim that is missing */
const MISSING = 3;

/** Faces of the leaf in its own frame. Planted: the upper rim goes round the wrong way, and one face of the lower rim is missing. */
function leafFaces(): LeafFace[] {
  const side = (axis: number, greater: boolean) => boxSide([0, 0, 0], SIZE, COUNTS, axis, greater);
  const rim = (faces: readonly Vector[][]) => faces.map((corners) => ({ corners, zone: ZONES.rims }));
  const windward = side(1, false).map((corners) => {
    const height = corners.reduce((sum, c) => sum + c[2], 0) / 4;
    return { corners, zone: height < KICK_M ? ZONES["kick plate"] : ZONES.windward };
  });
  return [
    ...rim([...side(0, false), ...side(0, true)]),
    ...windward,
    ...side(1, true).map((corners) => ({ corners, zone: ZONES.lee })),
    ...rim(side(2, false).filter((_, k) => k !== MISSING)),
    ...rim(side(2, true).map((corners) => corners.reverse())),
  ];
}

/** The leaf's surface with pressure on its points, stress along the wall on its faces, and the zones of the mesh: VTK XML, in mm. */
export function leafFile(): string {
  const faces = leafFaces();
  const surface = surfaceOf(polygons(faces.map((f) => f.corners)));
  const inFrame = Array.from({ length: surface.points.length / 3 }, (_, k) => at(surface.points, k));
  const stress = faces.flatMap(({ zone }) => (zone === ZONES.rims ? [0, 0, 0] : times(E_S, LEAF.shear * q)));
  return writeVtkSurface({ ...surface, points: Float64Array.from(inFrame.flatMap((x) => times(place(x), 1000))) }, [
    { name: "p (Pa)", on: "points", components: 1, values: inFrame.map(pressure) },
    { name: "wall shear (Pa)", on: "faces", components: 3, values: stress },
    { name: "zone", on: "faces", components: 1, values: faces.map((f) => f.zone), whole: true },
  ]);
}

/** heights of the pressure taps, m, and where along the leaf's width they sit, as shares of it */
export const TAPS = {
  heightsM: [0.525, 1.05, 1.575],
  shares: [0.04, 0.1, 0.18, 0.26, 0.34, 0.42, 0.5, 0.58, 0.66, 0.74, 0.82, 0.9, 0.96],
  /** standard deviation of a reading, Pa */
  readingPa: 0.25,
  /** one tap was blocked and shows nothing */
  blocked: { side: "windward", heightM: 1.05, share: 0.58 },
} as const;

/** Made-up readings of the taps on both sides of the leaf: height, place along x, pressure and its uncertainty at 95 %. */
export function tapsFile(seed = 17): string {
  const normal = normalsOf(randomFrom(seed));
  const rows = (["windward", "lee"] as const).flatMap((side) =>
    TAPS.heightsM.flatMap((z) =>
      TAPS.shares.map((share) => {
        const inFrame: Vector = [share * widthM, side === "windward" ? 0 : thicknessM, z];
        const { blocked } = TAPS;
        const open = side !== blocked.side || z !== blocked.heightM || share !== blocked.share;
        const read = Number((open ? pressure(inFrame) + TAPS.readingPa * normal() : 0).toFixed(2));
        const x = Number(place(inFrame)[0].toFixed(4));
        return side === "windward" ? [z, x, read, ""] : [z, x, "", read];
      }),
    ),
  );
  return writeCsv(["z (m)", "x (m)", "p windward (Pa)", "p lee (Pa)"], rows as never);
}

/** A place on a zone, mm: names are given there. */
export function placeOn(zone: keyof typeof ZONES): [number, number, number] {
  const inFrame: Record<keyof typeof ZONES, Vector> = {
    windward: [0.6, 0, 1.2],
    lee: [0.6, thicknessM, 1.2],
    rims: [0, 0.04, 1],
    "kick plate": [0.6, 0, 0.1],
  };
  return [...times(place(inFrame[zone]), 1000)] as [number, number, number];
}

/** Part of the coarse mesh before the leaf: cells a side, and the points that slipped when its layers were made, by how much of a side. */
export const YARD_BLOCK = {
  cells: [12, 10, 14],
  slipped: [
    [7, 4, 9, 0.46],
    [3, 6, 5, 0.42],
  ],
} as const;

/** That part, with the velocity and the pressure of a stagnation flow before the leaf, exact at the middles of its cells: VTK XML, in m. */
export function blockFile(): string {
  const [nx, ny, nz] = YARD_BLOCK.cells;
  const side = 0.1;
  const velocity: number[] = [];
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++) for (let i = 0; i < nx; i++) velocity.push(...beforeTheLeaf((i + 0.5) * side, (j + 0.5 - ny) * side));
  const place = (i: number, j: number, k: number): Vector => {
    const slip = YARD_BLOCK.slipped.find(([a, b, c]) => a === i && b === j && c === k)?.[3] ?? 0;
    return [(i + slip) * side, (j - ny + slip) * side, (k - slip) * side];
  };
  const pressure = Float64Array.from(
    { length: nx * ny * nz },
    (_, c) => -0.5 * LEAF.densityKgM3 * Math.hypot(...velocity.slice(3 * c, 3 * c + 3)) ** 2,
  );
  return writeVtkCells(
    hexahedra(YARD_BLOCK.cells, place, [
      { name: "U (m/s)", components: 3, values: Float64Array.from(velocity) },
      { name: "p (Pa)", components: 1, values: pressure },
    ]),
  );
}

/** Velocity of a plane stagnation flow towards y = 0 about the middle of the leaf, m/s. */
export const beforeTheLeaf = (x: number, y: number): Vector => [LEAF.speedMS * (x - widthM / 2), -LEAF.speedMS * y, 0];

import { randomFrom } from "../numeric/random.ts";
import { joinBlocks } from "./blocks.ts";
import type { FaceMesh } from "./faceMesh.ts";
import { gridLines } from "./grading.ts";
import { polygonMesh } from "./polygons.ts";
import type { RectangleSpec } from "./rectangle.ts";
import type { CellShape } from "./shapes.ts";

const SMOOTH = 0.05;
const JITTER = 0.2;
const TRIANGLE_JITTER = 0.1;
/** how far a hexagon's corners leave their row, of its height */
const CORNER = 0.144;
const LEFT_TO_RIGHT = ["left", "right"] as const;
const BOTTOM_TO_TOP = ["bottom", "top"] as const;

/**
 * A rectangle filled with distorted, random or many-cornered cells, for tests of order; boundaries stay where they are.
 * "rows" keeps the grid lines; "smooth" bends them by a few seeded waves, the same on every mesh of a family; "jittered" moves every inner
 * point by up to a fifth of the spacing; "triangles" halves cells jittered by a tenth; "hexagons" is a honeycomb with straight rims.
 * @throws {RangeError} Counts below 2, lengths not positive.
 */
export function shapedRectangle(spec: RectangleSpec & { readonly periodicY?: boolean }, shape: CellShape, seed = 1): FaceMesh {
  const { lengthM, heightM, nx, ny } = spec;
  if (!(nx >= 2 && ny >= 2)) throw new RangeError(`A rectangle needs at least 2 x 2 cells, not ${nx} x ${ny}.`);
  const periodic = [
    ...(spec.periodicX ? [{ names: LEFT_TO_RIGHT, shiftM: [lengthM, 0] as const }] : []),
    ...(spec.periodicY ? [{ names: BOTTOM_TO_TOP, shiftM: [0, heightM] as const }] : []),
  ];
  if (shape === "hexagons") return honeycomb(lengthM, heightM, nx, ny, periodic);
  const x = gridLines(lengthM, nx, spec.gradingX);
  const y = gridLines(heightM, ny, spec.gradingY);
  if (shape === "rows" || shape === "smooth") {
    const bend = shape === "smooth" ? waves(seed) : () => [0, 0] as const;
    return joinBlocks(
      [
        {
          nx,
          ny,
          place: (s, t) => {
            const i = Math.round(s * nx);
            const j = Math.round(t * ny);
            const [dx, dy] = bend(x[i] / lengthM, y[j] / heightM);
            return [x[i] + dx * lengthM, y[j] + dy * heightM];
          },
          sides: { left: "left", right: "right", bottom: "bottom", top: "top" },
        },
      ],
      periodic,
    );
  }
  return jittered(x, y, shape === "triangles", seed, periodic);
}

/** Displacement by three seeded waves that vanish on the rim of the unit square. */
function waves(seed: number): (s: number, t: number) => readonly [number, number] {
  const random = randomFrom(seed);
  const modes = [1, 1, 2].map((k) => ({ k, a: random() - 0.5, b: random() - 0.5 }));
  const size = modes.reduce((sum, m) => sum + Math.abs(m.a) + Math.abs(m.b), 0) / 2;
  return (s, t) => {
    let dx = 0;
    let dy = 0;
    for (const { k, a, b } of modes) {
      const w = (SMOOTH / size) * Math.sin(2 * Math.PI * k * s) * Math.sin(2 * Math.PI * t);
      dx += a * w;
      dy += b * w;
    }
    return [dx, dy];
  };
}

type Periodic = readonly { readonly names: readonly [string, string]; readonly shiftM: readonly [number, number] }[];

function jittered(x: Float64Array, y: Float64Array, halve: boolean, seed: number, periodic: Periodic): FaceMesh {
  const nx = x.length - 1;
  const ny = y.length - 1;
  const random = randomFrom(seed);
  const amount = 2 * (halve ? TRIANGLE_JITTER : JITTER);
  const at = (i: number, j: number) => j * (nx + 1) + i;
  const pointsM = new Float64Array(2 * (nx + 1) * (ny + 1));
  for (let j = 0; j <= ny; j++) {
    for (let i = 0; i <= nx; i++) {
      const inner = i > 0 && i < nx && j > 0 && j < ny;
      const p = 2 * at(i, j);
      pointsM[p] = x[i] + (inner ? amount * (random() - 0.5) * Math.min(x[i] - x[i - 1], x[i + 1] - x[i]) : 0);
      pointsM[p + 1] = y[j] + (inner ? amount * (random() - 0.5) * Math.min(y[j] - y[j - 1], y[j + 1] - y[j]) : 0);
    }
  }
  const cells: number[][] = [];
  for (let j = 0; j < ny; j++) {
    for (let i = 0; i < nx; i++) {
      const [a, b, c, d] = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
      if (!halve) cells.push([a, b, c, d]);
      else if ((i + j) % 2) cells.push([a, b, c], [a, c, d]);
      else cells.push([a, b, d], [b, c, d]);
    }
  }
  const boundaryOf = (a: number, b: number) => {
    const [ia, ib] = [a % (nx + 1), b % (nx + 1)];
    if (ia === 0 && ib === 0) return "left";
    if (ia === nx && ib === nx) return "right";
    return Math.floor(a / (nx + 1)) === 0 ? "bottom" : "top";
  };
  const mesh = polygonMesh({ pointsM, cells, boundaryOf, periodic });
  return halve ? mesh : { ...mesh, structure: [{ firstCell: 0, nx, ny }] };
}

/** Rows of six-cornered cells, every second row shifted by half a cell and closed by half cells. */
function honeycomb(lengthM: number, heightM: number, nx: number, ny: number, periodic: Periodic): FaceMesh {
  const columns = 2 * nx;
  const at = (j: number, k: number) => j * (columns + 1) + k;
  const h = heightM / ny;
  const pointsM = new Float64Array(2 * (ny + 1) * (columns + 1));
  for (let j = 0; j <= ny; j++) {
    for (let k = 0; k <= columns; k++) {
      const rim = j === 0 || j === ny;
      const up = (k % 2 === 1) === (j % 2 === 1);
      pointsM[2 * at(j, k)] = (k * lengthM) / columns;
      pointsM[2 * at(j, k) + 1] = j * h + (rim ? 0 : up ? CORNER * h : -CORNER * h);
    }
  }
  const cells: number[][] = [];
  for (let j = 0; j < ny; j++) {
    const cuts = j % 2 ? [0, ...Array.from({ length: nx }, (_, q) => 2 * q + 1), columns] : Array.from({ length: nx + 1 }, (_, q) => 2 * q);
    for (let q = 0; q + 1 < cuts.length; q++) {
      const span = Array.from({ length: cuts[q + 1] - cuts[q] + 1 }, (_, k) => cuts[q] + k);
      cells.push([...span.map((k) => at(j, k)), ...span.reverse().map((k) => at(j + 1, k))]);
    }
  }
  const boundaryOf = (a: number, b: number) => {
    const [ka, kb] = [a % (columns + 1), b % (columns + 1)];
    if (ka === 0 && kb === 0) return "left";
    if (ka === columns && kb === columns) return "right";
    return a < columns + 1 ? "bottom" : "top";
  };
  return polygonMesh({ pointsM, cells, boundaryOf, periodic });
}

/** A cell field on a graded rectangle as it is kept and sent: grid lines and one value a cell. */
export interface GridField {
  readonly xLinesM: ArrayLike<number>;
  readonly yLinesM: ArrayLike<number>;
  /** value of cell (i, j) at j * nx + i */
  readonly values: ArrayLike<number>;
}

const STOPS = ["#101C2C", "#1D3B5A", "#2C5D7C", "#42808F", "#66A196", "#97BF97", "#CAD9A0", "#F4EFC4"].map((h) =>
  [1, 3, 5].map((i) => Number.parseInt(h.slice(i, i + 2), 16)),
);

/** Colour of t in [0, 1]: dark to light in even steps of lightness. */
export function fieldColor(t: number): readonly [number, number, number] {
  const s = Math.min(0.999999, Math.max(0, t)) * (STOPS.length - 1);
  const i = Math.floor(s);
  const f = s - i;
  return [0, 1, 2].map((k) => Math.round(STOPS[i][k] + (STOPS[i + 1][k] - STOPS[i][k]) * f)) as unknown as readonly [number, number, number];
}

/** Smallest and largest value. */
export function fieldRange(values: ArrayLike<number>): [number, number] {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < values.length; i++) {
    if (values[i] < low) low = values[i];
    if (values[i] > high) high = values[i];
  }
  return [low, high];
}

/** Cell index under each pixel column or row. */
function hits(lines: ArrayLike<number>, pixels: number): Int32Array {
  const cells = lines.length - 1;
  const from = lines[0];
  const size = lines[cells] - from;
  const out = new Int32Array(pixels);
  let c = 0;
  for (let p = 0; p < pixels; p++) {
    const at = from + ((p + 0.5) / pixels) * size;
    while (c + 1 < cells && lines[c + 1] <= at) c++;
    out[p] = c;
  }
  return out;
}

/** Pixels of a field, cell values as they are, not smoothed. @returns 3 x width x height bytes, rows from the top */
export function rasterField(field: GridField, width: number, height: number, [low, high]: readonly [number, number]): Uint8Array {
  const nx = field.xLinesM.length - 1;
  const columns = hits(field.xLinesM, width);
  const rows = hits(field.yLinesM, height);
  const table = Array.from({ length: 256 }, (_, k) => fieldColor(k / 255));
  const factor = high > low ? 255 / (high - low) : 0;
  const rgb = new Uint8Array(3 * width * height);
  for (let y = 0; y < height; y++) {
    const base = rows[height - 1 - y] * nx;
    for (let x = 0; x < width; x++) {
      const t = Math.max(0, Math.min(255, Math.round((field.values[base + columns[x]] - low) * factor)));
      const c = table[t];
      const at = 3 * (y * width + x);
      rgb[at] = c[0];
      rgb[at + 1] = c[1];
      rgb[at + 2] = c[2];
    }
  }
  return rgb;
}

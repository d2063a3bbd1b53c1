import type { FaceGraph } from "./faceMesh.ts";

/** Finds the cell whose centroid lies nearest to a point, by bins of a few cells each. */
export class NearestCell {
  private readonly bins: number[][];
  private readonly columns: number;
  private readonly rows: number;
  private readonly x0: number;
  private readonly y0: number;
  private readonly dx: number;
  private readonly dy: number;

  constructor(private readonly mesh: Pick<FaceGraph, "cellCount" | "centroidM">) {
    const { cellCount, centroidM } = mesh;
    let [x0, x1, y0, y1] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (let c = 0; c < cellCount; c++) {
      x0 = Math.min(x0, centroidM[2 * c]);
      x1 = Math.max(x1, centroidM[2 * c]);
      y0 = Math.min(y0, centroidM[2 * c + 1]);
      y1 = Math.max(y1, centroidM[2 * c + 1]);
    }
    const width = Math.max(x1 - x0, 1e-12 * Math.abs(x1) + 1e-300);
    const height = Math.max(y1 - y0, 1e-12 * Math.abs(y1) + 1e-300);
    this.columns = Math.max(1, Math.min(2000, Math.round(Math.sqrt((cellCount * width) / height / 2))));
    this.rows = Math.max(1, Math.min(2000, Math.ceil(cellCount / 2 / this.columns)));
    [this.x0, this.y0, this.dx, this.dy] = [x0, y0, width / this.columns, height / this.rows];
    this.bins = Array.from({ length: this.columns * this.rows }, () => []);
    for (let c = 0; c < cellCount; c++) this.bins[this.row(centroidM[2 * c + 1]) * this.columns + this.column(centroidM[2 * c])].push(c);
  }

  private column(x: number): number {
    return Math.max(0, Math.min(this.columns - 1, Math.floor((x - this.x0) / this.dx)));
  }

  private row(y: number): number {
    return Math.max(0, Math.min(this.rows - 1, Math.floor((y - this.y0) / this.dy)));
  }

  find(x: number, y: number): number {
    const i = this.column(x);
    const j = this.row(y);
    let best = -1;
    let bestDistance = Number.POSITIVE_INFINITY;
    const most = Math.max(this.columns, this.rows);
    // Rings of bins: once something is found, one more ring and all rings nearer than it settle the matter.
    for (let ring = 0; ring <= most; ring++) {
      if (best >= 0 && (ring - 1) * Math.min(this.dx, this.dy) > Math.sqrt(bestDistance)) break;
      for (let b = Math.max(0, j - ring); b <= Math.min(this.rows - 1, j + ring); b++) {
        // Top and bottom rows of the ring whole, else its two end columns.
        const whole = Math.abs(b - j) === ring;
        for (let a = i - ring; a <= i + ring; a += whole ? 1 : 2 * ring) {
          if (a < 0 || a >= this.columns) continue;
          for (const c of this.bins[b * this.columns + a]) {
            const d = (this.mesh.centroidM[2 * c] - x) ** 2 + (this.mesh.centroidM[2 * c + 1] - y) ** 2;
            if (d < bestDistance) [best, bestDistance] = [c, d];
          }
        }
      }
    }
    return best;
  }
}

import type { GasSpace } from "./gasSpace.ts";
import { SymmetricSweep } from "./symmetricSweep.ts";

const MOST_DIRECTIONS = 30;
const LINEAR_DROP = 0.1;
/** relative size of the change a derivative is taken over */
const NUDGE = 1e-7;
/** a cell keeps at least this share of its density and pressure in one step */
const KEEP = 0.3;
/** a step is not held back below this share for a pressure's sake */
const LEAST_SHARE = 1e-3;

/**
 * One implicit step towards the steady state by a Newton-Krylov method: the second-order fluxes are differentiated along directions that
 * symmetric sweeps prepare, so that no matrix is stored.
 * @source Saad & Schultz, SIAM J. Sci. Stat. Comput. 7 (1986) 856; Knoll & Keyes, J. Comput. Phys. 193 (2004) 357
 */
export class NewtonStep {
  private readonly sweep: SymmetricSweep;
  private readonly basis: Float64Array[] = [];
  private readonly prepared: Float64Array[] = [];
  private readonly rate: Float64Array;
  private readonly base: Float64Array;
  private readonly conserved: Float64Array;
  private readonly change: Float64Array;
  /** of density, both momenta and energy */
  private readonly weight: readonly [number, number, number, number];
  private left = 0;

  constructor(private readonly space: GasSpace) {
    this.sweep = new SymmetricSweep(space);
    this.rate = space.work.float64(space.geometry.cells);
    this.base = space.work.float64(space.residual.length);
    this.conserved = space.work.float64(space.residual.length);
    this.change = space.work.float64(space.residual.length);
    // Density, momentum and energy differ by orders of magnitude: all are measured by the first state's.
    let [density, sound] = [0, 0];
    const { w } = space;
    for (let i = 0; i < w.length; i += 4) {
      density = Math.max(density, w[i]);
      sound = Math.max(sound, Math.sqrt((space.physics.gas.gamma * w[i + 3]) / w[i]));
    }
    this.weight = [1 / density, 1 / (density * sound), 1 / (density * sound), 1 / (density * sound * sound)];
  }

  /**
   * Takes the residual of the present fields and changes the conserved values.
   * @returns the share of the full step that was taken, and what the linear solution left of its right-hand side
   * @param courant pseudo time step in Courant numbers
   */
  step(courant: number): { share: number; left: number } {
    const { space, rate, base, conserved } = this;
    for (let c = 0; c < rate.length; c++) rate[c] = space.waves[c] / (2 * courant);
    base.set(space.residual);
    conserved.set(space.conserved);
    // The first state is given by its primitives; what its conserved values give back may differ in the last bit.
    space.primitiveFromConserved();
    this.sweep.hold();
    const change = this.solve();
    space.conserved.set(conserved);
    space.primitiveFromConserved();
    return { share: this.apply(change), left: this.left };
  }

  private scaledNorm(a: Float64Array): number {
    return Math.sqrt(this.space.work.vectors.scaledSquare(a, ...this.weight));
  }

  private product(a: Float64Array, b: Float64Array): number {
    return this.space.work.vectors.scaledDot(a, b, ...this.weight);
  }

  /** (rate - dF/dU) along a direction, by a difference of two evaluations. */
  private operate(direction: Float64Array, out: Float64Array): void {
    const { space, conserved, base, rate } = this;
    const size = this.scaledNorm(direction);
    if (size === 0) {
      out.fill(0);
      return;
    }
    const nudge = (NUDGE * this.scaledNorm(conserved)) / size;
    const { vectors } = space.work;
    vectors.moved(conserved, nudge, direction, space.conserved);
    space.primitiveFromConserved();
    space.evaluate(true);
    vectors.operated(out, rate, direction, space.residual, base, nudge);
  }

  private vector(list: Float64Array[], k: number): Float64Array {
    list[k] ??= this.space.work.float64(this.base.length);
    return list[k];
  }

  /** Generalised minimal residuals, prepared from the right. */
  private solve(): Float64Array {
    const { base } = this;
    const first = this.vector(this.basis, 0);
    const beta = this.scaledNorm(base);
    const { vectors } = this.space.work;
    if (beta > 0) vectors.divideBy(base, beta, first);
    else first.fill(0);
    const h: number[][] = [];
    const cosine: number[] = [];
    const sine: number[] = [];
    const g = [beta];
    let used = 0;
    for (let k = 0; k < MOST_DIRECTIONS && beta > 0; k++) {
      const z = this.vector(this.prepared, k);
      this.sweep.solve(this.rate, this.basis[k], z);
      const w = this.vector(this.basis, k + 1);
      this.operate(z, w);
      const column: number[] = [];
      for (let j = 0; j <= k; j++) {
        const s = this.product(w, this.basis[j]);
        column.push(s);
        vectors.addScaled(w, -s, this.basis[j]);
      }
      const length = this.scaledNorm(w);
      if (length > 0) vectors.divideBy(w, length, w);
      for (let j = 0; j < k; j++) {
        const t = cosine[j] * column[j] + sine[j] * column[j + 1];
        column[j + 1] = cosine[j] * column[j + 1] - sine[j] * column[j];
        column[j] = t;
      }
      const r = Math.hypot(column[k], length);
      cosine.push(column[k] / r);
      sine.push(length / r);
      column[k] = r;
      h.push(column);
      g.push(-sine[k] * g[k]);
      g[k] *= cosine[k];
      used = k + 1;
      if (Math.abs(g[k + 1]) < LINEAR_DROP * beta || !Number.isFinite(r)) break;
    }
    this.left = beta > 0 ? Math.abs(g[used]) / beta : 0;
    const y = new Array<number>(used).fill(0);
    for (let i = used - 1; i >= 0; i--) {
      let s = g[i];
      for (let j = i + 1; j < used; j++) s -= h[j][i] * y[j];
      y[i] = s / h[i][i];
    }
    const change = this.change.fill(0);
    for (let k = 0; k < used; k++) vectors.addScaled(change, y[k], this.prepared[k]);
    return change;
  }

  /** Adds the change, held back as a whole where a cell would lose most of its density or pressure. */
  private apply(change: Float64Array): number {
    const { conserved: u, w, physics, work } = this.space;
    const share = work.vectors.heldBack(u, change, w, physics.gas.gamma, KEEP, LEAST_SHARE);
    work.vectors.addScaled(u, share, change);
    return share;
  }
}

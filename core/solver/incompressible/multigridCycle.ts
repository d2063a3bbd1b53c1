import type { LevelTransfer } from "../../mesh/agglomerate.ts";
import { FIXED } from "../discrete/boundaryConditions.ts";
import type { FlowLevel } from "./flowLevel.ts";

const PRE = 2;
const POST = 3;
const COARSEST = 8;

interface Scratch {
  readonly u: Float64Array;
  readonly v: Float64Array;
  readonly p: Float64Array;
  readonly ru: Float64Array;
  readonly rv: Float64Array;
  readonly restrictedFlux: Float64Array;
  readonly gradient: [Float64Array, Float64Array];
  readonly boundary: Float64Array;
  readonly scalars: readonly Float64Array[];
  readonly scalarResiduals: readonly Float64Array[];
}

/**
 * Full approximation scheme over nested meshes with SIMPLEC as smoother: V(2,3).
 * Fluxes through boundaries are restricted from the fine mesh, never evaluated anew: exact coarse values stall the cycle.
 * @source Brandt & Livne, Multigrid Techniques (2011), ch. 8; Lien & Leschziner, Comput. Methods Appl. Mech. Eng. 114 (1994) 123.
 */
export class MultigridCycle {
  private readonly scratch: Scratch[] = [];

  /** @param levels finest first; `transfers[l]` leads from level l to level l + 1 */
  constructor(
    private readonly levels: FlowLevel[],
    private readonly transfers: readonly LevelTransfer[],
  ) {
    levels.slice(1).forEach((level) => {
      const { cells, faces, joins, arena } = level.geometry;
      const cell = () => arena.float64(cells);
      level.forcing = { u: cell(), v: cell(), flux: new Float64Array(faces) };
      this.scratch.push({
        u: cell(),
        v: cell(),
        p: cell(),
        ru: cell(),
        rv: cell(),
        restrictedFlux: new Float64Array(faces),
        gradient: [cell(), cell()],
        boundary: new Float64Array(faces - joins),
        scalars: level.scalars.map(cell),
        scalarResiduals: level.scalars.map(cell),
      });
      for (const q of level.scalars) q.forcing = cell();
    });
  }

  get depth(): number {
    return this.levels.length;
  }

  /** Gives up the coarsest level: very coarse meshes may misrepresent the flow so far that they harm. */
  dropCoarsest(): void {
    if (this.levels.length > 1) this.levels.pop();
  }

  /** One cycle on the finest level. */
  run(): void {
    this.cycle(0);
  }

  private cycle(l: number): void {
    const fine = this.levels[l];
    if (l === this.levels.length - 1) {
      const count = l === 0 ? PRE + POST : COARSEST;
      for (let k = 0; k < count; k++) fine.smooth();
      return;
    }
    for (let k = 0; k < PRE; k++) fine.smooth();
    this.restrict(l);
    this.cycle(l + 1);
    this.prolong(l);
    for (let k = 0; k < POST; k++) fine.smooth();
  }

  private restrict(l: number): void {
    const fine = this.levels[l];
    const coarse = this.levels[l + 1];
    const { cell, face, sign } = this.transfers[l];
    const s = this.scratch[l];
    const forcing = coarse.forcing as NonNullable<FlowLevel["forcing"]>;
    fine.evaluate();
    for (const a of [coarse.u, coarse.v, coarse.p, s.ru, s.rv, s.restrictedFlux, forcing.u, forcing.v]) a.fill(0);
    for (let i = 0; i < fine.geometry.cells; i++) {
      const k = cell[i];
      const share = fine.geometry.volume[i] / coarse.geometry.volume[k];
      coarse.u[k] += share * fine.u[i];
      coarse.v[k] += share * fine.v[i];
      coarse.p[k] += share * fine.p[i];
      s.ru[k] += fine.ru[i];
      s.rv[k] += fine.rv[i];
    }
    for (let f = 0; f < fine.geometry.faces; f++) if (face[f] >= 0) s.restrictedFlux[face[f]] += sign[f] * fine.flux[f];
    coarse.flux.set(s.restrictedFlux);
    s.u.set(coarse.u);
    s.v.set(coarse.v);
    s.p.set(coarse.p);
    this.restrictScalars(l);
    coarse.evaluate();
    for (let k = 0; k < coarse.geometry.cells; k++) {
      forcing.u[k] = s.ru[k] - coarse.ru[k];
      forcing.v[k] = s.rv[k] - coarse.rv[k];
    }
    coarse.interpolateFluxes();
    for (let f = 0; f < coarse.geometry.faces; f++) forcing.flux[f] = s.restrictedFlux[f] - coarse.flux[f];
    coarse.flux.set(s.restrictedFlux);
    this.forceScalars(l);
  }

  /** Restricts the transported quantities before the flow is evaluated, which they may drive. */
  private restrictScalars(l: number): void {
    const fine = this.levels[l];
    const coarse = this.levels[l + 1];
    const { cell } = this.transfers[l];
    const s = this.scratch[l];
    fine.evaluateScalars();
    fine.scalars.forEach((q, k) => {
      const to = coarse.scalars[k];
      to.q.fill(0);
      to.forgetSlopes();
      s.scalarResiduals[k].fill(0);
      for (let i = 0; i < cell.length; i++) {
        to.q[cell[i]] += (fine.geometry.volume[i] / coarse.geometry.volume[cell[i]]) * q.q[i];
        s.scalarResiduals[k][cell[i]] += q.residual[i];
      }
      s.scalars[k].set(to.q);
      to.forcing?.fill(0);
    });
  }

  private forceScalars(l: number): void {
    const coarse = this.levels[l + 1];
    if (!coarse.scalars.length) return;
    coarse.evaluateScalars();
    coarse.scalars.forEach((q, k) => {
      const restricted = this.scratch[l].scalarResiduals[k];
      if (q.forcing) for (let c = 0; c < restricted.length; c++) q.forcing[c] = restricted[c] - q.residual[c];
    });
  }

  private prolong(l: number): void {
    const fine = this.levels[l];
    const coarse = this.levels[l + 1];
    const s = this.scratch[l];
    const g = fine.geometry;
    for (let k = 0; k < coarse.geometry.cells; k++) {
      s.u[k] = coarse.u[k] - s.u[k];
      s.v[k] = coarse.v[k] - s.v[k];
      s.p[k] = coarse.p[k] - s.p[k];
    }
    const du = this.spread(l, s.u);
    const dv = this.spread(l, s.v);
    for (let i = 0; i < g.cells; i++) {
      fine.u[i] += du[i];
      fine.v[i] += dv[i];
    }
    for (let f = 0; f < g.joins; f++) {
      const w = g.weight[f];
      const o = g.owner[f];
      const n = g.neighbour[f];
      fine.flux[f] += (w * du[o] + (1 - w) * du[n]) * g.sx[f] + (w * dv[o] + (1 - w) * dv[n]) * g.sy[f];
    }
    for (const f of fine.outletFaces) fine.flux[f] += du[g.owner[f]] * g.sx[f] + dv[g.owner[f]] * g.sy[f];
    coarse.pressureGradient(s.p, s.boundary, s.gradient, true);
    this.addLinear(l, s.p, fine.p);
    coarse.scalars.forEach((q, k) => {
      const change = s.scalars[k];
      for (let c = 0; c < change.length; c++) change[c] = q.q[c] - change[c];
      const { joins, faces, owner } = coarse.geometry;
      for (let f = joins; f < faces; f++) s.boundary[f - joins] = q.held[f - joins] ? 0 : change[owner[f]];
      coarse.fieldGradient(change, s.boundary, s.gradient);
      this.addLinear(l, change, fine.scalars[k].q);
    });
  }

  /** A velocity correction carried to the finer mesh with its slope; it vanishes on fixed boundaries. */
  private spread(l: number, q: Float64Array): Float64Array {
    const coarse = this.levels[l + 1];
    const { joins, faces, owner } = coarse.geometry;
    const s = this.scratch[l];
    for (let f = joins; f < faces; f++) s.boundary[f - joins] = coarse.boundary.type[f - joins] === FIXED ? 0 : q[owner[f]];
    coarse.fieldGradient(q, s.boundary, s.gradient);
    const out = new Float64Array(this.levels[l].geometry.cells);
    this.addLinear(l, q, out);
    return out;
  }

  private addLinear(l: number, q: Float64Array, out: Float64Array): void {
    const { cell } = this.transfers[l];
    const [gx, gy] = this.scratch[l].gradient;
    const fineAt = this.levels[l].geometry.mesh.centroidM;
    const coarseAt = this.levels[l + 1].geometry.mesh.centroidM;
    for (let i = 0; i < out.length; i++) {
      const k = cell[i];
      out[i] += q[k] + gx[k] * (fineAt[2 * i] - coarseAt[2 * k]) + gy[k] * (fineAt[2 * i + 1] - coarseAt[2 * k + 1]);
    }
  }
}

import type { LevelTransfer } from "../../mesh/agglomerate.ts";
import { FIXED } from "../discrete/boundaryConditions.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import type { Pair } from "../kernels/kernels.ts";
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

/** What lies between a mesh and the next coarser one, where compiled loops reach it. */
interface Placed {
  /** coarse cell of each fine cell */
  readonly cell: Int32Array;
  /** coarse face of each fine face plus one, negative where the two point opposite ways; 0 inside a coarse cell */
  readonly faceCode: Int32Array;
  /** centroids, x and y side by side, m */
  readonly fineAt: Float64Array;
  readonly coarseAt: Float64Array;
  readonly change: Pair;
}

function placed(fine: FlowGeometry, coarse: FlowGeometry, { cell, face, sign }: LevelTransfer): Placed {
  const { arena, cells, faces } = fine;
  const between = {
    cell: arena.int32(cells),
    faceCode: arena.int32(faces),
    fineAt: arena.float64(2 * cells),
    coarseAt: arena.float64(2 * coarse.cells),
    change: [arena.float64(cells), arena.float64(cells)] as const,
  };
  between.cell.set(cell);
  for (let f = 0; f < faces; f++) between.faceCode[f] = sign[f] * (face[f] + 1);
  between.fineAt.set(fine.mesh.centroidM);
  between.coarseAt.set(coarse.mesh.centroidM);
  return between;
}

/**
 * Full approximation scheme over nested meshes with SIMPLEC as smoother: V(2,3).
 * Fluxes through boundaries are restricted from the fine mesh, never evaluated anew: exact coarse values stall the cycle.
 * @source Brandt & Livne, Multigrid Techniques (2011), ch. 8; Lien & Leschziner, Comput. Methods Appl. Mech. Eng. 114 (1994) 123.
 */
export class MultigridCycle {
  private readonly scratch: Scratch[] = [];
  private readonly placed: readonly Placed[];

  /** @param levels finest first; `transfers[l]` leads from level l to level l + 1 */
  constructor(
    private readonly levels: FlowLevel[],
    transfers: readonly LevelTransfer[],
  ) {
    this.placed = levels.slice(1).map((coarse, l) => placed(levels[l].geometry, coarse.geometry, transfers[l]));
    levels.slice(1).forEach((level) => {
      const { cells, faces, joins, arena } = level.geometry;
      const cell = () => arena.float64(cells);
      level.forcing = { u: cell(), v: cell(), flux: arena.float64(faces) };
      this.scratch.push({
        u: cell(),
        v: cell(),
        p: cell(),
        ru: cell(),
        rv: cell(),
        restrictedFlux: arena.float64(faces),
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
    const { cell, faceCode } = this.placed[l];
    const s = this.scratch[l];
    const forcing = coarse.forcing as NonNullable<FlowLevel["forcing"]>;
    fine.evaluate();
    for (const a of [coarse.u, coarse.v, coarse.p, s.ru, s.rv, s.restrictedFlux, forcing.u, forcing.v]) a.fill(0);
    const { volume } = fine.geometry;
    const { kernels } = fine.geometry.arena;
    for (const name of ["u", "v", "p"] as const) kernels.gatherMean(cell, volume, coarse.geometry.volume, fine[name], coarse[name]);
    kernels.gatherSum(cell, fine.ru, s.ru);
    kernels.gatherSum(cell, fine.rv, s.rv);
    kernels.gatherFluxes(faceCode, fine.flux, s.restrictedFlux);
    coarse.flux.set(s.restrictedFlux);
    s.u.set(coarse.u);
    s.v.set(coarse.v);
    s.p.set(coarse.p);
    this.restrictScalars(l);
    coarse.evaluate();
    for (const [into, own, all] of [
      [forcing.u, coarse.ru, s.ru],
      [forcing.v, coarse.rv, s.rv],
    ]) {
      into.set(own);
      kernels.subtractFrom(all, into);
    }
    coarse.interpolateFluxes();
    forcing.flux.set(coarse.flux);
    kernels.subtractFrom(s.restrictedFlux, forcing.flux);
    coarse.flux.set(s.restrictedFlux);
    this.forceScalars(l);
  }

  /** Restricts the transported quantities before the flow is evaluated, which they may drive. */
  private restrictScalars(l: number): void {
    const fine = this.levels[l];
    const coarse = this.levels[l + 1];
    const { cell } = this.placed[l];
    const { kernels } = fine.geometry.arena;
    const s = this.scratch[l];
    fine.evaluateScalars();
    fine.scalars.forEach((q, k) => {
      const to = coarse.scalars[k];
      to.q.fill(0);
      to.forgetSlopes();
      s.scalarResiduals[k].fill(0);
      kernels.gatherMean(cell, fine.geometry.volume, coarse.geometry.volume, q.q, to.q);
      kernels.gatherSum(cell, q.residual, s.scalarResiduals[k]);
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
      if (!q.forcing) return;
      q.forcing.set(q.residual);
      coarse.geometry.arena.kernels.subtractFrom(restricted, q.forcing);
    });
  }

  private prolong(l: number): void {
    const fine = this.levels[l];
    const coarse = this.levels[l + 1];
    const s = this.scratch[l];
    const g = fine.geometry;
    const { kernels } = g.arena;
    for (const name of ["u", "v", "p"] as const) kernels.subtractFrom(coarse[name], s[name]);
    const [du, dv] = this.placed[l].change;
    this.spread(l, s.u, du);
    this.spread(l, s.v, dv);
    kernels.addPair([du, dv], [fine.u, fine.v]);
    kernels.addFaceFluxes(g.owner.subarray(0, g.joins), g.neighbour, g.weight, g.sx, g.sy, [du, dv], fine.flux);
    for (const f of fine.outletFaces) fine.flux[f] += du[g.owner[f]] * g.sx[f] + dv[g.owner[f]] * g.sy[f];
    coarse.pressureGradient(s.p, s.boundary, s.gradient, true);
    this.addLinear(l, s.p, fine.p);
    coarse.scalars.forEach((q, k) => {
      const change = s.scalars[k];
      kernels.subtractFrom(q.q, change);
      const { joins, faces, owner } = coarse.geometry;
      for (let f = joins; f < faces; f++) s.boundary[f - joins] = q.held[f - joins] ? 0 : change[owner[f]];
      coarse.fieldGradient(change, s.boundary, s.gradient);
      this.addLinear(l, change, fine.scalars[k].q);
    });
  }

  /** A velocity correction carried to the finer mesh with its slope; it vanishes on fixed boundaries. */
  private spread(l: number, q: Float64Array, out: Float64Array): void {
    const coarse = this.levels[l + 1];
    const { joins, faces, owner } = coarse.geometry;
    const s = this.scratch[l];
    for (let f = joins; f < faces; f++) s.boundary[f - joins] = coarse.boundary.type[f - joins] === FIXED ? 0 : q[owner[f]];
    coarse.fieldGradient(q, s.boundary, s.gradient);
    this.addLinear(l, q, out.fill(0));
  }

  private addLinear(l: number, q: Float64Array, out: Float64Array): void {
    const { cell, fineAt, coarseAt } = this.placed[l];
    this.levels[l].geometry.arena.kernels.addLinear(cell, q, this.scratch[l].gradient, fineAt, coarseAt, out);
  }
}

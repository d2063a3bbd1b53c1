import type { LevelTransfer } from "../../mesh/agglomerate.ts";
import { FIXED } from "../discrete/boundaryConditions.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import type { FlowLevel } from "./flowLevel.ts";

const PRE = 2;
const POST = 3;
const COARSEST = 8;
/** growth of the residual on the coarsest level from which on its steps lead away: what it found is then left where it is */
const RUNS_AWAY = 10;

/** What a level keeps beside its fields while it serves a finer one. */
interface Below {
  /** fields as they came down */
  readonly u: Float64Array;
  readonly v: Float64Array;
  readonly p: Float64Array;
  readonly scalars: readonly Float64Array[];
  readonly forcing: NonNullable<FlowLevel["forcing"]>;
  readonly scalarForcing: readonly Float64Array[];
  readonly boundary: Float64Array;
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
}

function centroids({ arena, cells, mesh }: FlowGeometry): Float64Array {
  const at = arena.float64(2 * cells);
  at.set(mesh.centroidM);
  return at;
}

function placed({ arena, cells, faces }: FlowGeometry, { cell, face, sign }: LevelTransfer, fineAt: Float64Array, coarseAt: Float64Array): Placed {
  const between = { cell: arena.int32(cells), faceCode: arena.int32(faces), fineAt, coarseAt };
  between.cell.set(cell);
  for (let f = 0; f < faces; f++) between.faceCode[f] = sign[f] * (face[f] + 1);
  return between;
}

function below(level: FlowLevel): Below {
  const { cells, faces, joins, arena } = level.geometry;
  const cell = () => arena.float64(cells);
  return {
    u: cell(),
    v: cell(),
    p: cell(),
    scalars: level.scalars.map(cell),
    forcing: { u: cell(), v: cell(), flux: arena.float64(faces) },
    scalarForcing: level.scalars.map(cell),
    boundary: new Float64Array(faces - joins),
  };
}

/**
 * Full approximation scheme over nested meshes with SIMPLEC as smoother: V(2,3).
 * Fluxes through boundaries are restricted from the fine mesh, never evaluated anew: exact coarse values stall the cycle.
 * @source Brandt & Livne, Multigrid Techniques (2011), ch. 8; Lien & Leschziner, Comput. Methods Appl. Mech. Eng. 114 (1994) 123.
 */
export class MultigridCycle {
  private readonly below: readonly Below[];
  private readonly placed: readonly Placed[];

  /** @param levels finest first; `transfers[l]` leads from level l to level l + 1 */
  constructor(
    readonly levels: readonly FlowLevel[],
    transfers: readonly LevelTransfer[],
  ) {
    const at = levels.length > 1 ? levels.map((l) => centroids(l.geometry)) : [];
    this.placed = transfers.map((t, l) => placed(levels[l].geometry, t, at[l], at[l + 1]));
    this.below = levels.slice(1).map(below);
  }

  /** Lets cycles begin on a level, as if there were none above it. */
  release(top: number): void {
    const level = this.levels[top];
    level.forcing = undefined;
    for (const q of level.scalars) q.forcing = undefined;
  }

  /**
   * One cycle over some of the levels.
   * @param top the finest of them
   * @param bottom the coarsest: very coarse meshes may misrepresent the flow so far that they harm
   */
  run(top: number, bottom: number): void {
    this.cycle(top, top, bottom);
  }

  /** @returns whether the level is better for it */
  private cycle(l: number, top: number, bottom: number): boolean {
    const fine = this.levels[l];
    if (l === bottom && l !== top) return coarsest(fine);
    for (let k = 0; k < PRE; k++) fine.smooth();
    if (l !== bottom) {
      this.restrict(l);
      if (this.cycle(l + 1, top, bottom)) this.prolong(l);
    }
    for (let k = 0; k < POST; k++) fine.smooth();
    return true;
  }

  private restrict(l: number): void {
    const fine = this.levels[l];
    const coarse = this.levels[l + 1];
    const { cell, faceCode } = this.placed[l];
    const s = this.below[l];
    const { forcing } = s;
    const restrictedFlux = coarse.scratch.face;
    fine.evaluate();
    for (const a of [coarse.u, coarse.v, coarse.p, forcing.u, forcing.v, restrictedFlux]) a.fill(0);
    const { volume } = fine.geometry;
    const { kernels } = fine.geometry.arena;
    for (const name of ["u", "v", "p"] as const) kernels.gatherMean(cell, volume, coarse.geometry.volume, fine[name], coarse[name]);
    kernels.gatherSum(cell, fine.ru, forcing.u);
    kernels.gatherSum(cell, fine.rv, forcing.v);
    kernels.gatherFluxes(faceCode, fine.flux, restrictedFlux);
    coarse.flux.set(restrictedFlux);
    s.u.set(coarse.u);
    s.v.set(coarse.v);
    s.p.set(coarse.p);
    this.restrictScalars(l);
    coarse.forcing = undefined;
    coarse.evaluate();
    kernels.addScaled(-1, coarse.ru, forcing.u);
    kernels.addScaled(-1, coarse.rv, forcing.v);
    coarse.interpolateFluxes();
    forcing.flux.set(coarse.flux);
    kernels.subtractFrom(restrictedFlux, forcing.flux);
    coarse.flux.set(restrictedFlux);
    coarse.forcing = forcing;
    this.forceScalars(l);
  }

  /** Restricts the transported quantities before the flow is evaluated, which they may drive. */
  private restrictScalars(l: number): void {
    const fine = this.levels[l];
    const coarse = this.levels[l + 1];
    const { cell } = this.placed[l];
    const { kernels } = fine.geometry.arena;
    const s = this.below[l];
    fine.evaluateScalars();
    fine.scalars.forEach((q, k) => {
      const to = coarse.scalars[k];
      to.q.fill(0);
      to.forgetSlopes();
      kernels.gatherMean(cell, fine.geometry.volume, coarse.geometry.volume, q.q, to.q);
      kernels.gatherSum(cell, q.residual, s.scalarForcing[k].fill(0));
      s.scalars[k].set(to.q);
      to.forcing = undefined;
    });
  }

  private forceScalars(l: number): void {
    const coarse = this.levels[l + 1];
    if (!coarse.scalars.length) return;
    coarse.evaluateScalars();
    coarse.scalars.forEach((q, k) => {
      const forcing = this.below[l].scalarForcing[k];
      coarse.geometry.arena.kernels.addScaled(-1, q.residual, forcing);
      q.forcing = forcing;
    });
  }

  private prolong(l: number): void {
    const fine = this.levels[l];
    const coarse = this.levels[l + 1];
    const s = this.below[l];
    const g = fine.geometry;
    const { kernels } = g.arena;
    for (const name of ["u", "v", "p"] as const) kernels.subtractFrom(coarse[name], s[name]);
    const [du, dv] = fine.scratch.change;
    this.spread(l, s.u, du);
    this.spread(l, s.v, dv);
    kernels.addPair([du, dv], [fine.u, fine.v]);
    kernels.addFaceFluxes(g.owner.subarray(0, g.joins), g.neighbour, g.weight, g.sx, g.sy, [du, dv], fine.flux);
    for (const f of fine.outletFaces) fine.flux[f] += du[g.owner[f]] * g.sx[f] + dv[g.owner[f]] * g.sy[f];
    coarse.pressureGradient(s.p, s.boundary, coarse.scratch.gradient, true);
    this.addLinear(l, s.p, fine.p);
    coarse.scalars.forEach((q, k) => {
      const change = s.scalars[k];
      kernels.subtractFrom(q.q, change);
      const { joins, faces, owner } = coarse.geometry;
      for (let f = joins; f < faces; f++) s.boundary[f - joins] = q.held[f - joins] ? 0 : change[owner[f]];
      coarse.fieldGradient(change, s.boundary, coarse.scratch.gradient);
      this.addLinear(l, change, fine.scalars[k].q);
    });
  }

  /** A velocity correction carried to the finer mesh with its slope; it vanishes on fixed boundaries. */
  private spread(l: number, q: Float64Array, out: Float64Array): void {
    const coarse = this.levels[l + 1];
    const { joins, faces, owner } = coarse.geometry;
    const { boundary } = this.below[l];
    for (let f = joins; f < faces; f++) boundary[f - joins] = coarse.boundary.type[f - joins] === FIXED ? 0 : q[owner[f]];
    coarse.fieldGradient(q, boundary, coarse.scratch.gradient);
    this.addLinear(l, q, out.fill(0));
  }

  private addLinear(l: number, q: Float64Array, out: Float64Array): void {
    const { cell, fineAt, coarseAt } = this.placed[l];
    const { scratch, geometry } = this.levels[l + 1];
    geometry.arena.kernels.addLinear(cell, q, scratch.gradient, fineAt, coarseAt, out);
  }
}

/** Steps on the coarsest level: a handful of oddly shaped cells may lack the stability that the finer ones have. */
function coarsest(level: FlowLevel): boolean {
  let first = 0;
  for (let k = 0; k < COARSEST; k++) {
    level.smooth();
    const { xMomentum, yMomentum, scalars } = level.residuals;
    const size = xMomentum + yMomentum + scalars.reduce((sum, r) => sum + r, 0);
    if (k === 0) first = size;
    if (!(size <= RUNS_AWAY * first)) return false;
  }
  return true;
}

import { count, duration, percent, sentenceCase, significant } from "../formatting/number.ts";
import { costExponent } from "../method/refinement/planning.ts";
import type { PlannedAxis } from "../problems/describe/ladderPlan.ts";
import type { State } from "../remarks/remark.ts";

/** What a case is to be taken to, and what that may cost. */
export interface PilotGoal {
  readonly quantity: string;
  /** numerical uncertainty at 95 %, over the quantity's scale */
  readonly target: number;
  readonly mostCells: number;
  /** of computing, all its runs together */
  readonly longestS: number;
}

/** A finished rung of the case, as the decision needs it. */
export interface PilotRung {
  readonly nx: number;
  readonly ny: number;
  readonly cells: number;
  readonly seconds: number;
}

/** Where a case stands between two steps. */
export interface PilotPosition {
  /** finest first, of the present set-up */
  readonly rungs: readonly PilotRung[];
  /** counts to begin with */
  readonly start: { readonly nx: number; readonly ny: number };
  /** why the last run gave nothing, where it did */
  readonly failure?: string | undefined;
  /** of the finest run */
  readonly settled: State;
  /** what keeps it from being settled */
  readonly unsettled?: string | undefined;
  /** three-mesh class and order in use, where three rungs delivered the quantity */
  readonly mesh?: { readonly kind: string; readonly order: number } | undefined;
  /** numerical error sources that were measured, over scale, by name */
  readonly sources: readonly { readonly name: string; readonly relative: number }[];
  readonly spentS: number;
  /** what may be changed where a source other than the mesh is the largest, by the name of the source */
  readonly tunings: readonly Tuning[];
}

/** A setting of the case that makes an error source smaller, and what it would be next. */
export interface Tuning {
  readonly source: string;
  readonly axis: PlannedAxis;
  /** what it is called, and what it is now */
  readonly label: string;
  readonly own: number;
  readonly next: number;
  /** how many times as long a run takes then, about */
  readonly cost: number;
  /** how many times as many cells a mesh has then */
  readonly cells: number;
}

export type PilotMove =
  | { readonly kind: "refine"; readonly nx: number; readonly ny: number; readonly why: string }
  | { readonly kind: "retune"; readonly tuning: Tuning; readonly why: string }
  | { readonly kind: "end"; readonly reached: boolean; readonly reason: string };

const RATIO = 1.5;
/** below it neighbouring meshes differ too little to judge by */
const LEAST_RATIO = 1.3;
const MOST_RATIO = 2;
/** a step aims a little below the target, for the order is never quite what it was */
const AIM = 0.9;
/** rungs after which a set that still does not converge is given up */
const PATIENCE = 6;
const LEAST_CELLS = 4;
/** meshes that are computed again where a setting of all was changed: as many as are judged */
export const JUDGED = 3;
/** no solver's time goes with a higher power of the cells than this; two short runs may seem to say so */
const STEEPEST = 2.5;

const end = (reached: boolean, reason: string): PilotMove => ({ kind: "end", reached, reason });

/**
 * The next step towards a goal: a finer mesh or a changed setting with the reason for it, or the end with its reason. Coarse meshes first, since
 * each is a start for the next; then the mesh is refined while it is what limits the quantity, by as much as the observed order asks for; where the
 * time step, the tolerance or the extent of the domain limits it, that is changed.
 */
export function nextMove(goal: PilotGoal, p: PilotPosition): PilotMove {
  if (p.failure) return end(false, `The last run gave nothing to go on from: ${p.failure}`);
  const [finest] = p.rungs;
  if (!finest) return refine(goal, p, p.start.nx, p.start.ny, "A coarse mesh first: it costs little and is a start for the next.");
  if (p.settled === "fails")
    return end(false, `The finest run has not settled${p.unsettled ? `: ${p.unsettled}` : ""}. A finer mesh would not help.`);
  if (p.rungs.length < 3 || !p.mesh)
    return p.rungs.length < PATIENCE
      ? scaled(goal, p, RATIO, `Three meshes are the fewest to judge by; this is number ${p.rungs.length + 1}.`)
      : end(false, `${p.rungs.length} meshes were computed, but fewer than three delivered the ${goal.quantity}.`);
  const total = Math.hypot(...p.sources.map((s) => s.relative));
  const said = `the numerical uncertainty of the ${goal.quantity} is ${percent(total)}, ${percent(goal.target)} was asked for`;
  if (total <= goal.target) return end(true, `Reached: ${said}.`);
  return towards(goal, p, total, said);
}

/** Refines what dominates, which is the mesh, or says what else does. */
function towards(goal: PilotGoal, p: PilotPosition, total: number, said: string): PilotMove {
  const [largest] = [...p.sources].sort((a, b) => b.relative - a.relative);
  if (!largest) return end(false, `No error source of the ${goal.quantity} could be measured.`);
  if (largest.name !== "mesh") return retune(goal, p, largest, said);
  const { kind, order } = p.mesh ?? { kind: "", order: 1 };
  if (kind === "diverging" && p.rungs.length >= PATIENCE)
    return end(false, `Not reached: over ${p.rungs.length} meshes the ${goal.quantity} does not converge.`);
  const others = Math.sqrt(Math.max(0, total ** 2 - largest.relative ** 2));
  if (others >= goal.target) return end(false, `Not reached: ${said}, and what is not the mesh's alone makes ${percent(others)} of it.`);
  const left = AIM * Math.sqrt(goal.target ** 2 - others ** 2);
  const wanted = (largest.relative / left) ** (1 / order);
  const ratio = Math.min(MOST_RATIO, Math.max(LEAST_RATIO, wanted));
  const how = kind === "monotone" ? `at order ${significant(order, 3)}` : `with the set ${kind}, as if at order 1,`;
  const enough =
    wanted <= MOST_RATIO
      ? `a mesh ${significant(ratio, 3)} times as fine should do`
      : `a mesh ${significant(wanted, 2)} times as fine is needed, twice as fine is next`;
  return scaled(goal, p, ratio, `The mesh is the largest part, ${percent(largest.relative)}; ${how} ${enough}.`);
}

/** Changes what makes the largest source smaller, and computes the finest three meshes again. */
function retune(goal: PilotGoal, p: PilotPosition, largest: PilotPosition["sources"][number], said: string): PilotMove {
  const tuning = p.tunings.find((t) => t.source === largest.name);
  const part = `${largest.name} is the largest part of it with ${percent(largest.relative)}`;
  if (!tuning) return end(false, `Not reached: ${said}, and ${part}. A finer mesh would not help.`);
  const { label, own, next } = tuning;
  const again = p.rungs.slice(0, JUDGED);
  const why = `${sentenceCase(part.replace(" of it", ""))}: “${label}” goes from ${significant(own, 3)} to ${significant(next, 3)}, and the finest ${again.length} meshes are computed again.`;
  const cells = Math.round(again[0].cells * tuning.cells);
  if (cells > goal.mostCells)
    return end(false, `Out of cells: the finest mesh would have ${count(cells)}, ${count(goal.mostCells)} were allowed. ${why}`);
  const seconds = tuning.cost * again.reduce((s, r) => s + r.seconds, 0);
  if (p.spentS + seconds > goal.longestS)
    return end(
      false,
      `Out of time: that would take about ${duration(seconds)} after ${duration(p.spentS)}, ${duration(goal.longestS)} were allowed. ${why}`,
    );
  return { kind: "retune", tuning, why };
}

/** The finest mesh refined alike in both directions. */
function scaled(goal: PilotGoal, p: PilotPosition, ratio: number, why: string): PilotMove {
  const { nx, ny } = p.rungs[0];
  return refine(goal, p, Math.max(nx + 1, Math.round(nx * ratio)), Math.max(ny + 1, Math.round(ny * ratio)), why);
}

function refine(goal: PilotGoal, p: PilotPosition, nx: number, ny: number, why: string): PilotMove {
  const [finest] = p.rungs;
  const cells = finest ? Math.round((finest.cells * nx * ny) / (finest.nx * finest.ny)) : nx * ny;
  if (cells > goal.mostCells)
    return end(false, `Out of cells: the next mesh would have ${count(cells)}, ${count(goal.mostCells)} were allowed. ${why}`);
  const seconds = finest ? expectedSeconds(p.rungs, cells) : 0;
  if (p.spentS + seconds > goal.longestS)
    return end(
      false,
      `Out of time: the next mesh would take about ${duration(seconds)} after ${duration(p.spentS)}, ${duration(goal.longestS)} were allowed. ${why}`,
    );
  return { kind: "refine", nx: Math.max(LEAST_CELLS, nx), ny: Math.max(LEAST_CELLS, ny), why };
}

/** Computing time of a mesh from the exponent of the two finest, at least as steep as the cells themselves. */
function expectedSeconds([fine, medium]: readonly PilotRung[], cells: number): number {
  const exponent = medium ? costExponent(fine, medium) : 1;
  return fine.seconds * (cells / fine.cells) ** Math.min(exponent, STEEPEST);
}

import type { CaseSetup } from "./caseSetup.ts";
import { described } from "./catalogue.ts";
import type { MeshSpec, Numerics } from "./runSettings.ts";

/** An axis besides the mesh along which runs of the bench can be planned. */
export type PlannedAxis = "time-step" | "domain" | "tolerance";

export interface AxisPlan {
  readonly axis: PlannedAxis;
  /** what is typed for it */
  readonly label: string;
  /** what the case itself has */
  readonly own: number;
  /** what makes a ladder of three with it */
  readonly suggested: readonly number[];
  readonly min: number;
  readonly max: number;
}

type Planned = Pick<CaseSetup, "problemId" | "parameters" | "numerics">;

const MOST_ORDERS = 14;

/** Axes that a case of the bench has besides the mesh, with what would make a ladder of three. */
export function axisPlans({ problemId, parameters, numerics }: Planned): AxisPlan[] {
  if (problemId === null) return [];
  const { physicsWords, domain, parameters: specs } = described(problemId);
  const plans: AxisPlan[] = [];
  const { courant, dropOrders } = numerics;
  if (physicsWords.time === "transient" && courant !== undefined)
    plans.push({ axis: "time-step", label: "Courant numbers", own: courant, suggested: [courant / 4, courant / 2], min: 1e-3, max: 100 });
  const spec = domain && specs.find((s) => s.key === domain.parameter);
  if (spec) {
    const own = parameters[spec.key];
    const suggested = [1.5 * own, 2 * own].filter((v) => v <= spec.max);
    plans.push({ axis: "domain", label: spec.label, own, suggested, min: spec.min, max: spec.max });
  }
  const orders = [dropOrders - 2, dropOrders + 2].filter((v) => v >= 1 && v <= MOST_ORDERS);
  plans.push({ axis: "tolerance", label: "Orders residuals are to fall", own: dropOrders, suggested: orders, min: 1, max: MOST_ORDERS });
  return plans;
}

const TIGHTER = 2;
const WIDER = 1.5;

/** What would make an axis leave less: half the time step, a domain half as large again, two more orders. @returns undefined at its end */
export function nextOn({ axis, own, max, min }: AxisPlan): number | undefined {
  const next = axis === "time-step" ? own / 2 : axis === "domain" ? WIDER * own : own + TIGHTER;
  return next > max || next < min ? undefined : next;
}

/** What a run at one place of an axis has of its own: a larger domain has as many more cells along it, so that they stay as large as they are. */
export function settingsAt(
  setup: Planned,
  axis: PlannedAxis,
  value: number,
  mesh: MeshSpec,
): { readonly mesh: MeshSpec; readonly parameters?: Readonly<Record<string, number>>; readonly numerics?: Partial<Numerics> } {
  if (axis === "time-step") return { mesh, numerics: { courant: value } };
  if (axis === "tolerance") return { mesh, numerics: { dropOrders: value } };
  const domain = described(setup.problemId ?? "").domain;
  if (!domain) throw new RangeError("The domain of this problem is part of its question.");
  const { parameter, counts } = domain;
  const cells = Math.max(2, Math.round((mesh[counts] * value) / setup.parameters[parameter]));
  return { mesh: { ...mesh, [counts]: cells }, parameters: { [parameter]: value } };
}

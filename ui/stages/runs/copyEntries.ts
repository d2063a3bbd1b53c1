import { described } from "@/core/problems/describe/catalogue";
import type { MeshSpec } from "@/core/problems/describe/runSettings";
import type { Input } from "../../api/call";
import { entryOf } from "../../forms/entries";
import type { RunView } from "../../view";

type Sent = Input<"POST /runs/{id}/copy">;

/** What may differ between a run and its copy, as it is typed. */
export type CopyEntries = ReturnType<typeof copyEntries>;

const text = (x: number | undefined) => (x === undefined ? "" : String(x));

/** An old run's cells, numerics and stop rules. */
export function copyEntries({ settings: { mesh, numerics } }: Pick<RunView, "settings">) {
  const spec = mesh as MeshSpec;
  return {
    nx: String(spec.nx),
    ny: String(spec.ny),
    shape: spec.shape ?? "rows",
    scheme: numerics.scheme,
    riemannFlux: numerics.riemannFlux ?? "contact",
    limiter: numerics.limiter ?? "none",
    courant: text(numerics.courant),
    dropOrders: text(numerics.dropOrders),
    maxIterations: text(numerics.maxIterations),
    longestS: text(numerics.stop?.longestS),
    onceSteady: numerics.stop?.onceSteady ? "yes" : "no",
    moments: String(numerics.moments ?? 0),
    priority: "0",
    startFrom: "",
  };
}

const number = (typed: string) => (typed.trim() === "" ? undefined : Number(typed));

/** What is sent: cell shapes, fluxes and a start only where the problem knows them. */
export function copyInput(problemId: string, typed: CopyEntries): Sent {
  const problem = described(problemId);
  return {
    nx: Number(typed.nx),
    ny: Number(typed.ny),
    ...(problem.shapes ? { shape: typed.shape } : {}),
    scheme: typed.scheme,
    ...(problem.physicsWords.compressible ? { riemannFlux: typed.riemannFlux, limiter: typed.limiter } : {}),
    courant: number(typed.courant),
    dropOrders: Number(typed.dropOrders),
    maxIterations: Number(typed.maxIterations),
    longestS: number(typed.longestS),
    onceSteady: typed.onceSteady === "yes",
    ...(problem.physicsWords.time === "steady" ? {} : { moments: number(typed.moments) ?? 0 }),
    priority: Number(typed.priority),
    ...(typed.startFrom ? { startFrom: typed.startFrom } : {}),
  };
}

export const CopyEntry = entryOf<CopyEntries>();

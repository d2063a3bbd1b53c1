import type { ParameterSpec, ProblemDescription } from "@/core/problems/describe/problem";
import { Mistake } from "../../forms/entries";
import { LIMITER_CHOICES, RIEMANN_FLUX_CHOICES, SCHEME_CHOICES } from "../numericsChoices";
import { QuestionEntry } from "./entries";

/** What the flow is driven by, and how the bench is to solve it. */
export function Conditions(p: { specs: readonly ParameterSpec[]; problem?: ProblemDescription; inTime: boolean }) {
  return (
    <section aria-label="Conditions">
      <h2 className="mb-1">Conditions, in any unit</h2>
      <div className="grid grid-cols-2 gap-2">
        {p.specs.map((s) => (
          <QuestionEntry
            key={s.key}
            name={`parameters.${s.key}`}
            mistake={s.key}
            label={s.label}
            help={s.help}
            choices={s.choices?.map((c) => [String(c.value), c.name])}
          />
        ))}
        {p.problem?.formulas?.map((q) => (
          <div key={q.key} className="col-span-2">
            <QuestionEntry name={`formulas.${q.key}`} mistake={q.key} label={q.label} help={q.help} />
          </div>
        ))}
        <Mistake of="parameters" className="col-span-2" />
        {p.problem ? <Numerics compressible={p.problem.physicsWords.compressible} /> : null}
        {p.inTime ? <QuestionEntry name="courant" label="Largest Courant number" /> : null}
        {p.problem ? <QuestionEntry name="maxIterations" label="Most iterations or steps" /> : null}
        <QuestionEntry name="dropOrders" label={p.problem ? "Orders residuals are to fall" : "Orders residuals are to fall to count as settled"} />
      </div>
    </section>
  );
}

function Numerics({ compressible }: { compressible: boolean }) {
  if (!compressible) return <QuestionEntry name="scheme" label="Convective scheme" preset="central" choices={SCHEME_CHOICES} />;
  return (
    <>
      <QuestionEntry name="riemannFlux" label="Riemann flux" preset="contact" choices={RIEMANN_FLUX_CHOICES} />
      <QuestionEntry name="limiter" label="Limiter" preset="none" choices={LIMITER_CHOICES} />
    </>
  );
}

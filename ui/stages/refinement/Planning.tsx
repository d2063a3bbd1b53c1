import { errorAgainstCost } from "@/core/drawing/caseCharts";
import { count, duration, percent, significant } from "@/core/formatting/number";
import { costExponent, halvings, meshPlans } from "@/core/method/refinement/planning";
import type { QuantitySpec } from "@/core/records/quantity";
import { Drawing } from "../../charts/Drawing";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable } from "../../tables/DataTable";
import type { RefinementView } from "../../view";

type Refined = RefinementView["assessment"]["refinement"][number];
type Budget = RefinementView["assessment"]["rules"][number];

/** What finer meshes would leave and cost, and which error source is the first to make smaller. */
export function Planning({ r, q, budget }: { r: Refined; q: QuantitySpec; budget: Budget | undefined }) {
  const plans = plansOf(r);
  const gains = halvings((budget?.sources ?? []).flatMap((s) => (s.relative === undefined ? [] : [{ name: s.name, relative: s.relative }])));
  if (!plans.length && gains.length < 2) return null;
  const cost = budget && errorAgainstCost(r, q, budget.scale);
  const sum = Math.hypot(...gains.map((g) => g.relative));
  return (
    <section aria-label="What the next step buys">
      <h2 className="mt-5">What the next step buys</h2>
      <div className="grid grid-cols-2 gap-5">
        {plans.length ? (
          <div>
            <div className="flex justify-end">
              <CsvButton
                name={`plan-${r.key}`}
                header={["for", "times as fine", "uncertainty, fraction of scale", "cells", "seconds"]}
                rows={plans.map((p) => [p.what, p.ratio, p.relative, p.cells, p.seconds ?? ""])}
              />
            </div>
            <DataTable
              className=""
              rows={plans}
              rowKey={(p) => p.what}
              columns={[
                { header: "For", words: true, cell: (p) => p.what },
                { header: "Times as fine", cell: (p) => significant(p.ratio, 3) },
                { header: "Mesh, 95 %", cell: (p) => percent(p.relative) },
                { header: "Cells", cell: (p) => count(p.cells) },
                { header: "Time", cell: (p) => (p.seconds === undefined ? "–" : duration(p.seconds)) },
              ]}
            />
          </div>
        ) : null}
        {gains.length > 1 ? (
          <div>
            <DataTable
              rows={gains}
              rowKey={(g) => g.name}
              columns={[
                { header: "Halving", words: true, cell: (g) => g.name },
                { header: "Now", cell: (g) => percent(g.relative) },
                { header: `Sum of all, ${percent(sum)} now`, cell: (g) => percent(g.sum) },
              ]}
            />
          </div>
        ) : null}
      </div>
      {cost ? (
        <div className="mt-6">
          <h3 className="text-[13px] font-semibold">Error against cost</h3>
          <Drawing svg={cost} name={`error against cost of ${q.key}`} />
        </div>
      ) : null}
    </section>
  );
}

function plansOf(r: Refined) {
  const [fine, medium] = r.rungs.filter((g) => g.used);
  if (!medium || !r.relative || r.result?.kind !== "monotone") return [];
  const from = {
    relative: r.relative,
    order: r.result.orderUsed,
    cells: fine.cells,
    dimension: fine.dimension,
    seconds: fine.seconds,
    costExponent: costExponent(fine, medium),
  };
  return meshPlans(from, { "its limit": r.limit, "half of the present": r.relative / 2, "a tenth of its limit": r.limit / 10 });
}

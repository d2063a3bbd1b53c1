import { curveOverMeshes, localOrders } from "@/core/drawing/caseCharts";
import { percent, significant, unitText } from "@/core/formatting/number";
import { Drawing } from "../../charts/Drawing";
import { CsvButton } from "../../tables/CsvButton";
import type { RefinementView } from "../../view";

type Curve = RefinementView["assessment"]["curves"][number];

/** Curves of the case on every mesh, with the uncertainty at each place and how the local orders are spread. */
export function Curves({ curves, formalOrder }: { curves: readonly Curve[]; formalOrder: number }) {
  if (!curves.length) return null;
  return (
    <section aria-label="Point by point">
      <h2 className="mt-5">Point by point</h2>
      {curves.map((c) => (
        <div key={c.key} className="mt-2">
          <div className="flex justify-between">
            <h3 className="text-[13px] font-semibold">{c.name}</h3>
            <CsvButton
              name={`curve-${c.key}`}
              header={[`${c.abscissa.name} (${c.abscissa.unit})`, `${c.value.name} (${c.value.unit})`, "uncertainty, 95 %"]}
              rows={c.at.map((x, i) => [x, c.fine[i], c.band[i]])}
            />
          </div>
          <p className="text-[12px] text-ink-2">{sentenceOf(c, formalOrder)}</p>
          <div className="mt-6 grid grid-cols-2 gap-5">
            <Drawing svg={curveOverMeshes(c)} name={`${c.key} on every mesh`} />
            <Drawing svg={localOrders(c)} name={`local orders of ${c.key}`} />
          </div>
        </div>
      ))}
    </section>
  );
}

function sentenceOf(c: Curve, formalOrder: number): string {
  const { monotone, oscillating, diverging, settled } = c.shares;
  const order = c.averageOrder === undefined ? "" : `Mean local order ${significant(c.averageOrder, 3)}, formal ${formalOrder}. `;
  const classes = [
    ["converge", monotone],
    ["oscillate", oscillating],
    ["diverge", diverging],
    ["stand still", settled],
  ] as const;
  const told = classes.filter(([, share]) => share > 0).map(([word, share]) => `${percent(share)} ${word}`);
  return `${order}Of its points ${told.join(", ")}. Uncertainty up to ${significant(c.widest, 2)} ${unitText(c.value.unit)}, dotted.`.replace(
    " ,",
    ",",
  );
}

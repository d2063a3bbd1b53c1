import { percent, sentenceCase, signedPercent, significant, unitText } from "@/core/formatting/number";
import type { QuantitySpec } from "@/core/records/quantity";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable } from "../../tables/DataTable";
import type { RefinementView } from "../../view";

type Ladders = RefinementView["assessment"]["ladders"];
type Ladder = Ladders["list"][number];

/** Ladders along other axes than the family of meshes, for one quantity; and the runs that stand on none. */
export function OtherLadders({ ladders, q, scale }: { ladders: Ladders; q: QuantitySpec; scale: number }) {
  if (!ladders.list.length && !ladders.apart.length) return null;
  return (
    <section aria-label="Other ladders">
      <h2 className="mt-5">Along other axes</h2>
      {ladders.list.map((l) => (
        <OneLadder key={l.key} l={l} q={q} />
      ))}
      {ladders.together ? <p className="mt-2 text-[12.5px]">{togetherSentence(ladders.together, q, scale)}</p> : null}
      {ladders.apart.map((a) => (
        <p key={a.runId} className="mt-1 text-[12px] text-ink-2">
          {a.label} stands on no ladder: it differs from the finest run in {a.differs.join(", ")} at once.
        </p>
      ))}
    </section>
  );
}

function OneLadder({ l, q }: { l: Ladder; q: QuantitySpec }) {
  const own = l.quantities.find((x) => x.key === q.key);
  if (!own) return null;
  const unit = unitText(q.unit);
  return (
    <div className="mt-2">
      <div className="flex justify-between">
        <h3 className="text-[13px] font-semibold">{sentenceCase(l.title)}</h3>
        <CsvButton
          name={`ladder-${l.axis}-${q.key}`}
          header={["run", "place", "position", `${q.name} (${q.unit})`]}
          rows={l.runs.map((r, k) => [r.label, r.place, r.position ?? "", own.values[k] ?? ""])}
        />
      </div>
      <DataTable
        className=""
        rows={l.runs.map((r, k) => ({ ...r, value: own.values[k] }))}
        rowKey={(r) => r.runId}
        columns={[
          { header: "Run", cell: (r) => r.label },
          { header: "Stands at", words: true, cell: (r) => r.place },
          { header: `Value${unit ? `, ${unit}` : ""}`, cell: (r) => (r.value === undefined ? "–" : significant(r.value, 6)) },
        ]}
      />
      <p className="mt-1 text-[12px] text-ink-2">{sentenceOf(l, own, q)}</p>
    </div>
  );
}

function togetherSentence({ runs, fits }: NonNullable<Ladders["together"]>, q: QuantitySpec, scale: number): string {
  const fit = fits.find((f) => f.key === q.key)?.fit;
  if (!fit) return "";
  const head = `Space and time at once, over ${runs.length} runs: `;
  if (!fit.ok) return head + fit.sentence;
  const spread = fit.deviation === undefined ? "" : `, with ${percent(fit.deviation / scale)} left over`;
  return `${head}of the finest value ${signedPercent(fit.space / scale)} is the error in space and ${signedPercent(fit.time / scale)} that in time${spread}; without both ${q.name} would be ${significant(fit.limit, 6)} ${unitText(q.unit)}.`;
}

function sentenceOf(l: Ladder, own: Ladder["quantities"][number], q: QuantitySpec): string {
  if (l.axis === "domain" && own.relative !== undefined)
    return `${sentenceCase(q.name)}: three times the change between the two largest, ${percent(own.relative)} at 95 %.`;
  if (own.relative !== undefined) {
    const order = own.order === undefined ? `${own.kind}` : `order ${own.order.toFixed(2)} observed`;
    return `${sentenceCase(q.name)}: ${order}; uncertainty of the first ${percent(own.relative)} at 95 %.`;
  }
  if (l.axis === "domain" && q.ofDomain) return `${sentenceCase(q.name)} belongs to the extent of the domain: another extent is another question.`;
  if (own.spread === undefined) return `Fewer than two of these runs delivered ${q.name}.`;
  const more = l.runs.length < 3 && l.runs[0].position !== undefined ? " Three are needed to observe an order." : "";
  return `${sentenceCase(q.name)} differs by ${percent(own.spread)} over the ladder.${more}`;
}

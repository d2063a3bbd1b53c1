"use client";

import { Bar, BarChart, CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { RunSettling } from "@/core/assessment/results/settling";
import { INK } from "@/core/drawing/palette";
import { percent, powerOfTen, quantityText, sentenceCase, significant, unitText, withUncertainty } from "@/core/formatting/number";
import { scaleText } from "@/core/formatting/scale";
import type { AveragedRecord } from "@/core/method/averaging/record";
import { TAKE_WORDS, TAKES } from "@/core/records/take";
import { useAsked } from "../../api/useAsked";
import { decades } from "../../charts/HistoryChart";
import { linearAxis } from "../../charts/linearAxis";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { StateMark } from "../../shell/StateMark";
import type { CaseView } from "../../view";

interface Pictures {
  readonly average: AveragedRecord;
  readonly running: readonly { at: number; mean: number }[];
  readonly histogram: readonly { from: number; to: number; count: number }[];
  readonly spectrum: readonly { frequency: number; density: number }[];
  readonly phase: readonly { phase: number; mean: number; deviation: number }[];
}

/** Averages of a run's records, and everything drawn of the one that is chosen. */
export function Averages(p: { view: CaseView; settling: RunSettling; version: string; onAdopt: (adopt: boolean) => void; busy: boolean }) {
  const { view, settling } = p;
  const { averages, runId } = settling;
  const chosen = averages.find((a) => a.key === view.quantityKey) ?? averages[0];
  const spec = (key: string) => view.evidence.quantities.find((q) => q.key === key);
  const found = usePictures(runId, chosen?.key, p.version);
  const { save } = useSave();
  if (!chosen) return null;
  const adopted = averages.some((a) => a.adopted);
  const unit = spec(chosen.key)?.unit ?? "1";
  const over = chosen.abscissa;
  return (
    <section className="mt-5" aria-label="Averages">
      <div className="flex items-baseline justify-between">
        <h2>Averages over {over === "s" ? "time" : "the last iterations"}</h2>
        <button type="button" className="btn quiet small" disabled={p.busy} onClick={() => p.onAdopt(!adopted)}>
          {adopted ? "Take last values instead" : "Take the means for this run's values"}
        </button>
      </div>
      <div className="mt-1 flex items-end gap-3">
        <div className="w-[290px]">
          <Field
            label={`Value of ${spec(chosen.key)?.name}, in every run`}
            value={view.setup.takes?.[chosen.key] ?? "last"}
            onChange={(take) =>
              void save(
                "PUT /cases/{id}/quantities/{key}/take",
                { at: { id: view.id, key: chosen.key }, input: { take } },
                "The value is taken that way in every run.",
              )
            }
            choices={TAKES.map((t) => [t, t === "last" ? "as each run says: last value or mean" : TAKE_WORDS[t]] as const)}
          />
        </div>
        {chosen.taken && chosen.take !== "mean" ? (
          <p className="text-[12.5px] text-ink-2">
            {sentenceCase(TAKE_WORDS[chosen.take])} {withUncertainty(chosen.taken.value, chosen.taken.expanded)} ±{" "}
            {significant(chosen.taken.expanded, 2)} {unitText(unit)} (95 %)
          </p>
        ) : null}
      </div>
      <table className="tight mt-1">
        <thead>
          <tr>
            <th className="w">Quantity</th>
            <th>Mean</th>
            <th>± 95 %</th>
            <th>Start-up cut</th>
            <th>Correlation time</th>
            <th>Independent samples</th>
            <th>Halves apart</th>
            <th>Dominant frequency</th>
            <th className="w">Doubts</th>
          </tr>
        </thead>
        <tbody>
          {averages.map((a) => (
            <tr key={a.key} className={a.key === chosen.key ? "bg-margin" : ""}>
              <td className="w">{spec(a.key)?.name}</td>
              <td>{withUncertainty(a.mean, a.expanded)}</td>
              <td>{significant(a.expanded, 2)}</td>
              <td title={`by ${a.cutBy}`}>
                {quantityText(a.cutAt, over, 3)}
                {a.cutBy === "hand" ? " *" : ""}
              </td>
              <td>{quantityText(a.correlationTime, over, 2)}</td>
              <td>{significant(a.effectiveSamples, 2)}</td>
              <td>{percent(Math.abs(a.halves[1] - a.halves[0]) / (Math.abs(a.mean) || 1))}</td>
              <td>{a.peak && over === "s" ? quantityText(a.peak.frequency, "Hz", 4) : "–"}</td>
              <td className="w">
                <span className="inline-flex items-center gap-1.5">
                  <StateMark state={a.doubts.some((d) => d.severity === "doubt") ? "remark" : "holds"} plain /> {a.doubts.length || "none"}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {chosen.doubts.map((d) => (
        <p key={d.rule} className="mt-1 flex gap-2 text-[12.5px]">
          <StateMark state="remark" /> {d.sentence}
        </p>
      ))}
      {found ? <Drawn found={found} name={spec(chosen.key)?.name ?? ""} unit={unit} over={over} view={view} /> : <div className="h-[420px]" />}
    </section>
  );
}

function usePictures(runId: string, key: string | undefined, version: string): Pictures | undefined {
  return useAsked("GET /runs/{id}/records/{key}", key ? { at: { id: runId, key } } : undefined, version).data as Pictures | undefined;
}

const axis = { fontSize: 11, fontFamily: "var(--font-mono)", fill: INK.ink2 } as const;
const tip = { background: "#FAF9F5", border: `1px solid ${INK.line}`, borderRadius: 3, fontSize: 12, padding: "4px 8px" } as const;
const short = (v: number) => significant(v, 3);

function Drawn({ found, name, unit, over, view }: { found: Pictures; name: string; unit: string; over: "s" | "iterations"; view: CaseView }) {
  const { average: a } = found;
  const { setup } = view.evidence;
  const strouhal = over === "s" && a.peak ? (a.peak.frequency * setup.lengthM) / setup.velocityMS : undefined;
  const common = { margin: { top: 6, right: 12, bottom: 2, left: 8 } };
  const y = { tick: axis, tickLine: false, stroke: INK.line, width: 66, tickFormatter: short } as const;
  const x = { tick: axis, tickLine: false, stroke: INK.line, type: "number", domain: ["dataMin", "dataMax"], tickFormatter: short } as const;
  const u = unitText(unit);
  const frequencies = logTicks(
    found.spectrum.map((l) => l.frequency),
    [1, 3],
  );
  const powers = found.spectrum.map((l) => l.density).filter((d) => d > 0);
  const densities = decades(Math.min(...powers), Math.max(...powers));
  return (
    <>
      <div className="mt-3 grid grid-cols-2 gap-x-6 gap-y-3">
        <figure aria-label={`Running mean of ${name}`}>
          <h3>Running mean{u ? `, ${u}` : ""}, with the 95 % band of the whole</h3>
          <ResponsiveContainer width="100%" height={170}>
            <LineChart data={[...found.running]} {...common}>
              <CartesianGrid stroke={INK.soft} vertical={false} />
              <XAxis dataKey="at" {...x} />
              <YAxis {...y} {...linearAxis([...found.running.map((m) => m.mean), a.mean - a.expanded, a.mean + a.expanded])} />
              <Tooltip
                isAnimationActive={false}
                contentStyle={tip}
                formatter={(v) => significant(Number(v), 5)}
                labelFormatter={(v) => quantityText(Number(v), over, 4)}
              />
              <ReferenceLine y={a.mean + a.expanded} stroke={INK.brass} strokeDasharray="4 3" />
              <ReferenceLine y={a.mean - a.expanded} stroke={INK.brass} strokeDasharray="4 3" />
              <Line dataKey="mean" name="mean" stroke={INK.blue} dot={false} strokeWidth={1.6} isAnimationActive={false} />
            </LineChart>
          </ResponsiveContainer>
        </figure>
        <figure aria-label={`Histogram of ${name}`}>
          <h3>Histogram{u ? `, ${u}` : ""}</h3>
          <ResponsiveContainer width="100%" height={170}>
            <BarChart data={found.histogram.map((b) => ({ at: (b.from + b.to) / 2, count: b.count }))} {...common} barCategoryGap={1}>
              <CartesianGrid stroke={INK.soft} vertical={false} />
              <XAxis
                dataKey="at"
                tick={axis}
                tickLine={false}
                stroke={INK.line}
                interval={Math.ceil(found.histogram.length / 5)}
                tickFormatter={scaleText(found.histogram.map((b) => b.from)).whole}
              />
              <YAxis {...y} tickFormatter={(v: number) => String(Math.round(v))} />
              <Tooltip isAnimationActive={false} contentStyle={tip} labelFormatter={(v) => significant(Number(v), 4)} />
              <Bar dataKey="count" fill={INK.slate} isAnimationActive={false} />
            </BarChart>
          </ResponsiveContainer>
        </figure>
        <figure aria-label={`Spectrum of ${name}`}>
          <h3>Power spectral density against frequency, {over === "s" ? "Hz" : "1/iteration"}</h3>
          <ResponsiveContainer width="100%" height={170}>
            <LineChart data={[...found.spectrum]} {...common}>
              <CartesianGrid stroke={INK.soft} vertical={false} />
              <XAxis dataKey="frequency" scale="log" {...x} ticks={frequencies} />
              <YAxis
                scale="log"
                domain={[densities[0], densities[densities.length - 1]]}
                ticks={densities}
                {...y}
                tickFormatter={(v: number) => powerOfTen(Math.round(Math.log10(v)))}
              />
              <Tooltip
                isAnimationActive={false}
                contentStyle={tip}
                formatter={(v) => significant(Number(v), 3)}
                labelFormatter={(v) => significant(Number(v), 4)}
              />
              {a.peak ? <ReferenceLine x={a.peak.frequency} stroke={INK.pointer} strokeDasharray="4 3" /> : null}
              <Line dataKey="density" name="density" stroke={INK.verdigris} dot={false} strokeWidth={1.4} isAnimationActive={false} />
            </LineChart>
          </ResponsiveContainer>
        </figure>
        {found.phase.length ? (
          <figure aria-label={`Phase average of ${name}`}>
            <h3>Phase average over one period{u ? `, ${u}` : ""}</h3>
            <ResponsiveContainer width="100%" height={170}>
              <LineChart data={found.phase.map((b) => ({ ...b, high: b.mean + b.deviation, low: b.mean - b.deviation }))} {...common}>
                <CartesianGrid stroke={INK.soft} vertical={false} />
                <XAxis dataKey="phase" {...x} domain={[0, 1]} />
                <YAxis {...y} {...linearAxis(found.phase.flatMap((b) => [b.mean + b.deviation, b.mean - b.deviation]))} />
                <Line dataKey="high" stroke={INK.tin} strokeDasharray="3 3" dot={false} isAnimationActive={false} />
                <Line dataKey="low" stroke={INK.tin} strokeDasharray="3 3" dot={false} isAnimationActive={false} />
                <Line dataKey="mean" stroke={INK.plum} strokeWidth={1.6} dot={false} isAnimationActive={false} />
              </LineChart>
            </ResponsiveContainer>
          </figure>
        ) : null}
      </div>
      <p className="mt-1 text-[12px] text-ink-2">
        {a.peak
          ? `Dominant frequency ${quantityText(a.peak.frequency, over === "s" ? "Hz" : "1", 4)}, resolution ${significant(a.resolution, 2)}; amplitude ${significant(a.peak.amplitude, 3)}, ${percent(a.peak.share)} of the power${
              a.peak.harmonics.length ? `; multiples ${a.peak.harmonics.map((h) => h.multiple).join(", ")} stand out as well` : ""
            }; ${a.cycles} cycles counted.${strouhal === undefined ? "" : ` Strouhal number ${significant(strouhal, 4)} with ${setup.lengthName} and ${setup.velocityName}.`}`
          : "No frequency stands out of the record."}{" "}
        {a.evenlySampled
          ? `Sampled every ${quantityText(a.step, over, 3)}.`
          : "Unevenly sampled: means weigh by the length of the steps, the rest rests on an even resampling."}{" "}
        By batch means the standard uncertainty is {significant(a.batchStandard, 2)}, by correlation {significant(a.standard, 2)}.
      </p>
    </>
  );
}

/** 1, 3, 10, 30 ... within the range of some positive numbers. */
function logTicks(values: readonly number[], steps: readonly number[]): number[] {
  if (!values.length) return [];
  const [low, high] = [values[0], values[values.length - 1]];
  const out: number[] = [];
  for (let d = Math.floor(Math.log10(low)); d <= Math.log10(high); d++) for (const s of steps) out.push(Number((s * 10 ** d).toPrecision(3)));
  return out.filter((t) => t >= low && t <= high);
}

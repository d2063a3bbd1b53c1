"use client";

import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { typedNumber } from "@/core/formatting/number";
import { parameterSpecs } from "@/core/problems/caseSetup";
import { BENCH_PROBLEMS, benchProblem, presetFormulas, presetParameters } from "@/core/problems/catalogue";
import { familyMesh } from "@/core/problems/problem";
import { Field } from "./parts/Field";
import { MeshDrawing } from "./parts/MeshDrawing";
import { useSave } from "./stages/useSave";

const GROUPS = [
  { title: "Flow", of: (p: (typeof BENCH_PROBLEMS)[number]) => !p.physicsWords.compressible && p.physicsWords.time === "steady" && !p.formulas },
  { title: "Flow in time", of: (p: (typeof BENCH_PROBLEMS)[number]) => !p.physicsWords.compressible && p.physicsWords.time === "transient" },
  { title: "Gas", of: (p: (typeof BENCH_PROBLEMS)[number]) => p.physicsWords.compressible && !p.formulas },
  { title: "Written down by you", of: (p: (typeof BENCH_PROBLEMS)[number]) => p.formulas !== undefined },
];

/** A coarse mesh of a template at its presets: its picture. */
function useThumbnails() {
  return useMemo(
    () =>
      new Map(
        BENCH_PROBLEMS.map((p) => {
          const { baseNx, baseNy } = p.family;
          const share = Math.min(1, 26 / baseNx);
          const spec = familyMesh(p.family, Math.max(8, Math.round(baseNx * share)), Math.max(4, Math.round(baseNy * share)));
          return [p.id, p.mesh(presetParameters(p), spec)] as const;
        }),
      ),
    [],
  );
}

/** A case begins with a template; its figures can be typed in any unit. */
export function NewCase() {
  const router = useRouter();
  const { save, busy, mistakes } = useSave();
  const [template, setTemplate] = useState(BENCH_PROBLEMS[0].id);
  const problem = template === "" ? undefined : benchProblem(template);
  const thumbnails = useThumbnails();
  const [formulas, setFormulas] = useState<Record<string, string>>({});
  const specs = parameterSpecs(template === "" ? null : template);
  const [f, setF] = useState({
    title: "",
    purpose: "",
    fluidName: "air",
    temperature: "4 °C",
    pressure: "101325 Pa",
    quantityName: "",
    quantityUnit: "",
  });
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [similarity, setSimilarity] = useState<Record<string, string>>({});
  const value = (s: (typeof specs)[number]) => typed[s.key] ?? (s.choices ? String(s.preset) : `${typedNumber(s.preset)} ${s.unit}`.trim());
  const choose = (id: string) => {
    setTemplate(id);
    setTyped({});
    setFormulas({});
    setSimilarity({});
  };
  const setBy = (key: string) => {
    const number = problem?.similarity?.find((q) => q.key === key);
    if (!number) return;
    const p = Object.fromEntries(specs.map((q) => [q.key, Number.parseFloat(typed[q.key] ?? String(q.preset))]));
    const found = number.solve(Number(similarity[key] ?? number.preset), p);
    const unit = specs.find((q) => q.key === number.sets)?.unit ?? "";
    if (Number.isFinite(found)) setTyped({ ...typed, [number.sets]: `${found} ${unit}` });
  };
  return (
    <main className="mx-auto w-full max-w-[980px] px-6 py-5">
      <form
        onSubmit={async (e) => {
          e.preventDefault();
          const made = await save<{ id: string }>("POST", "cases", {
            ...f,
            problemId: template === "" ? null : template,
            parameters: Object.fromEntries(specs.map((s) => [s.key, value(s)])),
            ...(problem?.formulas ? { formulas: { ...presetFormulas(problem), ...formulas } } : {}),
          });
          if (made) router.push(`/cases/${made.id}/question`);
        }}
      >
        <div className="flex items-start justify-between">
          <div>
            <h1>New case</h1>
            <p className="text-[12px] text-ink-3">What is to be checked, against which truth?</p>
          </div>
          <button type="submit" className="btn" disabled={busy || f.title.trim() === ""}>
            Make the case
          </button>
        </div>
        <div className="mt-4 grid grid-cols-[minmax(0,1fr)_300px] gap-6">
          <fieldset className="max-h-[330px] overflow-y-auto border border-line" aria-label="Template">
            <legend className="sr-only">Template</legend>
            {GROUPS.map((g) => (
              <div key={g.title}>
                <p className="sticky top-0 border-b border-line bg-margin px-2 py-1 text-[11.5px] text-ink-2">{g.title}</p>
                {BENCH_PROBLEMS.filter(g.of).map((p) => (
                  <Choice
                    key={p.id}
                    id={p.id}
                    title={p.title}
                    kind={p.kind === "exact" ? "exact answer known" : "published figures"}
                    chosen={template === p.id}
                    choose={choose}
                  />
                ))}
              </div>
            ))}
            <p className="sticky top-0 border-b border-line bg-margin px-2 py-1 text-[11.5px] text-ink-2">From elsewhere</p>
            <Choice id="" title="Results from another code" kind="measured or computed elsewhere" chosen={template === ""} choose={choose} />
          </fieldset>
          <div>
            <h2>{problem?.title ?? "Results from another code"}</h2>
            <p className="mt-1 text-[12.5px] text-ink-2">
              {problem?.tests ?? "Histories and quantities are brought in from files and judged like any other run."}
            </p>
            {problem ? <p className="mt-1 text-[12.5px] text-ink-3">{problem.order}</p> : null}
            <div className="mt-3">
              {thumbnails.get(template) ? (
                <MeshDrawing mesh={thumbnails.get(template)!} width={290} most={170} label={`A coarse mesh of ${problem?.title ?? ""}`} />
              ) : null}
            </div>
          </div>
        </div>
        <div className="mt-4 grid grid-cols-3 gap-3">
          <div className="col-span-3">
            <Field label="Name of the case" words value={f.title} onChange={(title) => setF({ ...f, title })} mistake={mistakes.title} />
          </div>
          <div className="col-span-3">
            <Field label="Purpose" rows={2} value={f.purpose} onChange={(purpose) => setF({ ...f, purpose })} />
          </div>
          <Field label="Fluid" words value={f.fluidName} onChange={(fluidName) => setF({ ...f, fluidName })} mistake={mistakes.fluidName} />
          <Field label="Temperature" value={f.temperature} onChange={(temperature) => setF({ ...f, temperature })} mistake={mistakes.temperature} />
          <Field label="Pressure" value={f.pressure} onChange={(pressure) => setF({ ...f, pressure })} mistake={mistakes.pressure} />
          {specs.map((s) => (
            <Field
              key={template + s.key}
              label={s.label}
              value={value(s)}
              help={s.help}
              mistake={mistakes[s.key]}
              choices={s.choices?.map((c) => [String(c.value), c.name] as const)}
              onChange={(v) => setTyped({ ...typed, [s.key]: v })}
            />
          ))}
          {problem?.similarity?.map((q) => (
            <div key={q.key} className="flex items-end gap-2">
              <Field
                label={`${specs.find((x) => x.key === q.sets)?.label ?? ""} from ${/^[aeio]/i.test(q.label) ? "an" : "a"} ${q.label}`}
                value={similarity[q.key] ?? String(q.preset)}
                onChange={(v) => setSimilarity({ ...similarity, [q.key]: v })}
                help={q.note}
              />
              <button type="button" className="btn quiet" onClick={() => setBy(q.key)}>
                Set
              </button>
            </div>
          ))}
          {problem?.formulas?.map((q) => (
            <div key={q.key} className="col-span-3">
              <Field
                label={q.label}
                value={formulas[q.key] ?? q.preset}
                onChange={(v) => setFormulas({ ...formulas, [q.key]: v })}
                help={q.help}
                mistake={mistakes[q.key]}
              />
            </div>
          ))}
          {template === "" ? (
            <>
              <Field
                label="First quantity"
                words
                value={f.quantityName}
                onChange={(quantityName) => setF({ ...f, quantityName })}
                placeholder="reattachment length"
              />
              <Field label="Its unit" value={f.quantityUnit} onChange={(quantityUnit) => setF({ ...f, quantityUnit })} placeholder="m" />
            </>
          ) : null}
        </div>
        {mistakes.parameters ? <p className="mistake mt-2">{mistakes.parameters}</p> : null}
        {problem?.similarity?.map((q) => (
          <p key={q.key} className="mt-2 text-[12px] text-ink-3">
            {q.note}
          </p>
        ))}
      </form>
    </main>
  );
}

function Choice(p: { id: string; title: string; kind: string; chosen: boolean; choose: (id: string) => void }) {
  return (
    <label className={`flex cursor-pointer items-baseline gap-2.5 border-b border-line px-2 py-1.5 text-ink! ${p.chosen ? "bg-margin" : ""}`}>
      <input type="radio" name="template" aria-label={p.title} checked={p.chosen} onChange={() => p.choose(p.id)} />
      <b className="text-[13px] font-[620]">{p.title}</b> <span className="text-[12px] text-ink-3">{p.kind}</span>
    </label>
  );
}

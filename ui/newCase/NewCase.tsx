"use client";

import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { typedNumber } from "@/core/formatting/number";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { PHYSICS_CHOICES, parameterSpecs } from "@/core/problems/describe/caseSetup";
import { DESCRIPTIONS, described, presetFormulas, presetParameters } from "@/core/problems/describe/catalogue";
import { familyMesh } from "@/core/problems/describe/problem";
import { proposedKind, type QuantityKind } from "@/core/units/quantityKind";
import type { Input } from "../api/call";
import { MeshDrawing } from "../charts/MeshDrawing";
import { ask } from "../engine/engine";
import { Field } from "../forms/Field";
import { KindChoice } from "../forms/KindChoice";
import { useSave } from "../forms/useSave";

/** Coarse meshes of the templates at their presets, as they are made: their pictures. */
function useThumbnails(): ReadonlyMap<string, FaceMesh> {
  const [found, setFound] = useState<ReadonlyMap<string, FaceMesh>>(new Map());
  useEffect(() => {
    let gone = false;
    for (const p of DESCRIPTIONS) {
      const { baseNx, baseNy } = p.family;
      const share = Math.min(1, 26 / baseNx);
      const spec = familyMesh(p.family, Math.max(8, Math.round(baseNx * share)), Math.max(4, Math.round(baseNy * share)));
      ask("build", { problemId: p.id, parameters: presetParameters(p), spec }).then(
        (mesh) => !gone && setFound((old) => new Map(old).set(p.id, mesh)),
        // A template without a picture can be chosen all the same.
        () => undefined,
      );
    }
    return () => {
      gone = true;
    };
  }, []);
  return found;
}

const REAL_FLUID = { fluidName: "air", temperature: "4 °C", pressure: "101325 Pa" };

/** A case begins with a template; its figures can be typed in any unit. */
export function NewCase() {
  const router = useRouter();
  const { save, busy, mistakes } = useSave();
  const [template, setTemplate] = useState(DESCRIPTIONS[0].id);
  const problem = template === "" ? undefined : described(template);
  const thumbnails = useThumbnails();
  const [formulas, setFormulas] = useState<Record<string, string>>({});
  const specs = parameterSpecs(template === "" ? null : template);
  const [f, setF] = useState({
    title: "",
    purpose: "",
    ...REAL_FLUID,
    quantityName: "",
    quantityUnit: "",
  });
  const [chosenKind, setKind] = useState<QuantityKind>();
  const kind = chosenKind ?? proposedKind(f.quantityName);
  const [physics, setPhysics] = useState<NonNullable<Input<"POST /cases">["physics"]>>({
    time: "steady",
    model: "turbulence model",
    space: "three-dimensional",
  });
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [similarity, setSimilarity] = useState<Record<string, string>>({});
  const value = (s: (typeof specs)[number]) => typed[s.key] ?? (s.choices ? String(s.preset) : `${typedNumber(s.preset)} ${s.unit}`.trim());
  const choose = (id: string) => {
    setTemplate(id);
    setTyped({});
    setFormulas({});
    setSimilarity({});
    const madeUp = id !== "" && described(id).madeUpFluid === true;
    setF((old) => ({ ...old, ...(madeUp ? { fluidName: "made-up fluid", temperature: "", pressure: "" } : REAL_FLUID) }));
  };
  const setBy = (key: string) => {
    const number = problem?.similarity?.find((q) => q.key === key);
    if (!number) return;
    const p = Object.fromEntries(specs.map((q) => [q.key, Number.parseFloat(typed[q.key] ?? String(q.preset))]));
    const found = number.solve(Number(similarity[key] ?? number.preset), p);
    const unit = specs.find((q) => q.key === number.sets)?.unit ?? "";
    if (Number.isFinite(found)) setTyped({ ...typed, [number.sets]: `${Number(found.toPrecision(7))} ${unit}` });
  };
  return (
    <main id="main" tabIndex={-1} className="mx-auto w-full max-w-[1180px] px-6 py-5">
      <form
        onSubmit={async (e) => {
          e.preventDefault();
          const made = await save("POST /cases", {
            input: {
              ...f,
              problemId: template === "" ? null : (template as Input<"POST /cases">["problemId"]),
              parameters: Object.fromEntries(specs.map((s) => [s.key, value(s)])),
              ...(template === "" ? { physics, quantityKind: kind } : {}),
              ...(problem?.formulas ? { formulas: { ...presetFormulas(problem), ...formulas } } : {}),
            },
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
        <div className="mt-4 grid grid-cols-[minmax(0,1fr)_260px] gap-6">
          <Templates thumbnails={thumbnails} chosen={template} choose={choose} />
          <div>
            <h2>{problem?.title ?? "Results from another code"}</h2>
            <p className="mt-1 text-[12.5px] text-ink-2">
              {problem?.tests ?? "Histories and quantities are brought in from files and judged like any other run."}
            </p>
            {problem ? <p className="mt-1 text-[12.5px] text-ink-3">{problem.order}</p> : null}
            <div className="mt-3">
              {thumbnails.get(template) ? (
                <MeshDrawing mesh={thumbnails.get(template)!} width={250} most={150} label={`A coarse mesh of ${problem?.title ?? ""}`} />
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
              <Field
                label="Its unit"
                value={f.quantityUnit}
                onChange={(quantityUnit) => setF({ ...f, quantityUnit })}
                placeholder="m"
                mistake={mistakes.quantityUnit}
              />
              <KindChoice kind={kind} onChange={setKind} />
              {(["time", "model", "space"] as const).map((key) => (
                <Field
                  key={key}
                  label={{ time: "Time", model: "Flow model", space: "Space" }[key]}
                  value={physics[key]}
                  onChange={(v) => setPhysics({ ...physics, [key]: v })}
                  choices={PHYSICS_CHOICES[key].map((c) => [c, c] as const)}
                />
              ))}
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

const TRUTHS = { "": "any truth", exact: "exact answer known", published: "published figures", measured: "measured, or another code" } as const;
const FLOWS = { "": "any physics", steady: "flow, steady", transient: "flow in time", gas: "gas", written: "written down by you" } as const;

const physicsOf = (p: (typeof DESCRIPTIONS)[number]): keyof typeof FLOWS =>
  p.formulas ? "written" : p.physicsWords.compressible ? "gas" : (p.physicsWords.time as "steady" | "transient");

/** All templates with a picture each, searched by words and filtered by physics and truth. */
function Templates(p: { thumbnails: ReturnType<typeof useThumbnails>; chosen: string; choose: (id: string) => void }) {
  const [search, setSearch] = useState("");
  const [truth, setTruth] = useState<keyof typeof TRUTHS>("");
  const [flow, setFlow] = useState<keyof typeof FLOWS>("");
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = DESCRIPTIONS.filter(
    (x) =>
      (truth === "" || x.kind === truth) &&
      (flow === "" || physicsOf(x) === flow) &&
      words.every((w) => `${x.title} ${x.tests} ${FLOWS[physicsOf(x)]}`.toLowerCase().includes(w)),
  );
  const elsewhere =
    (truth === "" || truth === "measured") && flow === "" && words.every((w) => "results from another code files measured".includes(w));
  const choices = <T extends Record<string, string>>(list: T) => Object.entries(list).map(([v, n]) => [v, n] as const);
  return (
    <fieldset className="min-w-0" aria-label="Template">
      <legend className="sr-only">Template</legend>
      <div className="grid grid-cols-[1.4fr_1fr_1fr] gap-2">
        <Field label="Search templates" words value={search} onChange={setSearch} placeholder="step, heat, shock …" />
        <Field label="Physics" value={flow} onChange={(v) => setFlow(v as keyof typeof FLOWS)} choices={choices(FLOWS)} />
        <Field label="Truth" value={truth} onChange={(v) => setTruth(v as keyof typeof TRUTHS)} choices={choices(TRUTHS)} />
      </div>
      <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(148px,1fr))] gap-1.5">
        {shown.map((x) => (
          <Choice
            key={x.id}
            id={x.id}
            title={x.title}
            kind={x.kind === "exact" ? "exact" : "published"}
            mesh={p.thumbnails.get(x.id)}
            chosen={p.chosen === x.id}
            choose={p.choose}
          />
        ))}
        {elsewhere ? <Choice id="" title="Results from another code" kind="from files" chosen={p.chosen === ""} choose={p.choose} /> : null}
      </div>
      {shown.length === 0 && !elsewhere ? <p className="mt-2 text-ink-2">No template has that; take a word or a filter away.</p> : null}
    </fieldset>
  );
}

function Choice(p: {
  id: string;
  title: string;
  kind: string;
  mesh?: Parameters<typeof MeshDrawing>[0]["mesh"];
  chosen: boolean;
  choose: (id: string) => void;
}) {
  return (
    <label
      className={`flex cursor-pointer flex-col gap-1 border px-2 py-1.5 text-ink! has-focus-visible:outline-2 has-focus-visible:outline-blue ${p.chosen ? "border-ink bg-margin" : "border-line bg-white"}`}
    >
      <span className="flex h-[44px] items-center overflow-hidden" aria-hidden="true">
        {p.mesh && <MeshDrawing mesh={p.mesh} width={126} most={42} label="" />}
        {p.id === "" && <span className="font-mono text-[11px] text-ink-3">CSV, XLSX, JSON</span>}
      </span>
      <span className="flex items-baseline gap-1.5">
        <input type="radio" name="template" aria-label={p.title} checked={p.chosen} onChange={() => p.choose(p.id)} />
        <b className="text-[12px] leading-tight font-[620]">{p.title}</b>
      </span>
      <span className="text-[11px] text-ink-3">{p.kind}</span>
    </label>
  );
}

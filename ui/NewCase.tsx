"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { significant, typedNumber } from "@/core/formatting/number";
import { parameterSpecs } from "@/core/problems/caseSetup";
import { BENCH_PROBLEMS } from "@/core/problems/catalogue";
import { Field } from "./parts/Field";
import { useSave } from "./stages/useSave";

const TEMPLATES = [
  ...BENCH_PROBLEMS.map((p) => ({ id: p.id, title: p.title, kind: p.kind === "exact" ? "exact answer known" : "published figures", tests: p.tests })),
  {
    id: "",
    title: "Results from another code",
    kind: "measured or computed elsewhere",
    tests: "Histories and quantities are brought in from files and judged like any other run.",
  },
];

/** A case begins with a template; its figures can be typed in any unit. */
export function NewCase() {
  const router = useRouter();
  const { save, busy, mistakes } = useSave();
  const [template, setTemplate] = useState(TEMPLATES[0].id);
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
  const [reynolds, setReynolds] = useState("1000");
  const value = (s: (typeof specs)[number]) => typed[s.key] ?? (s.choices ? String(s.preset) : `${typedNumber(s.preset)} ${s.unit}`.trim());
  const fromReynolds = () => {
    const number = (key: string) => Number.parseFloat(typed[key] ?? String(specs.find((s) => s.key === key)?.preset));
    const speed = (Number(reynolds) * number("viscosityPaS")) / (number("densityKgM3") * number("sideM"));
    if (Number.isFinite(speed) && speed > 0) setTyped({ ...typed, lidSpeedMS: `${speed} m/s` });
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
        <fieldset className="mt-4">
          <legend className="mb-1 text-[12px] text-ink-2">Template</legend>
          {TEMPLATES.map((t) => (
            <label
              key={t.id}
              className={`flex cursor-pointer gap-3 border-t border-line px-2 py-2.5 text-ink! ${template === t.id ? "bg-margin" : ""}`}
            >
              <input
                type="radio"
                name="template"
                aria-label={t.title}
                checked={template === t.id}
                onChange={() => {
                  setTemplate(t.id);
                  setTyped({});
                }}
                className="mt-0.5"
              />
              <span>
                <b className="text-[13px] font-[620]">{t.title}</b> <span className="text-ink-3">{t.kind}</span>
                <span className="block text-[12.5px] text-ink-2">{t.tests}</span>
              </span>
            </label>
          ))}
        </fieldset>
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
          {template === "lidded-box" ? (
            <div className="flex items-end gap-2">
              <Field label="Lid speed from a Reynolds number" value={reynolds} onChange={setReynolds} />
              <button type="button" className="btn quiet" onClick={fromReynolds}>
                Set speed
              </button>
            </div>
          ) : null}
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
        {template === "lidded-box" ? (
          <p className="mt-2 text-[12px] text-ink-3">
            Published tables exist for Re 100, 400 and 1000.{" "}
            {typed.lidSpeedMS ? `The lid now moves at ${significant(Number.parseFloat(typed.lidSpeedMS), 6)} m/s.` : ""}
          </p>
        ) : null}
      </form>
    </main>
  );
}

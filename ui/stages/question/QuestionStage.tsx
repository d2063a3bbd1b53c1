"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { toast } from "sonner";
import { quantityText } from "@/core/formatting/number";
import { FACTS } from "@/core/method/setup/facts";
import { parameterSpecs, physicsOf } from "@/core/problems/describe/caseSetup";
import { described } from "@/core/problems/describe/catalogue";
import type { ProblemDescription } from "@/core/problems/describe/problem";
import { entryText } from "@/core/units/entry";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { StageHeader } from "../../shell/StageHeader";
import type { CaseView } from "../../view";
import { ForeignPhysics, type PhysicsTexts, type StatedTexts } from "./ForeignPhysics";
import { type InputTexts, InputUncertainties } from "./InputUncertainties";
import { Quantities } from "./Quantities";
import { CompareSetups, factText, SetupFacts, SetupRemarks } from "./SetupFacts";

/** Purpose, physics, fluid, conditions and limits; similarity numbers beside what was typed. */
export function QuestionStage({ view }: { view: CaseView }) {
  const { setup } = view;
  const specs = parameterSpecs(setup.problemId);
  const problem = setup.problemId === null ? undefined : described(setup.problemId);
  const { save, busy, mistakes } = useSave();
  const router = useRouter();
  const foreign = setup.problemId === null;
  const [form, setForm] = useState({
    title: view.title,
    purpose: view.purpose,
    parameters: Object.fromEntries(
      specs.map((s) => [s.key, s.choices ? String(setup.parameters[s.key]) : entryText(setup.typed?.[s.key], setup.parameters[s.key], s.unit)]),
    ),
    fluidName: setup.fluid.name,
    temperature: entryText(setup.typed?.temperature, setup.fluid.temperatureK, "K"),
    pressure: entryText(setup.typed?.pressure, setup.fluid.pressurePa, "Pa"),
    physics: foreign ? physicsTexts(setup) : undefined,
    stated: foreign ? statedTexts(setup) : undefined,
    inputs: Object.fromEntries(
      specs
        .filter((s) => !s.choices)
        .map((s) => {
          const entry = setup.inputs?.[s.key];
          const sensitivities = Object.fromEntries(Object.entries(entry?.sensitivities ?? {}).map(([k, v]) => [k, String(v)]));
          return [s.key, { uncertainty: entry ? `${Number(entry.uncertainty.toPrecision(6))} ${s.unit}`.trim() : "", sensitivities }];
        }),
    ) as InputTexts,
    reynolds: entryText(setup.typed?.reynolds, setup.reynoldsTyped, ""),
    kinematicViscosity: entryText(setup.typed?.kinematicViscosity, setup.kinematicViscosityM2S, "m^2/s"),
    formulas: { ...setup.formulas },
    facts: Object.fromEntries(FACTS.map((f) => [f.key, factText(f, setup.facts?.[f.key], setup.typed?.[`fact-${f.key}`])])),
    ...(foreign ? {} : { scheme: setup.numerics.scheme }),
    riemannFlux: setup.numerics.riemannFlux,
    limiter: setup.numerics.limiter,
    courant: setup.numerics.courant === undefined ? undefined : String(setup.numerics.courant),
    maxIterations: String(setup.numerics.maxIterations),
    dropOrders: String(setup.numerics.dropOrders),
    limits: Object.fromEntries(view.evidence.quantities.map((q) => [q.key, `${Number((q.limit * 100).toPrecision(6))} %`])),
  });
  const put = (change: Partial<typeof form>) => setForm({ ...form, ...change });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void save("PUT /cases/{id}", { at: { id: view.id }, input: form }, "The question was saved.").then((answer) => {
          if (answer?.said?.length) toast(`${answer.said.join("; ")}.`, { duration: 10_000 });
        });
      }}
    >
      <StageHeader title="Question" question="Which quantities, at which conditions, against which truth, how close is close enough?">
        <button
          type="button"
          className="btn quiet"
          disabled={busy}
          onClick={() =>
            void save(
              "POST /cases/{id}/copy",
              { at: { id: view.id }, input: { title: `${view.title}, copy`.slice(0, 120) } },
              "The case was copied without its runs.",
            ).then((made) => made && router.push(`/cases/${made.id}/question`))
          }
        >
          Copy the case
        </button>
        <button type="submit" className="btn" disabled={busy}>
          Save question
        </button>
      </StageHeader>
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-8 gap-y-4">
        <section className="space-y-2" aria-label="Purpose">
          <Field label="Name of the case" words value={form.title} onChange={(title) => put({ title })} mistake={mistakes.title} />
          {setup.copiedFrom ? (
            <p className="text-[12px] text-ink-2">Copied from {setup.copiedFrom}: what was taken over and does not hold here is yours to change.</p>
          ) : null}
          <Field label="Purpose" rows={3} value={form.purpose} onChange={(purpose) => put({ purpose })} mistake={mistakes.purpose} />
          {form.physics && form.stated ? (
            <ForeignPhysics
              physics={form.physics}
              stated={form.stated}
              mistakes={mistakes}
              onPhysics={(physics) => put({ physics })}
              onStated={(stated) => put({ stated })}
            />
          ) : (
            <>
              <p className="text-[12px] text-ink-2">{physicsSentence(problem)}</p>
              <p className="text-[12px] text-ink-3">{problem?.order}</p>
            </>
          )}
        </section>
        <section aria-label="Fluid">
          <h2 className="mb-1">Fluid and state</h2>
          <div className="grid grid-cols-2 gap-2">
            <Field label="Fluid" words value={form.fluidName} onChange={(fluidName) => put({ fluidName })} mistake={mistakes.fluidName} />
            <Field
              label="Temperature"
              value={form.temperature}
              onChange={(temperature) => put({ temperature })}
              mistake={mistakes.temperature}
              placeholder="4 °C"
            />
            <Field
              label="Pressure"
              value={form.pressure}
              onChange={(pressure) => put({ pressure })}
              mistake={mistakes.pressure}
              placeholder="101325 Pa"
            />
            <Field
              label="Kinematic viscosity, if typed"
              value={form.kinematicViscosity}
              onChange={(kinematicViscosity) => put({ kinematicViscosity })}
              mistake={mistakes.kinematicViscosity}
              placeholder="m^2/s"
            />
            <Field label="Reynolds number, if typed" value={form.reynolds} onChange={(reynolds) => put({ reynolds })} mistake={mistakes.reynolds} />
          </div>
        </section>
        <section aria-label="Conditions">
          <h2 className="mb-1">Conditions, in any unit</h2>
          <div className="grid grid-cols-2 gap-2">
            {specs.map((s) => (
              <Field
                key={s.key}
                label={s.label}
                value={form.parameters[s.key]}
                help={s.help}
                mistake={mistakes[s.key]}
                choices={s.choices?.map((c) => [String(c.value), c.name] as const)}
                onChange={(v) => put({ parameters: { ...form.parameters, [s.key]: v } })}
              />
            ))}
            {problem?.formulas?.map((q) => (
              <div key={q.key} className="col-span-2">
                <Field
                  label={q.label}
                  value={form.formulas[q.key] ?? ""}
                  help={q.help}
                  mistake={mistakes[q.key]}
                  onChange={(v) => put({ formulas: { ...form.formulas, [q.key]: v } })}
                />
              </div>
            ))}
            {mistakes.parameters ? <p className="mistake col-span-2">{mistakes.parameters}</p> : null}
            {problem?.physicsWords.compressible ? (
              <>
                <Field
                  label="Riemann flux"
                  value={form.riemannFlux ?? "contact"}
                  onChange={(v) => put({ riemannFlux: v as typeof form.riemannFlux })}
                  choices={[
                    ["contact", "contact kept (HLLC)"],
                    ["linearised", "linearised (Roe)"],
                  ]}
                />
                <Field
                  label="Limiter"
                  value={form.limiter ?? "none"}
                  onChange={(v) => put({ limiter: v as typeof form.limiter })}
                  choices={[
                    ["none", "none, for smooth flow"],
                    ["smooth", "smooth, lets a steady flow settle"],
                    ["bounds", "bounds, for shocks in time"],
                    ["first-order", "first order"],
                  ]}
                />
              </>
            ) : foreign ? null : (
              <Field
                label="Convective scheme"
                value={form.scheme ?? "central"}
                onChange={(v) => put({ scheme: v as typeof form.scheme })}
                choices={[
                  ["central", "central, second order"],
                  ["linear-upwind", "linear upwind, second order"],
                  ["limited", "limited, second order where smooth"],
                  ["upwind", "upwind, first order"],
                ]}
              />
            )}
            {form.courant === undefined ? null : (
              <Field label="Largest Courant number" value={form.courant} onChange={(courant) => put({ courant })} mistake={mistakes.courant} />
            )}
            {foreign ? null : (
              <Field
                label="Most iterations or steps"
                value={form.maxIterations}
                onChange={(maxIterations) => put({ maxIterations })}
                mistake={mistakes.maxIterations}
              />
            )}
            <Field
              label={foreign ? "Orders residuals are to fall to count as settled" : "Orders residuals are to fall"}
              value={form.dropOrders}
              onChange={(dropOrders) => put({ dropOrders })}
              mistake={mistakes.dropOrders}
            />
          </div>
        </section>
        <section aria-label="Similarity numbers">
          <h2>Worked out from these</h2>
          <table className="mt-1">
            <thead>
              <tr>
                <th>Number</th>
                <th>Value</th>
                <th className="w">From</th>
              </tr>
            </thead>
            <tbody>
              {view.assessment.setup.similarity.map((s) => (
                <tr key={s.key}>
                  <td className="w">{s.name}</td>
                  <td>{quantityText(s.value, s.unit, 4)}</td>
                  <td className="w text-ink-3">{s.formula}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <SetupRemarks view={view} />
          <CompareSetups view={view} />
        </section>
        <InputUncertainties view={view} specs={specs} inputs={form.inputs} onInputs={(inputs) => put({ inputs })} mistakes={mistakes} />
        <SetupFacts facts={form.facts} onFacts={(facts) => put({ facts })} mistakes={mistakes} />
        <Quantities view={view} limits={form.limits} onLimits={(limits) => put({ limits })} mistakes={mistakes} />
      </div>
    </form>
  );
}

/** What the bench solves for a template, in words. */
function physicsSentence(problem: ProblemDescription | undefined): string {
  if (!problem) return "";
  const w = problem.physicsWords;
  return `Physics: ${w.time}, ${w.compressible ? "compressible" : "incompressible"}, ${w.model}, ${w.space} flow, solved on the bench.`;
}

/** The stored words are those of the choices: only they pass the server. */
function physicsTexts(setup: CaseView["setup"]): PhysicsTexts {
  const p = physicsOf(setup);
  return { ...p, share: p.part === "whole" ? "" : String(p.share) } as PhysicsTexts;
}

const statedTexts = ({ stated }: CaseView["setup"]) =>
  ({ schemeOrder: String(stated?.schemeOrder ?? ""), dropOrders: String(stated?.dropOrders ?? "") }) as StatedTexts;

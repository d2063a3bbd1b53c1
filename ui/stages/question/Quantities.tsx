"use client";

import { Trash2 } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import { significant, withUncertainty } from "@/core/formatting/number";
import { BOUNDARY_TAKES, LINE_TAKES, VOLUME_TAKES } from "@/core/monitors/takes";
import { parameterSpecs } from "@/core/problems/describe/caseSetup";
import { described } from "@/core/problems/describe/catalogue";
import { KIND_HELP, KIND_WORDS, proposedKind, QUANTITY_KINDS, type QuantityKind } from "@/core/units/quantityKind";
import { call, type Input } from "../../api/call";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { Field } from "../../forms/Field";
import { KindChoice } from "../../forms/KindChoice";
import { useSave } from "../../forms/useSave";
import type { CaseView } from "../../view";

/** What is asked of the case, with its limits; quantities of one's own can be added and taken off. */
export function Quantities(p: {
  view: CaseView;
  limits: Readonly<Record<string, string>>;
  onLimits: (limits: Record<string, string>) => void;
  mistakes: Readonly<Record<string, string>>;
}) {
  const { view, limits } = p;
  const { save } = useSave();
  const { problemId } = view.setup;
  const own = problemId === null ? [] : described(problemId).quantities.map((q) => q.key);
  const watched = new Map(view.setup.monitors?.map((m) => [m.key, m.monitor]));
  const formulas = new Map(view.setup.derived?.map((d) => [d.key, `= ${d.formula}`]));
  // What a formula gives on the finest run, with what the uncertainties of its parts make of it.
  const worked = new Map(
    view.assessment.derived.flatMap((d) =>
      typeof d.value !== "number"
        ? []
        : [[d.key, `${withUncertainty(d.value, d.standard && 2 * d.standard)}${d.standard ? ` ± ${significant(2 * d.standard, 2)}` : ""}`]],
    ),
  );
  const called = (key: string) => view.evidence.quantities.find((q) => q.key === key)?.name ?? key;
  const parts = new Map(view.assessment.derived.map((d) => [d.key, d.uses.map(called).join(", ")]));
  const remove = async (key: string, name: string) => {
    if (await save("DELETE /cases/{id}/quantities/{key}", { at: { id: view.id, key } }))
      toast(`${name} was taken off.`, {
        duration: 12_000,
        action: { label: "Undo", onClick: () => void save("POST /cases/{id}/quantities/{key}/restore", { at: { id: view.id, key } }) },
      });
  };
  return (
    <section className="col-span-2" aria-label="Quantities">
      <h2>Quantities and how close is close enough</h2>
      <table className="mt-1 max-w-[860px]">
        <thead>
          <tr>
            <th>Quantity</th>
            <th className="w">Symbol</th>
            <th className="w">Unit</th>
            <th className="w">It is</th>
            <th className="w">Watched</th>
            <th className="w">Limit, share of the yardstick</th>
            <th className="w">
              <span className="sr-only">Take off</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {view.evidence.quantities.map((q) => {
            const monitor = watched.get(q.key);
            return (
              <tr key={q.key}>
                <td className="w">{q.name}</td>
                <td className="w font-mono">{q.symbol}</td>
                <td className="w font-mono">{q.unit}</td>
                <td className="w text-ink-3">
                  {own.includes(q.key) ? (
                    KIND_WORDS[q.kind ?? "plain"]
                  ) : (
                    <select
                      className="field words"
                      aria-label={`What ${q.name} is`}
                      title={KIND_HELP[q.kind ?? "plain"]}
                      value={q.kind ?? "plain"}
                      onChange={(e) =>
                        void save("PUT /cases/{id}/quantities/{key}/kind", {
                          at: { id: view.id, key: q.key },
                          input: { kind: e.target.value as QuantityKind },
                        })
                      }
                    >
                      {QUANTITY_KINDS.map((k) => (
                        <option key={k} value={k}>
                          {KIND_WORDS[k]}
                        </option>
                      ))}
                    </select>
                  )}
                </td>
                <td className="w text-ink-3">
                  {formulas.get(q.key) ?? (monitor ? monitorWords(monitor) : own.includes(q.key) ? "by the template" : "brought in")}

                  {parts.has(q.key) ? <span className="block">rests on {parts.get(q.key)}</span> : null}
                  {worked.has(q.key) ? <span className="block font-mono">{worked.get(q.key)}, from its parts, 95 %</span> : null}
                </td>
                <td className="w w-56">
                  <input
                    className="field w-28"
                    aria-label={`Limit of ${q.name}`}
                    value={limits[q.key] ?? `${Number((q.limit * 100).toPrecision(6))} %`}
                    aria-invalid={p.mistakes[`limit-${q.key}`] ? true : undefined}
                    onChange={(e) => p.onLimits({ ...limits, [q.key]: e.target.value })}
                  />
                  {p.mistakes[`limit-${q.key}`] ? <p className="mistake">{p.mistakes[`limit-${q.key}`]}</p> : null}
                </td>
                <td className="w">
                  {own.includes(q.key) ? null : (
                    <ConfirmButton
                      question={`Take off ${q.name}?`}
                      text="What rests on it is no longer assessed; runs keep their record. You can undo this for a few seconds."
                      action="Take it off"
                      label={`Take off ${q.name}`}
                      onConfirm={() => void remove(q.key, q.name)}
                    >
                      <Trash2 size={13} />
                    </ConfirmButton>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {problemId === null ? <AddQuantity id={view.id} /> : <AddMonitor id={view.id} />}
      <AddDerived view={view} />
    </section>
  );
}

type Monitor = NonNullable<CaseView["setup"]["monitors"]>[number]["monitor"];

function monitorWords(m: Monitor): string {
  const at = (x: readonly number[]) => `(${x.map((v) => Number(v.toPrecision(4))).join(", ")}) m`;
  if (m.on === "point") return `${m.field} at ${at(m.at)}`;
  if (m.on === "line") return `${m.field}, ${m.take}, from ${at(m.from)} to ${at(m.to)}`;
  if (m.on === "volume") return `${m.field}, ${m.take}, whole volume`;
  return `${m.take}${m.carried ? `, ${m.carried}` : ""}, boundary ${m.boundary}`;
}

function AddQuantity({ id }: { id: string }) {
  const { save, busy, mistakes } = useSave();
  const [form, setForm] = useState<{ name: string; unit: string; limit: string; kind?: QuantityKind }>({ name: "", unit: "", limit: "5 %" });
  const kind = form.kind ?? proposedKind(form.name);
  return (
    <div className="mt-3 grid max-w-[860px] grid-cols-[2fr_1fr_1.2fr_1fr_auto] items-end gap-2">
      <Field label="Another quantity" words value={form.name} onChange={(name) => setForm({ ...form, name })} mistake={mistakes.name} />
      <Field label="Unit, 1 for none" value={form.unit} onChange={(unit) => setForm({ ...form, unit })} mistake={mistakes.unit} />
      <KindChoice kind={kind} onChange={(chosen) => setForm({ ...form, kind: chosen })} />
      <Field label="Limit" value={form.limit} onChange={(limit) => setForm({ ...form, limit })} mistake={mistakes.limit} />
      <button
        type="button"
        className="btn quiet"
        disabled={busy}
        onClick={async () => {
          if (await save("POST /cases/{id}/quantities", { at: { id }, input: { ...form, kind } }, "The quantity was added."))
            setForm({ name: "", unit: "", limit: "5 %" });
        }}
      >
        Add quantity
      </button>
    </div>
  );
}

/** A quantity worked out from others by a formula. */
function AddDerived({ view }: { view: CaseView }) {
  const { save, busy, mistakes } = useSave();
  const [open, setOpen] = useState(false);
  const empty: { name: string; formula: string; unit: string; limit: string; kind?: QuantityKind } = {
    name: "",
    formula: "",
    unit: "",
    limit: "5 %",
  };
  const [form, setForm] = useState(empty);
  const kind = form.kind ?? proposedKind(form.name);
  if (!open)
    return (
      <button type="button" className="btn quiet mt-3" onClick={() => setOpen(true)}>
        Work out a quantity
      </button>
    );
  const names = [
    ...view.evidence.quantities.map((q) => [q.key, q.unit] as const),
    ...parameterSpecs(view.setup.problemId).flatMap((s) => (s.choices ? [] : [[s.key, s.unit] as const])),
  ];
  return (
    <fieldset className="mt-3 max-w-[860px] border-line border-t pt-2">
      <legend className="pr-2 font-[600] text-[12.5px]">Work out a quantity</legend>
      <div className="grid grid-cols-[1.4fr_2fr_0.8fr_1fr_0.8fr] items-end gap-2">
        <Field label="Name" words value={form.name} onChange={(name) => setForm({ ...form, name })} mistake={mistakes.name} />
        <Field
          label="Formula"
          value={form.formula}
          onChange={(formula) => setForm({ ...form, formula })}
          mistake={mistakes.formula}
          placeholder="q1 * q2 / q3"
        />
        <Field label="Unit, 1 for none" value={form.unit} onChange={(unit) => setForm({ ...form, unit })} mistake={mistakes.unit} />
        <KindChoice kind={kind} onChange={(chosen) => setForm({ ...form, kind: chosen })} />
        <Field label="Limit" value={form.limit} onChange={(limit) => setForm({ ...form, limit })} mistake={mistakes.limit} />
      </div>
      <p className="mt-1 text-[11.5px] text-ink-3">
        Names: {names.map(([n, u]) => `${n}${u && u !== "1" ? ` (${u})` : ""}`).join(", ")}. Signs + - * / ^, sqrt, abs, exp, log, sin, cos, tan, min,
        max, pi. Units are checked.
      </p>
      <div className="mt-2 flex gap-2">
        <button
          type="button"
          className="btn"
          disabled={busy}
          onClick={async () => {
            if (!(await save("POST /cases/{id}/derived", { at: { id: view.id }, input: { ...form, kind } }, "It is worked out of every run.")))
              return;
            setForm(empty);
            setOpen(false);
          }}
        >
          Work it out
        </button>
        <button type="button" className="btn quiet" onClick={() => setOpen(false)}>
          Leave it
        </button>
      </div>
    </fieldset>
  );
}

interface Choices {
  readonly fields: readonly { key: string; name: string; unit: string }[];
  readonly carried: readonly string[];
  readonly boundaries: readonly string[];
  readonly extentM: readonly [readonly [number, number], readonly [number, number]];
}

const WHERE = ["point", "line", "boundary", "volume"] as const;
const TAKES = { point: [], line: LINE_TAKES, boundary: BOUNDARY_TAKES, volume: VOLUME_TAKES } as const;
const same = (list: readonly string[]) => list.map((x) => [x, x] as const);

/** A quantity of one's own, watched by every later run of the case. */
function AddMonitor({ id }: { id: string }) {
  const { save, busy, mistakes } = useSave();
  const [choices, setChoices] = useState<Choices>();
  const [chosenKind, setKind] = useState<QuantityKind>();
  const [f, setF] = useState({ name: "", limit: "2 %", on: "point", field: "u", take: "", boundary: "", carried: "", x: "", y: "", x2: "", y2: "" });
  const put = (change: Partial<typeof f>) => setF({ ...f, ...change });
  const open = async () => {
    try {
      const found = await call("GET /cases/{id}/monitors", { at: { id } });
      const [[x0, x1], [y0, y1]] = found.extentM;
      const middle = (a: number, b: number) => String(Number(((a + b) / 2).toPrecision(6)));
      setChoices(found);
      put({ field: found.fields[0].key, boundary: found.boundaries[0], x: middle(x0, x1), y: middle(y0, y1), x2: middle(x0, x1), y2: String(y1) });
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error));
    }
  };
  if (!choices)
    return (
      <button type="button" className="btn quiet mt-3" onClick={() => void open()}>
        Watch another quantity
      </button>
    );
  const kind = chosenKind ?? proposedKind(f.name);
  const on = f.on as (typeof WHERE)[number];
  const take = (TAKES[on] as readonly string[]).includes(f.take) ? f.take : TAKES[on][0];
  const points = [Number(f.x), Number(f.y)];
  const ends = [Number(f.x2), Number(f.y2)];
  const monitor = {
    point: { on, field: f.field, at: points },
    line: { on, field: f.field, from: points, to: ends, take },
    volume: { on, field: f.field, take },
    boundary: { on, boundary: f.boundary, take, ...(take === "flow out of a carried quantity" ? { carried: f.carried || choices.carried[0] } : {}) },
  }[on];
  const add = async () => {
    const body = { name: f.name, limit: f.limit, monitor: monitor as Input<"POST /cases/{id}/monitors">["monitor"], kind };
    if (await save("POST /cases/{id}/monitors", { at: { id }, input: body }, "Later runs watch it; run again what is to show it."))
      setChoices(undefined);
  };
  const [[x0, x1], [y0, y1]] = choices.extentM;
  const short = (v: number) => Number(v.toPrecision(4));
  return (
    <fieldset className="mt-3 max-w-[860px] border-line border-t pt-2">
      <legend className="pr-2 font-[600] text-[12.5px]">Watch another quantity</legend>
      <div className="grid grid-cols-4 items-end gap-2">
        <Field label="Name" words value={f.name} onChange={(name) => put({ name })} mistake={mistakes.name} />
        <Field label="On a" value={f.on} onChange={(v) => put({ on: v })} choices={same(WHERE)} />
        {on === "boundary" ? (
          <Field label="Boundary" value={f.boundary} onChange={(boundary) => put({ boundary })} choices={same(choices.boundaries)} />
        ) : (
          <Field
            label="Field"
            value={f.field}
            onChange={(field) => put({ field })}
            choices={choices.fields.map((x) => [x.key, `${x.name}, ${x.unit}`] as const)}
          />
        )}
        {on === "point" ? null : (
          <Field
            label="What of it"
            value={take ?? ""}
            onChange={(v) => put({ take: v })}
            choices={same(TAKES[on].filter((t) => choices.carried.length > 0 || t !== "flow out of a carried quantity"))}
          />
        )}
        {take === "flow out of a carried quantity" ? (
          <Field
            label="Carried quantity"
            value={f.carried || choices.carried[0]}
            onChange={(carried) => put({ carried })}
            choices={same(choices.carried)}
          />
        ) : null}
        {on === "point" || on === "line" ? (
          <>
            <Field label={`x, m (${short(x0)} to ${short(x1)})`} value={f.x} onChange={(x) => put({ x })} />
            <Field label={`y, m (${short(y0)} to ${short(y1)})`} value={f.y} onChange={(y) => put({ y })} />
          </>
        ) : null}
        {on === "line" ? (
          <>
            <Field label="x of the other end, m" value={f.x2} onChange={(x2) => put({ x2 })} />
            <Field label="y of the other end, m" value={f.y2} onChange={(y2) => put({ y2 })} />
          </>
        ) : null}
        <KindChoice kind={kind} onChange={setKind} />
        <Field label="Limit" value={f.limit} onChange={(limit) => put({ limit })} mistake={mistakes.limit} />
      </div>
      {mistakes.monitor ? <p className="mistake">{mistakes.monitor}</p> : null}
      <div className="mt-2 flex gap-2">
        <button type="button" className="btn" disabled={busy} onClick={() => void add()}>
          Watch it
        </button>
        <button type="button" className="btn quiet" onClick={() => setChoices(undefined)}>
          Leave it
        </button>
      </div>
    </fieldset>
  );
}

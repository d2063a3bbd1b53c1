"use client";

import nextDynamic from "next/dynamic";
import { useState } from "react";
import type { RunBalance } from "@/core/assessment/results/balance";
import { AXES } from "@/core/dataset/vector";
import { percent } from "@/core/formatting/number";
import { resolve } from "@/core/formatting/scale";
import type { SurfaceRecord } from "@/core/records/surfaces";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { RunFlows } from "../../view";

const SurfaceLookedAt = nextDynamic(() => import("../../space/SurfaceLookedAt").then((m) => m.SurfaceLookedAt));

type Line = NonNullable<RunBalance["surface"]>["lines"][number];

const COLUMNS: readonly Column<Line>[] = [
  { header: "Quantity", words: true, cell: (l) => `${l.name}, ${l.unit}` },
  { header: "Reported", cell: (l) => resolve([l.reported, l.integrated])(l.reported) },
  { header: "Integrated", cell: (l) => resolve([l.reported, l.integrated])(l.integrated) },
  { header: "by pressure", cell: (l) => resolve([l.reported, l.integrated])(l.byPressure) },
  { header: "by shear", cell: (l) => resolve([l.reported, l.integrated])(l.byShear) },
  {
    header: "Apart, of the whole",
    cell: (l) => percent(l.relative),
    title: (l) => `of the size of the whole ${l.unit === "N m" ? "moment" : "force"}`,
  },
  {
    header: "of itself",
    cell: (l) => (l.own === undefined ? "–" : percent(l.own)),
    title: (l) => (l.own === undefined ? "less than a twentieth of the whole" : undefined),
  },
  { header: "Let pass", cell: (l) => percent(l.limit) },
  { header: <Unseen>State</Unseen>, words: true, cell: (l) => <StateMark state={l.state} /> },
];

/** Forces integrated over a run's surface beside those its code reported, patch by patch, with the surface itself. */
export function SurfaceForces({
  b,
  run,
  conditions,
}: {
  readonly b: RunBalance;
  readonly run: RunFlows;
  readonly conditions: Readonly<Record<string, number>>;
}) {
  const [open, setOpen] = useState(false);
  const { surface: record } = run;
  if (!b.surface || !record) return null;
  return (
    <section aria-label="Forces from the surface">
      <div className="mt-5 flex items-end justify-between">
        <h2>
          Forces from the surface <span className="text-[11.5px] font-normal text-ink-3">{record.file.name}</span>
        </h2>
        <button type="button" className="btn quiet small" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Close the surface" : "Look at the surface"}
        </button>
      </div>
      {b.surface.lines.length ? (
        <DataTable rows={b.surface.lines} rowKey={(l) => l.quantityKey} columns={COLUMNS} />
      ) : (
        <p className="text-[12.5px] text-ink-2">Nothing that was reported is held against it yet. Say at Runs which quantities are forces on it.</p>
      )}
      {open ? <SurfaceLookedAt runId={run.id} label={run.label} record={record} conditions={conditions} /> : null}
      <Patches record={record} label={run.label} />
    </section>
  );
}

type PatchRow = SurfaceRecord["found"]["patches"][number];
function Patches({ record: { found, said }, label }: { readonly record: SurfaceRecord; readonly label: string }) {
  const rows: PatchRow[] = [...found.patches, ...(found.unnamed ? [{ name: "", ...found.unnamed }] : [])];
  const scale = (of: (p: PatchRow) => number) => resolve(rows.map(of));
  const figures: readonly (readonly [string, (p: PatchRow) => number])[] = [
    ["Area, m²", (p) => p.area],
    ...AXES.map((x, d) => [`${x} by pressure, N`, (p: PatchRow) => p.pressureForce[d]] as const),
    ...(found.has.velocity
      ? ([
          ["Mass flow out, kg/s", (p: PatchRow) => p.flow?.mass ?? Number.NaN],
          ...(rows.some((p) => p.flow?.meanByMass !== undefined)
            ? [["T by mass, K", (p: PatchRow) => p.flow?.meanByMass ?? Number.NaN] as const]
            : []),
        ] as const)
      : []),
    ...(found.has.shear ? AXES.map((x, d) => [`${x} by shear, N`, (p: PatchRow) => p.shearForce[d]] as const) : []),
  ];
  const shown = figures.map(([header, of]) => [header, of, scale(of)] as const);
  return (
    <>
      <div className="mt-3 flex items-end justify-between">
        <h3>What acts on each patch</h3>
        <CsvButton
          name={`patches of ${label}`}
          header={["patch", "faces", ...figures.map(([h]) => h), "moment x by pressure, N m", "y", "z", "moment x by shear, N m", "y", "z"]}
          rows={rows.map((p) => [p.name || "(without a name)", p.faces, ...figures.map(([, of]) => of(p)), ...p.pressureMoment, ...p.shearMoment])}
        />
      </div>
      <DataTable
        rows={rows}
        rowKey={(p) => p.name}
        columns={[
          { header: "Patch", words: true, cell: (p) => p.name || <i>without a name</i> },
          { header: "Faces", cell: (p) => p.faces },
          ...shown.map(([header, of, text]): Column<PatchRow> => ({ header, cell: (p) => (Number.isFinite(of(p)) ? text(of(p)) : "–") })),
        ]}
      />
      <p className="mt-1 text-[11.5px] text-ink-3">
        F = Σ (p − p_ref) A into the body + Σ τ A; p_ref is {said.referencePa} Pa; moments about {said.aboutM.join(", ")} m. Normals point{" "}
        {said.normals}.
      </p>
    </>
  );
}

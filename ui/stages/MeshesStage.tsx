"use client";

import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { count, significant } from "@/core/formatting/number";
import { familyMembers } from "@/core/mesh/family";
import { type Grading, gridLines } from "@/core/mesh/grading";
import { rectangleQuality } from "@/core/mesh/rectangleQuality";
import { benchProblem } from "@/core/problems/catalogue";
import { Field } from "../parts/Field";
import { Empty, StageHeader } from "../parts/StageHeader";
import type { CaseView } from "../view";
import { useSave } from "./useSave";

const NUMBER_WORDS = ["no mesh", "one mesh", "two meshes", "three meshes", "four meshes", "five meshes", "six meshes"];
const GRADINGS = [
  ["uniform", "uniform"],
  ["both-ends", "finer at both ends"],
  ["low-end", "finer at the low end"],
  ["high-end", "finer at the high end"],
] as const;

/** A family of meshes by base size, ratio and grading: counted, measured and drawn before anything is run. */
export function MeshesStage({ view }: { view: CaseView }) {
  if (view.setup.problemId === null) return <BroughtInMeshes view={view} />;
  return <Family view={view} problemId={view.setup.problemId} />;
}

function Family({ view, problemId }: { view: CaseView; problemId: string }) {
  const router = useRouter();
  const { save, busy } = useSave();
  const problem = benchProblem(problemId);
  const preset = problem.family;
  const strengthOf = (g: Grading) => (g.kind === "uniform" ? "1.5" : String(g.strength));
  const [f, setF] = useState({
    baseNx: String(preset.baseNx),
    baseNy: String(preset.baseNy),
    ratio: String(preset.ratio),
    count: String(preset.count),
    kindX: preset.gradingX.kind as string,
    strengthX: strengthOf(preset.gradingX),
    kindY: preset.gradingY.kind as string,
    strengthY: strengthOf(preset.gradingY),
  });
  const [shown, setShown] = useState(0);
  const plan = useMemo(() => {
    try {
      const grading = (kind: string, strength: string): Grading =>
        kind === "uniform" ? { kind } : { kind: kind as "both-ends", strength: Number(strength) };
      const gradingX = grading(f.kindX, f.strengthX);
      const gradingY = grading(f.kindY, f.strengthY);
      const members = familyMembers(Math.round(Number(f.baseNx)), Math.round(Number(f.baseNy)), Number(f.ratio), Number(f.count)).map((m) => {
        const spec = problem.rectangle(view.setup.parameters, { nx: m.nx, ny: m.ny, gradingX, gradingY });
        return { ...m, spec, quality: rectangleQuality(spec) };
      });
      return { members, gradingX, gradingY };
    } catch (error) {
      return { mistake: error instanceof Error ? error.message : String(error) };
    }
  }, [f, problem, view.setup.parameters]);
  const put = (key: keyof typeof f) => (v: string) => setF({ ...f, [key]: v });
  const start = async () => {
    if (!plan.members) return;
    const ok = await save("POST", `cases/${view.id}/family`, {
      baseNx: Math.round(Number(f.baseNx)),
      baseNy: Math.round(Number(f.baseNy)),
      ratio: Number(f.ratio),
      count: Number(f.count),
      gradingX: plan.gradingX,
      gradingY: plan.gradingY,
    });
    if (ok) router.push(`/cases/${view.id}/runs?q=${encodeURIComponent(view.quantityKey)}`);
  };
  const members = plan.members ?? [];
  const drawn = members[Math.min(shown, members.length - 1)];
  return (
    <>
      <StageHeader title="Meshes" question="Which family will show how the answer depends on the spacing?">
        <button type="button" className="btn" disabled={busy || !plan.members} onClick={start}>
          Run {NUMBER_WORDS[members.length] ?? "family"}
        </button>
      </StageHeader>
      <div className="grid grid-cols-[minmax(0,1fr)_360px] gap-6">
        <div>
          <div className="grid grid-cols-4 gap-2">
            <Field label="Coarsest: cells along x" value={f.baseNx} onChange={put("baseNx")} />
            <Field label="along y" value={f.baseNy} onChange={put("baseNy")} />
            <Field label="Ratio of spacings" value={f.ratio} onChange={put("ratio")} />
            <Field label="Meshes" value={f.count} onChange={put("count")} choices={["1", "2", "3", "4", "5"].map((n) => [n, n] as const)} />
            <Field label="Grading along x" value={f.kindX} onChange={put("kindX")} choices={GRADINGS} />
            <Field label="Strength" value={f.strengthX} onChange={put("strengthX")} />
            <Field label="Grading along y" value={f.kindY} onChange={put("kindY")} choices={GRADINGS} />
            <Field label="Strength" value={f.strengthY} onChange={put("strengthY")} />
          </div>
          {plan.mistake ? <p className="mistake mt-2">{plan.mistake}</p> : null}
          <h2 className="mt-5">The family</h2>
          <table className="mt-1">
            <thead>
              <tr>
                <th>Mesh</th>
                <th>Cells</th>
                <th>h, m</th>
                <th>h / h₁</th>
                <th>Aspect ratio</th>
                <th>Neighbour size</th>
                <th>Smallest edge, m</th>
                <th>Memory</th>
              </tr>
            </thead>
            <tbody>
              {members.map((m, i) => (
                <tr key={`${m.nx}-${m.ny}`} className={i === shown ? "bg-margin" : ""}>
                  <td>
                    <button type="button" className="link font-mono" aria-pressed={i === shown} onClick={() => setShown(i)}>
                      {m.nx} × {m.ny}
                    </button>
                  </td>
                  <td>{count(m.cells)}</td>
                  <td>{significant(m.quality.spacingM, 3)}</td>
                  <td>{significant(m.quality.spacingM / members[members.length - 1].quality.spacingM, 4)}</td>
                  <td>{significant(m.quality.aspectRatio, 3)}</td>
                  <td>{significant(m.quality.neighbourVolumeRatio, 4)}</td>
                  <td>{significant(m.quality.smallestEdgeM, 3)}</td>
                  <td>{significant(m.memoryBytes / 1e6, 2)} MB</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-2 text-[12px] text-ink-3">
            The grading function stays the same through the family, so that each mesh refines the one before. Ratios of 1.3 or more keep noise out of
            the observed order.
          </p>
          <h2 className="mt-5">Meshes that were run</h2>
          <MeshTable view={view} />
        </div>
        <div>
          <h2>{drawn ? `${drawn.nx} × ${drawn.ny}` : "No mesh"}</h2>
          {drawn ? (
            <MeshDrawing
              lengthM={drawn.spec.lengthM}
              heightM={drawn.spec.heightM}
              x={gridLines(drawn.spec.lengthM, drawn.nx, drawn.spec.gradingX)}
              y={gridLines(drawn.spec.heightM, drawn.ny, drawn.spec.gradingY)}
            />
          ) : null}
        </div>
      </div>
    </>
  );
}

function MeshDrawing({ lengthM, heightM, x, y }: { lengthM: number; heightM: number; x: Float64Array; y: Float64Array }) {
  const w = 350;
  const h = Math.max(60, Math.min(420, (w * heightM) / lengthM));
  const path = [
    ...Array.from(x, (v) => `M${((v / lengthM) * w).toFixed(2)} 0V${h}`),
    ...Array.from(y, (v) => `M0 ${(h - (v / heightM) * h).toFixed(2)}H${w}`),
  ].join("");
  return (
    <svg viewBox={`-1 -1 ${w + 2} ${h + 2}`} className="mt-2 w-full bg-white" role="img" aria-label="Grid lines of the mesh">
      <path d={path} stroke="#27506B" strokeWidth={x.length + y.length > 200 ? 0.25 : 0.5} fill="none" />
      <rect x="0" y="0" width={w} height={h} fill="none" stroke="#1D2427" />
    </svg>
  );
}

function MeshTable({ view }: { view: CaseView }) {
  if (!view.meshes.length) return <p className="mt-1 text-[12.5px] text-ink-2">None yet.</p>;
  return (
    <table className="mt-1">
      <thead>
        <tr>
          <th>Mesh</th>
          <th>Cells</th>
          <th>h, m</th>
          <th>Aspect ratio</th>
          <th>Neighbour size</th>
        </tr>
      </thead>
      <tbody>
        {view.meshes.map((m) => (
          <tr key={m.id}>
            <td>{m.label}</td>
            <td>{count(m.cells)}</td>
            <td>{significant(m.spacing, 3)}</td>
            <td>{m.quality ? significant(m.quality.aspectRatio, 3) : "–"}</td>
            <td>{m.quality ? significant(m.quality.neighbourVolumeRatio, 4) : "–"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function BroughtInMeshes({ view }: { view: CaseView }) {
  return (
    <>
      <StageHeader title="Meshes" question="On which meshes were the results made?" />
      {view.meshes.length ? (
        <MeshTable view={view} />
      ) : (
        <Empty>The meshes come with the results: bring in a run and say how many cells it had.</Empty>
      )}
    </>
  );
}

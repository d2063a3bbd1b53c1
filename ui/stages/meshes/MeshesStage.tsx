"use client";

import { useRouter } from "next/navigation";
import { useDeferredValue, useMemo, useState } from "react";
import { count, significant } from "@/core/formatting/number";
import { familyMembers } from "@/core/mesh/family";
import type { Grading } from "@/core/mesh/grading";
import type { CellShape } from "@/core/mesh/shapes";
import { described } from "@/core/problems/describe/catalogue";
import { cellCount } from "@/core/problems/describe/problem";
import type { MeshSpec } from "@/core/problems/describe/runSettings";
import { MeshDrawing } from "../../charts/MeshDrawing";
import { ask } from "../../engine/engine";
import { useAnswer } from "../../engine/useAnswer";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { Empty, StageHeader } from "../../shell/StageHeader";
import type { CaseView } from "../../view";

const NUMBER_WORDS = ["no mesh", "one mesh", "two meshes", "three meshes", "four meshes", "five meshes", "six meshes"];
const GRADINGS = [
  ["uniform", "uniform"],
  ["both-ends", "finer at both ends"],
  ["low-end", "finer at the low end"],
  ["high-end", "finer at the high end"],
] as const;

/** cells a mesh may have to be measured and drawn while it is typed */
const MOST_MEASURED = 12_000;
const MOST_DRAWN = 16_000;
const SHAPE_WORDS: Record<CellShape, string> = {
  rows: "rows",
  smooth: "rows, smoothly bent",
  jittered: "four corners, jittered",
  triangles: "triangles",
  hexagons: "six corners",
};

/** A family of meshes by base size, ratio and grading: counted, measured and drawn before anything is run. */
export function MeshesStage({ view }: { view: CaseView }) {
  if (view.setup.problemId === null) return <BroughtInMeshes view={view} />;
  return <Family view={view} problemId={view.setup.problemId} />;
}

function Family({ view, problemId }: { view: CaseView; problemId: string }) {
  const router = useRouter();
  const { save, busy } = useSave();
  const problem = described(problemId);
  const preset = view.setup.family ?? problem.family;
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
    shape: preset.shape ?? "rows",
  });
  const typed = useDeferredValue(f);
  const [shown, setShown] = useState(0);
  const plan = useMemo(() => {
    try {
      const grading = (kind: string, strength: string): Grading =>
        kind === "uniform" ? { kind } : { kind: kind as "both-ends", strength: Number(strength) };
      const gradingX = grading(typed.kindX, typed.strengthX);
      const gradingY = grading(typed.kindY, typed.strengthY);
      const shape = problem.shapes ? (typed.shape as CellShape) : undefined;
      const counts = familyMembers(
        Math.round(Number(typed.baseNx)),
        Math.round(Number(typed.baseNy)),
        Number(typed.ratio),
        Number(typed.count),
        (nx, ny) => cellCount(problem, view.setup.parameters, { nx, ny, gradingX, gradingY, ...(shape ? { shape } : {}) }),
      );
      const members = counts.map((m) => {
        const spec: MeshSpec = { nx: m.nx, ny: m.ny, gradingX, gradingY, ...(shape ? { shape } : {}) };
        return { ...m, spec };
      });
      return { members, gradingX, gradingY, shape };
    } catch (error) {
      return { mistake: error instanceof Error ? error.message : String(error) };
    }
  }, [typed, problem, view.setup.parameters]);
  const planned = plan.members;
  const measured = useAnswer(
    planned &&
      (() =>
        Promise.all(
          planned.map(({ spec, cells }) => ask("measure", { problemId, parameters: view.setup.parameters, spec, cells, mostCells: MOST_MEASURED })),
        )),
    [planned, problemId, view.setup.parameters],
  );
  const mistake = plan.mistake ?? measured.mistake;
  const put = (key: keyof typeof f) => (v: string) => setF({ ...f, [key]: v });
  const start = async () => {
    if (!plan.members) return;
    const ok = await save("POST /cases/{id}/family", {
      at: { id: view.id },
      input: {
        baseNx: Math.round(Number(f.baseNx)),
        baseNy: Math.round(Number(f.baseNy)),
        ratio: Number(f.ratio),
        count: Number(f.count),
        gradingX: plan.gradingX,
        gradingY: plan.gradingY,
        ...(plan.shape ? { shape: plan.shape } : {}),
      },
    });
    if (ok) router.push(`/cases/${view.id}/runs?q=${encodeURIComponent(view.quantityKey)}`);
  };
  const members = (planned ?? []).map((m, i) => ({ ...m, quality: measured.busy ? undefined : measured.value?.[i] }));
  const chosen = members[Math.min(shown, members.length - 1)];
  const drawn = chosen && chosen.cells > MOST_DRAWN ? [...members].reverse().find((m) => m.cells <= MOST_DRAWN) : chosen;
  const drawnSpec = planned?.find((m) => m.nx === drawn?.nx && m.ny === drawn?.ny)?.spec;
  const { value: mesh, busy: drawing } = useAnswer(
    drawnSpec && (() => ask("build", { problemId, parameters: view.setup.parameters, spec: drawnSpec })),
    [drawnSpec, problemId, view.setup.parameters],
  );
  const finest = members[members.length - 1]?.quality;
  return (
    <>
      <StageHeader title="Meshes" question="Which family will show how the answer depends on the spacing?">
        <button type="button" className="btn" disabled={busy || !plan.members || mistake !== undefined} onClick={start}>
          Run {NUMBER_WORDS[members.length] ?? "family"}
        </button>
      </StageHeader>
      <div className="grid grid-cols-[minmax(0,1fr)_360px] gap-6">
        <div>
          <div className="grid grid-cols-4 gap-2">
            <Field label={`Coarsest: ${problem.counts?.nx ?? "cells along x"}`} value={f.baseNx} onChange={put("baseNx")} />
            <Field label={problem.counts?.ny ?? "along y"} value={f.baseNy} onChange={put("baseNy")} />
            <Field label="Ratio of spacings" value={f.ratio} onChange={put("ratio")} />
            <Field label="Meshes" value={f.count} onChange={put("count")} choices={["1", "2", "3", "4", "5"].map((n) => [n, n] as const)} />
            {problem.graded ? (
              <>
                <Field label="Grading along x" value={f.kindX} onChange={put("kindX")} choices={GRADINGS} />
                <Field label="Strength" value={f.strengthX} onChange={put("strengthX")} />
                <Field label="Grading along y" value={f.kindY} onChange={put("kindY")} choices={GRADINGS} />
                <Field label="Strength" value={f.strengthY} onChange={put("strengthY")} />
              </>
            ) : null}
            {problem.shapes ? (
              <Field label="Cell shape" value={f.shape} onChange={put("shape")} choices={problem.shapes.map((k) => [k, SHAPE_WORDS[k]] as const)} />
            ) : null}
          </div>
          {mistake ? <p className="mistake mt-2">{mistake}</p> : null}
          <h2 className="mt-5">The family</h2>
          <table className="mt-1 [&_td]:whitespace-nowrap">
            <thead>
              <tr>
                <th>Mesh</th>
                <th>Cells</th>
                <th>h, m</th>
                <th>h / h₁</th>
                <th>Aspect ratio</th>
                <th>Neighbours</th>
                <th>Skew, °</th>
                <th>Least edge, m</th>
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
                  <td>{m.quality ? significant(m.quality.spacingM, 3) : measured.busy ? "…" : "when run"}</td>
                  <td>{m.quality && finest ? significant(m.quality.spacingM / finest.spacingM, 4) : "–"}</td>
                  <td>{m.quality ? significant(m.quality.aspectRatio, 3) : "–"}</td>
                  <td>{m.quality ? significant(m.quality.neighbourVolumeRatio, 4) : "–"}</td>
                  <td>{m.quality ? significant(m.quality.nonOrthogonalityDeg, 2) : "–"}</td>
                  <td>{m.quality ? significant(m.quality.smallestEdgeM, 3) : "–"}</td>
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
          <h2 className="mb-2">{drawn ? `${drawn.nx} × ${drawn.ny}` : "No mesh"}</h2>
          {drawing && !mesh ? <p className="text-[12.5px] text-ink-3">Making the mesh …</p> : null}
          {mesh && drawn ? <MeshDrawing mesh={mesh} width={350} most={420} label={`Cells of the mesh of ${drawn.nx} by ${drawn.ny}`} /> : null}
          {drawn !== chosen ? <p className="mt-1 text-[12px] text-ink-3">Finer meshes of the family are too dense to draw.</p> : null}
        </div>
      </div>
    </>
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

"use client";

import { useRouter } from "next/navigation";
import { useDeferredValue, useMemo, useState } from "react";
import { FormProvider, useFormContext, useWatch } from "react-hook-form";
import type { CellShape } from "@/core/mesh/shapes";
import { described } from "@/core/problems/describe/catalogue";
import type { ProblemDescription } from "@/core/problems/describe/problem";
import { MeshDrawing } from "../../charts/MeshDrawing";
import { ask } from "../../engine/engine";
import { useAnswer } from "../../engine/useAnswer";
import { useEntries } from "../../forms/entries";
import { useSave } from "../../forms/useSave";
import { StageHeader } from "../../shell/StageHeader";
import type { MeshesView } from "../../view";
import { FamilyEntry as Entry, type FamilyEntries, familyEntries, type Member, planOf } from "./familyPlan";
import { MeshTable } from "./MeshTable";
import { PlannedTable } from "./PlannedTable";

const NUMBER_WORDS = ["no mesh", "one mesh", "two meshes", "three meshes", "four meshes", "five meshes", "six meshes"];
const GRADINGS = [
  ["uniform", "uniform"],
  ["both-ends", "finer at both ends"],
  ["low-end", "finer at the low end"],
  ["high-end", "finer at the high end"],
] as const;
const COUNTS = ["1", "2", "3", "4", "5"].map((n) => [n, n] as const);
const SHAPE_WORDS: Record<CellShape, string> = {
  rows: "rows",
  smooth: "rows, smoothly bent",
  jittered: "four corners, jittered",
  triangles: "triangles",
  hexagons: "six corners",
};

/** cells a mesh may have to be measured and drawn while it is typed */
const MOST_MEASURED = 12_000;
const MOST_DRAWN = 16_000;

/** A template's family: typed, and at once counted, measured and drawn. */
export function Family({ view, problemId }: { view: MeshesView; problemId: string }) {
  const problem = described(problemId);
  const { form } = useEntries<FamilyEntries>(familyEntries(view.setup.family ?? problem.family));
  return (
    <FormProvider {...form}>
      <Planned view={view} problem={problem} />
    </FormProvider>
  );
}

/** The family that is typed at present, with the quality of its meshes as the page's worker measures it. */
function usePlan({ parameters }: MeshesView["setup"], problem: ProblemDescription) {
  useWatch();
  const typed = useDeferredValue(JSON.stringify(useFormContext<FamilyEntries>().getValues()));
  const plan = useMemo(() => planOf(JSON.parse(typed), problem, parameters), [typed, problem, parameters]);
  const planned = plan.members;
  const measured = useAnswer(
    planned &&
      (() =>
        Promise.all(planned.map(({ spec, cells }) => ask("measure", { problemId: problem.id, parameters, spec, cells, mostCells: MOST_MEASURED })))),
    [planned, problem.id, parameters],
  );
  return { ...plan, mistake: plan.mistake ?? measured.mistake, measuring: measured.busy, quality: measured.busy ? undefined : measured.value };
}

function Planned({ view, problem }: { view: MeshesView; problem: ProblemDescription }) {
  const router = useRouter();
  const { save, busy } = useSave();
  const [shown, setShown] = useState(0);
  const { rule, members = [], mistake, measuring, quality } = usePlan(view.setup, problem);
  const start = async () => {
    if (rule && (await save("POST /cases/{id}/family", { at: { id: view.id }, input: rule })))
      router.push(`/cases/${view.id}/runs?q=${encodeURIComponent(view.quantityKey)}`);
  };
  return (
    <>
      <StageHeader title="Meshes" question="Which family will show how the answer depends on the spacing?">
        <button type="button" className="btn" disabled={busy || !rule || mistake !== undefined} onClick={start}>
          Run {NUMBER_WORDS[members.length] ?? "family"}
        </button>
      </StageHeader>
      <div className="grid grid-cols-[minmax(0,1fr)_360px] gap-6">
        <div>
          <Rule problem={problem} />
          {mistake ? <p className="mistake mt-2">{mistake}</p> : null}
          <h2 className="mt-5">The family</h2>
          <PlannedTable members={members} quality={quality} measuring={measuring} shown={shown} show={setShown} />
          <p className="mt-2 text-[12px] text-ink-3">
            The grading function stays the same through the family, so that each mesh refines the one before. Ratios of 1.3 or more keep noise out of
            the observed order.
          </p>
          <h2 className="mt-5">Meshes that were run</h2>
          <MeshTable view={view} />
        </div>
        <Picture problemId={problem.id} parameters={view.setup.parameters} members={members} shown={shown} />
      </div>
    </>
  );
}

function Rule({ problem }: { problem: ProblemDescription }) {
  return (
    <div className="grid grid-cols-4 gap-2">
      <Entry name="baseNx" label={`Coarsest: ${problem.counts?.nx ?? "cells along x"}`} />
      <Entry name="baseNy" label={problem.counts?.ny ?? "along y"} />
      <Entry name="ratio" label="Ratio of spacings" />
      <Entry name="count" label="Meshes" choices={COUNTS} />
      {problem.graded ? (
        <>
          <Entry name="kindX" label="Grading along x" choices={GRADINGS} />
          <Entry name="strengthX" label="Strength" />
          <Entry name="kindY" label="Grading along y" choices={GRADINGS} />
          <Entry name="strengthY" label="Strength" />
        </>
      ) : null}
      {problem.shapes ? <Entry name="shape" label="Cell shape" choices={problem.shapes.map((k) => [k, SHAPE_WORDS[k]])} /> : null}
    </div>
  );
}

interface PictureProps {
  readonly problemId: string;
  readonly parameters: MeshesView["setup"]["parameters"];
  readonly members: readonly Member[];
  readonly shown: number;
}

/** The chosen mesh, or the finest that is not too dense to be seen. */
function Picture({ problemId, parameters, members, shown }: PictureProps) {
  const chosen = members[Math.min(shown, members.length - 1)];
  const drawn = chosen && chosen.cells > MOST_DRAWN ? [...members].reverse().find((m) => m.cells <= MOST_DRAWN) : chosen;
  const spec = drawn?.spec;
  const { value: mesh, busy } = useAnswer(spec && (() => ask("build", { problemId, parameters, spec })), [spec, problemId, parameters]);
  return (
    <div>
      <h2 className="mb-2">{drawn ? `${drawn.nx} × ${drawn.ny}` : "No mesh"}</h2>
      {busy && !mesh ? <p className="text-[12.5px] text-ink-3">Making the mesh …</p> : null}
      {mesh && drawn ? <MeshDrawing mesh={mesh} width={350} most={420} label={`Cells of the mesh of ${drawn.nx} by ${drawn.ny}`} /> : null}
      {drawn !== chosen ? <p className="mt-1 text-[12px] text-ink-3">Finer meshes of the family are too dense to draw.</p> : null}
    </div>
  );
}

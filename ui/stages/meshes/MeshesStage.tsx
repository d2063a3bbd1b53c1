"use client";

import dynamic from "next/dynamic";
import { Empty, StageHeader } from "../../shell/StageHeader";
import type { MeshesView } from "../../view";
import { Family } from "./Family";
import { MeshTable } from "./MeshTable";

// Of most cases no mesh in space was judged.
const SpaceMesh = dynamic(() => import("./SpaceMesh").then((m) => m.SpaceMesh));

/** A family of meshes by base size, ratio and grading: counted, measured and drawn before anything is run; of other codes what is known of theirs. */
export function MeshesStage({ view }: { view: MeshesView }) {
  const judged = view.judged.map((j) => <SpaceMesh key={j.runId} judged={j} found={view.assessment.meshes.find((m) => m.runId === j.runId)} />);
  if (view.setup.problemId !== null)
    return (
      <>
        <Family view={view} problemId={view.setup.problemId} />
        {judged}
      </>
    );
  return (
    <>
      <StageHeader title="Meshes" question="On which meshes were the results made?" />
      {view.meshes.length ? (
        <MeshTable view={view} />
      ) : (
        <Empty>The meshes come with the results: bring in a run and say how many cells it had.</Empty>
      )}
      {judged}
    </>
  );
}

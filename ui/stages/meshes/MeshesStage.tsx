"use client";

import { Empty, StageHeader } from "../../shell/StageHeader";
import type { MeshesView } from "../../view";
import { Family } from "./Family";
import { MeshTable } from "./MeshTable";

/** A family of meshes by base size, ratio and grading: counted, measured and drawn before anything is run. */
export function MeshesStage({ view }: { view: MeshesView }) {
  if (view.setup.problemId !== null) return <Family view={view} problemId={view.setup.problemId} />;
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

"use client";

import { useMemo } from "react";
import { type PatchRecipe, PRESET_ANGLE } from "@/core/dataset/patches";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import { useAnswer } from "../engine/useAnswer";
import { askSpace } from "./askSpace";
import { bytesAt } from "./bytesAt";
import { crosses } from "./crosses";
import { SpaceView } from "./SpaceView";

interface Props {
  readonly runId: string;
  readonly label: string;
  readonly length: string;
  /** places to be marked, in the file's unit */
  readonly places: readonly (readonly [number, number, number])[];
}

const RECIPE: PatchRecipe = { division: { by: "angle", degrees: PRESET_ANGLE }, names: [], splits: [] };

const opened = async (runId: string): Promise<SurfaceLook> =>
  askSpace("load", { bytes: await bytesAt(`/api/runs/${runId}/space/file`, "mesh"), division: RECIPE.division });

/** The outside of a mesh in space with the worst cells marked, wherever they sit. */
export function MeshLookedAt({ runId, label, length, places }: Props) {
  const { value, mistake } = useAnswer(() => opened(runId), [runId]);
  const marks = useMemo(() => (value ? crosses(places, value) : []), [places, value]);
  if (mistake) return <p className="mistake">{mistake}</p>;
  if (!value) return <p className="mt-2 text-[12.5px] text-ink-3">Reading the mesh …</p>;
  return (
    <div className="mt-2">
      <SpaceView
        look={value}
        recipe={RECIPE}
        first="pieces"
        unit={length}
        title={`Mesh of ${label}`}
        lines={marks}
        through
        meshShown
        width={720}
        height={420}
      />
    </div>
  );
}

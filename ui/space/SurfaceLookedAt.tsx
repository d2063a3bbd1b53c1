"use client";

import { useMemo, useState } from "react";
import type { StationCurves } from "@/core/intake/stationCurves";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import type { SurfacePoints } from "@/core/intake/surfacePoints";
import type { SurfaceRecord } from "@/core/records/surfaces";
import { useAnswer } from "../engine/useAnswer";
import { askSpace } from "./askSpace";
import { bytesAt } from "./bytesAt";
import { MeasuredPoints } from "./MeasuredPoints";
import { SpaceView } from "./SpaceView";
import { StationCuts } from "./StationCuts";

interface Props {
  readonly runId: string;
  readonly label: string;
  readonly record: SurfaceRecord;
  /** of the case, SI */
  readonly conditions: Readonly<Record<string, number>>;
}

const NONE: StationCurves["lines"] = [];

/** Measured points as they are shown on the surface. */
function dotsOf({ points, of, unit }: SurfacePoints, { said }: SurfaceRecord, conditions: Props["conditions"]) {
  const painted = { by: "said", of, said, densityKgM3: conditions.densityKgM3 ?? 1 } as const;
  const shown = points.flatMap((p, k) => (p.measured === undefined ? [] : [{ at: p.at, facing: p.facing, value: p.measured, label: String(k) }]));
  return { points: shown, painted, words: of, unit };
}

const opened = async (runId: string, { said }: SurfaceRecord): Promise<SurfaceLook> =>
  askSpace("load", { bytes: await bytesAt(`/api/runs/${runId}/surface/file`, "surface"), division: said.recipe.division });

/** The surface of a run as it was brought in, with its patches. */
export function SurfaceLookedAt({ runId, label, record, conditions }: Props) {
  const [lines, setLines] = useState(NONE);
  const [points, setPoints] = useState<SurfacePoints>();
  const dots = useMemo(() => points && dotsOf(points, record, conditions), [points, record, conditions]);
  const { value, mistake } = useAnswer(() => opened(runId, record), [runId, record.file.hash]);
  if (mistake) return <p className="mistake">{mistake}</p>;
  if (!value) return <p className="mt-2 text-[12.5px] text-ink-3">Reading {record.file.name} …</p>;
  return (
    <div className="mt-2">
      <SpaceView
        look={value}
        recipe={record.said.recipe}
        first="patches"
        unit={record.said.length}
        title={`Surface of ${label}`}
        lines={lines}
        dots={dots}
        width={720}
        height={420}
      />
      <StationCuts runId={runId} label={label} record={record} look={value} conditions={conditions} cut={setLines} />
      <MeasuredPoints runId={runId} label={label} record={record} conditions={conditions} show={setPoints} />
    </div>
  );
}

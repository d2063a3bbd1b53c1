"use client";

import type { FaceMesh } from "@/core/mesh/faceMesh";
import { ask } from "../engine/engine";
import { ReachForm } from "./ReachForm";
import type { Stroke } from "./useFieldWork";

interface Props {
  readonly mesh: FaceMesh;
  readonly values: Float64Array;
  readonly name: string;
  readonly unit: string;
  /** the contour of the limit, to be drawn over the field; nothing where there is none */
  readonly show: (contour: Stroke | undefined) => void;
}

const CONTOUR = { color: "#B5412B", width: 1.6 };

/** How far the flow departs from the free stream around a body in the plane, with the contour of the limit over the field. */
export function ReachPanel({ mesh, values, name, unit, show }: Props) {
  return (
    <section className="mt-2" aria-label="How far the disturbance reaches">
      <ReachForm
        name={name}
        unit={unit}
        named={mesh.boundaries.length > 1 ? mesh.boundaries.map((b) => b.name) : []}
        className="no-print grid grid-cols-3 items-end gap-2"
        begun={() => show(undefined)}
        measure={async (free, limit, body) => {
          const { reach, contour } = await ask("reach", { mesh, values, free, limit, body });
          show({ segments: contour, ...CONTOUR });
          return reach;
        }}
      />
    </section>
  );
}

"use client";

import { useEffect, useState } from "react";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { DESCRIPTIONS, presetParameters } from "@/core/problems/describe/catalogue";
import { familyMesh } from "@/core/problems/describe/problem";
import { ask } from "../engine/engine";

/** Coarse meshes of the templates at their presets, as they are made: their pictures. */
export function useThumbnails(): ReadonlyMap<string, FaceMesh> {
  const [found, setFound] = useState<ReadonlyMap<string, FaceMesh>>(new Map());
  useEffect(() => {
    let gone = false;
    for (const p of DESCRIPTIONS) {
      const { baseNx, baseNy } = p.family;
      const share = Math.min(1, 26 / baseNx);
      const spec = familyMesh(p.family, Math.max(8, Math.round(baseNx * share)), Math.max(4, Math.round(baseNy * share)));
      ask("build", { problemId: p.id, parameters: presetParameters(p), spec }).then(
        (mesh) => !gone && setFound((old) => new Map(old).set(p.id, mesh)),
        // A template without a picture can be chosen all the same.
        () => undefined,
      );
    }
    return () => {
      gone = true;
    };
  }, []);
  return found;
}

import type { Window } from "@/core/drawing/cellRaster";
import type { Segments } from "@/core/drawing/meshLines";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import type { MeshQuality } from "@/core/mesh/quality";
import type { DerivedField } from "@/core/monitors/derived";
import type { FluidOfRun } from "@/core/monitors/fieldNames";
import type { Reach } from "@/core/monitors/reach/reach";
import type { MeshSpec } from "@/core/problems/describe/runSettings";
import type { CellField } from "@/core/solver/simulation";

export interface MeshWish {
  readonly problemId: string;
  readonly parameters: Readonly<Record<string, number>>;
  readonly spec: MeshSpec;
}

/** What a page asks of the worker that knows meshes and slopes, and what each question is answered with. */
export interface Questions {
  /** the mesh a template makes */
  build: { readonly ask: MeshWish; readonly answer: FaceMesh };
  /** quality of a mesh; undefined where it has more cells than are measured */
  measure: { readonly ask: MeshWish & { readonly mostCells: number; readonly cells: number }; readonly answer: MeshQuality | undefined };
  /** a mesh as it was kept with a run's fields */
  unpack: { readonly ask: { readonly bytes: Uint8Array }; readonly answer: FaceMesh };
  /** everything that can be shown of stored fields */
  derive: {
    readonly ask: { readonly mesh: FaceMesh; readonly fields: readonly CellField[]; readonly fluid: FluidOfRun };
    readonly answer: DerivedField[];
  };
  slopes: { readonly ask: { readonly mesh: FaceMesh; readonly values: Float64Array }; readonly answer: readonly [Float64Array, Float64Array] };
  streams: {
    readonly ask: { readonly mesh: FaceMesh; readonly u: Float64Array; readonly v: Float64Array; readonly seedsAcross: number };
    readonly answer: Segments;
  };
  /** which cell lies under the middle of each pixel of a picture */
  under: { readonly ask: { readonly mesh: FaceMesh; readonly view: Window }; readonly answer: Int32Array };
  /** a texture along a flow, for the part of the plane a picture shows */
  texture: {
    readonly ask: { readonly mesh: FaceMesh; readonly u: Float64Array; readonly v: Float64Array; readonly view: Window };
    readonly answer: Uint8Array;
  };
  /** how far a disturbance reaches around a body */
  reach: {
    readonly ask: {
      readonly mesh: FaceMesh;
      readonly values: Float64Array;
      readonly free: number;
      readonly limit: number;
      readonly body: string;
    };
    readonly answer: { readonly reach: Reach; readonly contour: Segments };
  };
  /** values along a straight line, ends included */
  sample: {
    readonly ask: {
      readonly mesh: FaceMesh;
      readonly values: Float64Array;
      readonly from: readonly [number, number];
      readonly to: readonly [number, number];
      readonly count: number;
    };
    readonly answer: Float64Array;
  };
}

/** A mesh by its number: it goes to the worker once, and what was worked out of it there stays with it. */
export interface SentMesh {
  readonly number: number;
  readonly mesh?: FaceMesh;
}

/** meshes the worker keeps at hand, those used last */
export const MESHES_KEPT = 4;

export type Kind = keyof Questions;

import type { TransferWay } from "@/core/dataset/ways";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import type { FluidOfRun } from "@/core/monitors/fieldNames";
import type { FieldStudy } from "@/core/study/fieldStudy";

/** A run whose fields take part. */
export interface StudiedRun {
  readonly runId: string;
  readonly label: string;
  /** m */
  readonly spacing: number;
}

/** Which fields are to be held against one another, and how. */
export interface StudyWish {
  /** finest first */
  readonly runs: readonly StudiedRun[];
  readonly field: string;
  readonly onto: number;
  readonly way: TransferWay;
  readonly formalOrder: number;
  readonly fluid: FluidOfRun;
  /** the difference of two runs alone is wanted, not how a family converges */
  readonly difference?: true;
}

/** What came of it, with the mesh it lies on. */
export interface StudiedField {
  readonly wish: StudyWish;
  readonly study: FieldStudy;
  readonly mesh: FaceMesh;
  readonly name: string;
  readonly unit: string;
}

export type StudyTold =
  | { readonly kind: "share"; readonly share: number; readonly what: string }
  | { readonly kind: "done"; readonly studied: StudiedField }
  | { readonly kind: "mistake"; readonly sentence: string };

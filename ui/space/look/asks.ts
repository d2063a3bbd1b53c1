import type { LineProfile } from "@/core/drawing/lineProfile";
import type { SceneAsked } from "@/core/drawing/sceneAsked";
import type { SpaceScene } from "@/core/drawing/spaceScene";
import type { ArrayKey, ShownArray, Volume, VolumeLook } from "@/core/drawing/volume";
import type { ReachAsked } from "@/core/drawing/volumeReach";
import type { Moment } from "@/core/formats/vtk/collections";
import type { Reach } from "@/core/monitors/reach/reach";
import type { SpaceSaid, Wish } from "@/core/monitors/space/said";

/** Of which of the results that are held. */
interface Of {
  readonly id: string;
}

/** What the page asks of the worker that holds volumes. */
export interface VolumeQuestions {
  /** what files that were chosen together are; bytes of those that may name others */
  sort: {
    readonly ask: { readonly files: readonly { readonly name: string; readonly bytes?: Uint8Array }[] };
    readonly answer: { readonly moments: readonly Moment[]; readonly notes: readonly string[] };
  };
  /** the moment of a result all further questions are about; fields that were made of an earlier one are made again */
  load: { readonly ask: Of & { readonly pieces: readonly Uint8Array[] }; readonly answer: VolumeLook };
  forget: { readonly ask: Of; readonly answer: true };
  scene: { readonly ask: Of & { readonly asked: SceneAsked }; readonly answer: SpaceScene };
  make: {
    readonly ask: Of & { readonly said: SpaceSaid; readonly wish: Wish };
    readonly answer: { readonly made: ShownArray; readonly look: VolumeLook };
  };
  /** names formulas find its fields under */
  names: { readonly ask: Of & { readonly said: SpaceSaid }; readonly answer: readonly string[] };
  difference: {
    readonly ask: Of & { readonly other: string; readonly key: ArrayKey; readonly unit: string; readonly name: string };
    readonly answer: { readonly made: ShownArray; readonly look: VolumeLook };
  };
  /** how far a disturbance reaches around a body */
  reach: {
    readonly ask: Of & { readonly asked: ReachAsked };
    readonly answer: { readonly reach: Reach; readonly made: ShownArray; readonly look: VolumeLook };
  };
  probe: { readonly ask: Of & { readonly place: readonly [number, number, number] }; readonly answer: ReturnType<Volume["probe"]> };
  line: {
    readonly ask: Of & {
      readonly of: ArrayKey & { readonly component: number | "size" };
      readonly smooth: boolean;
      /** both ends, and in between where it turns */
      readonly corners: readonly (readonly [number, number, number])[];
      readonly count: number;
    };
    readonly answer: LineProfile;
  };
}

export type VolumeKind = keyof VolumeQuestions;

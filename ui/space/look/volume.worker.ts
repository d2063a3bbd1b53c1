import { weld } from "@/core/dataset/weld";
import { lineProfile } from "@/core/drawing/lineProfile";
import { spaceScene } from "@/core/drawing/spaceScene";
import { Volume } from "@/core/drawing/volume";
import { volumeDifference } from "@/core/drawing/volumeDifference";
import { volumeReach } from "@/core/drawing/volumeReach";
import { readGridFile } from "@/core/formats/surface/readAny";
import { momentsOf, readCollection } from "@/core/formats/vtk/collections";
import { joined } from "@/core/formats/vtk/readGrid";
import type { SpaceSaid, Wish } from "@/core/monitors/space/said";
import { formulaNames } from "@/core/monitors/space/spaceFields";
import { answering } from "../../engine/answering";
import type { VolumeKind, VolumeQuestions } from "./asks";

interface Held {
  readonly volume: Volume;
  /** what was made of it, to be made again of another moment */
  readonly recipe: { readonly said: SpaceSaid; readonly wish: Wish }[];
}

const held = new Map<string, Held>();

function of(id: string): Held {
  const found = held.get(id);
  if (!found) throw new Error("The result is not held any more. Choose its file again.");
  return found;
}

type Answers = {
  readonly [K in VolumeKind]: (ask: VolumeQuestions[K]["ask"]) => VolumeQuestions[K]["answer"] | Promise<VolumeQuestions[K]["answer"]>;
};

const ANSWERS: Answers = {
  sort: ({ files }) => {
    const found = new Map(files.map((f) => [f.name, f.bytes && readCollection(f.bytes)]));
    return momentsOf(
      files.map((f) => f.name),
      (name) => found.get(name),
    );
  },
  load: async ({ id, pieces }) => {
    const before = held.get(id)?.recipe ?? [];
    held.delete(id);
    const grids = await Promise.all(pieces.map((bytes) => readGridFile(bytes)));
    const volume = new Volume(grids.length > 1 ? weld(joined(grids)) : grids[0]);
    for (const { said, wish } of before) volume.make(said, wish);
    held.set(id, { volume, recipe: before });
    return volume.look();
  },
  forget: ({ id }) => {
    held.delete(id);
    return true;
  },
  scene: ({ id, asked }) => spaceScene(of(id).volume, asked),
  make: ({ id, said, wish }) => {
    const { volume, recipe } = of(id);
    const made = volume.make(said, wish);
    recipe.push({ said, wish });
    return { made, look: volume.look() };
  },
  names: ({ id, said }) => formulaNames(of(id).volume.work, said),
  difference: ({ id, other, key, unit, name }) => {
    const { volume } = of(id);
    const made = volumeDifference(volume, of(other).volume, key, unit, name);
    return { made: volume.put(made), look: volume.look() };
  },
  reach: ({ id, asked }) => {
    const { volume } = of(id);
    const { reach, made } = volumeReach(volume, asked);
    return { reach, made: volume.put(made), look: volume.look() };
  },
  probe: ({ id, place }) => of(id).volume.probe(place),
  line: ({ id, of: what, smooth, corners, count }) => lineProfile(of(id).volume, what, smooth, corners, count),
};

answering(ANSWERS);

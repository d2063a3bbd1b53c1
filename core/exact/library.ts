import { annulus } from "./annulus.ts";
import { burstTube } from "./burstTube.ts";
import { conformalProfile } from "./conformalProfile.ts";
import { conicalShock } from "./conicalShock.ts";
import { coolingBody } from "./coolingBody.ts";
import { coreVortex } from "./coreVortex.ts";
import { creepingSphere } from "./creepingSphere.ts";
import { cylinderDrag } from "./cylinderDrag.ts";
import { decayingVortices } from "./decayingVortices.ts";
import { deepBody } from "./deepBody.ts";
import { ellipticDuct } from "./ellipticDuct.ts";
import { entryLength } from "./entryLength.ts";
import { expansionFan } from "./expansionFan.ts";
import { flatPlate } from "./flatPlate.ts";
import { flowCoefficient } from "./flowCoefficient.ts";
import { frictionDuct } from "./frictionDuct.ts";
import { frictionFactor } from "./frictionFactor.ts";
import { gridWake } from "./gridWake.ts";
import { heatedDuct } from "./heatedDuct.ts";
import { idealCylinder } from "./idealCylinder.ts";
import { jetFromPressure } from "./jetFromPressure.ts";
import { orifice } from "./orifice.ts";
import { oscillatingPlate } from "./oscillatingPlate.ts";
import { pipe } from "./pipe.ts";
import { pipeHeat } from "./pipeHeat.ts";
import { plainShock } from "./plainShock.ts";
import { planeJet } from "./planeJet.ts";
import { plateFriction } from "./plateFriction.ts";
import { plateHeat } from "./plateHeat.ts";
import { pulsatingPipe } from "./pulsatingPipe.ts";
import { rectangularDuct } from "./rectangularDuct.ts";
import { rotatingCylinders } from "./rotatingCylinders.ts";
import { roundJet } from "./roundJet.ts";
import { slidingPlates } from "./slidingPlates.ts";
import { slowSphere } from "./slowSphere.ts";
import type { Solution } from "./solution.ts";
import { sphereDrag } from "./sphereDrag.ts";
import { stagnationFlow } from "./stagnationFlow.ts";
import { suddenPlate } from "./suddenPlate.ts";
import { thinProfile } from "./thinProfile.ts";
import { throatDuct } from "./throatDuct.ts";
import { travellingVortex } from "./travellingVortex.ts";
import { turbulentPipeHeat } from "./turbulentPipeHeat.ts";
import { turningShock } from "./turningShock.ts";
import { verticalPlate } from "./verticalPlate.ts";
import { wallConduction } from "./wallConduction.ts";
import { wallLaw } from "./wallLaw.ts";
import { warmPlateLayer } from "./warmPlateLayer.ts";
import { wedgeChannel } from "./wedgeChannel.ts";
import { wedgeFlow } from "./wedgeFlow.ts";

/** Every solution of the library, by subject; a new one is a file of its own and a line here. */
export const LIBRARY: readonly Solution[] = [
  annulus,
  ellipticDuct,
  pipe,
  slidingPlates,
  pulsatingPipe,
  rectangularDuct,
  wedgeChannel,
  oscillatingPlate,
  rotatingCylinders,
  suddenPlate,
  flatPlate,
  stagnationFlow,
  wedgeFlow,
  gridWake,
  planeJet,
  roundJet,
  coreVortex,
  decayingVortices,
  travellingVortex,
  creepingSphere,
  cylinderDrag,
  slowSphere,
  sphereDrag,
  conformalProfile,
  idealCylinder,
  thinProfile,
  entryLength,
  frictionFactor,
  plateFriction,
  wallLaw,
  pipeHeat,
  plateHeat,
  turbulentPipeHeat,
  verticalPlate,
  warmPlateLayer,
  coolingBody,
  deepBody,
  wallConduction,
  burstTube,
  conicalShock,
  expansionFan,
  plainShock,
  turningShock,
  frictionDuct,
  heatedDuct,
  throatDuct,
  flowCoefficient,
  jetFromPressure,
  orifice,
];

/** A solution by its id; undefined where there is none of that name. */
export const findSolution = (id: string): Solution | undefined => LIBRARY.find((s) => s.id === id);

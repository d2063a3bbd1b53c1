import { listPilots } from "../repositories/pilots.ts";
import { PilotInput, startPilot, stopPilot } from "../usecases/pilots.ts";
import { Done, Id, idOf, type Operation, operation, z } from "./operation.ts";

const Pilot = z.object({
  id: z.string(),
  quantityKey: z.string(),
  target: z.number(),
  mostCells: z.number(),
  longestS: z.number(),
  state: z.enum(["under way", "reached", "ended", "stopped"]),
  reason: z.string().nullable(),
  steps: z.array(z.object({ runId: z.string(), label: z.string(), why: z.string() })),
});

/** Cases that find their mesh by themselves. */
export const PILOT_OPERATIONS: readonly Operation[] = [
  operation({
    method: "get",
    path: "/cases/{id}/pilots",
    says: "Autopilots of a case, the latest first, with every step and its reason.",
    output: z.object({ pilots: z.array(Pilot) }),
    run: async ({ opened, at }) => ({ pilots: await listPilots(opened.db, at.id) }),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/pilots",
    says: "Takes a quantity to an uncertainty: coarse meshes first, then finer ones until it is reached or the cells or the time are used up.",
    input: PilotInput,
    output: Id,
    run: ({ opened, at, input }) => startPilot(opened, at.id, input).then(idOf),
  }),
  operation({
    method: "post",
    path: "/pilots/{id}/stop",
    says: "Stops an autopilot and the run it waits for; what was computed is kept.",
    output: Done,
    run: ({ opened, at }) => stopPilot(opened, at.id),
  }),
];

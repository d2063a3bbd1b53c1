import { z } from "zod";
import { fromPlain, toPlain } from "../../core/solver/wire.ts";
import { bench } from "./bench.ts";
import type { WorkerMessage } from "./messages.ts";

const TakeInput = z.object({ node: z.string().trim().min(1).max(60) });

const HearInput = z.object({
  runId: z.uuid(),
  attempt: z.number().int().min(1),
  messages: z
    .array(z.looseObject({ type: z.enum(["ready", "climbing", "rows", "status", "field", "checkpoint", "paused", "done", "failed"]) }))
    .max(2000),
});

/** What a bench node may ask, by path: work to take, and what came of it. */
export const NODE_ROUTES: Readonly<Record<string, (body: unknown) => Promise<unknown>>> = {
  take: async (body) => {
    const taken = await (await bench()).takeForNode(TakeInput.parse(body).node);
    if (!taken) return { run: null };
    const { run, checkpoint, start } = taken;
    return {
      run: { id: run.id, attempt: run.attempt, label: run.label, settings: run.settings },
      checkpoint: checkpoint ? toPlain(checkpoint) : null,
      start: start ? toPlain(start) : null,
    };
  },
  hear: async (body) => {
    const { runId, attempt, messages } = HearInput.parse(body);
    const answer = await (await bench()).hearFromNode(
      runId,
      attempt,
      messages.map((m) => fromPlain(m) as unknown as WorkerMessage),
    );
    return { control: answer?.control ?? null, field: answer?.field ?? 0 };
  },
};

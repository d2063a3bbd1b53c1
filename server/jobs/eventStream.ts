import type { Bench } from "./bench.ts";
import { type RunEvent, subscribe } from "./events.ts";

const BEAT_MS = 15_000;

/** What happens to the runs of a case as server-sent events, the last state first; it ends with the signal, or when nobody listens. */
export function caseEvents(pool: Bench, caseId: string, signal: AbortSignal): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let close = () => {};
  return new ReadableStream({
    start(controller) {
      const send = (event: RunEvent) => controller.enqueue(encoder.encode(`data: ${JSON.stringify(event)}\n\n`));
      for (const event of pool.replay(caseId)) send(event);
      const end = subscribe(caseId, send);
      const here = () => controller.enqueue(encoder.encode(": here\n\n"));
      const beat = setInterval(here, BEAT_MS);
      close = () => {
        clearInterval(beat);
        end();
      };
      here();
      signal.addEventListener("abort", () => {
        close();
        controller.close();
      });
    },
    cancel: () => close(),
  });
}

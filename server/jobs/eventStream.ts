import { subscribeAll } from "./events.ts";

const BEAT_MS = 15_000;
/** messages a listener may leave unread; one that never reads would be written for in vain and without end */
const MOST_UNREAD = 2000;

/** What happens to the runs of all cases as server-sent events, for all tabs of a browser; it ends with the signal, when nobody listens or nobody reads. */
export function runEvents(signal: AbortSignal, beatMs = BEAT_MS): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let close = () => {};
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        let ended = false;
        const end = () => {
          if (ended) return;
          ended = true;
          close();
          controller.close();
        };
        const write = (text: string) => {
          if (ended) return;
          if ((controller.desiredSize ?? 0) < -MOST_UNREAD) end();
          else controller.enqueue(encoder.encode(text));
        };
        const leave = subscribeAll((caseId, event) => write(`data: ${JSON.stringify({ caseId, event })}\n\n`));
        const beat = setInterval(() => write(": here\n\n"), beatMs);
        close = () => {
          ended = true;
          clearInterval(beat);
          leave();
        };
        write(": here\n\n");
        signal.addEventListener("abort", end);
      },
      cancel: () => close(),
    },
    { highWaterMark: 0 },
  );
}

import { bench } from "@/server/jobs/bench";
import { type RunEvent, subscribe } from "@/server/jobs/events";

export const dynamic = "force-dynamic";

/** Streams what happens to the runs of a case; a page that has just connected first gets the last state. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const pool = await bench();
  const encoder = new TextEncoder();
  let close = () => {};
  const stream = new ReadableStream({
    start(controller) {
      const send = (event: RunEvent) => controller.enqueue(encoder.encode(`data: ${JSON.stringify(event)}\n\n`));
      for (const event of pool.replay(id)) send(event);
      const end = subscribe(id, send);
      const beat = setInterval(() => controller.enqueue(encoder.encode(": here\n\n")), 15_000);
      close = () => {
        clearInterval(beat);
        end();
      };
      controller.enqueue(encoder.encode(": here\n\n"));
      request.signal.addEventListener("abort", () => {
        close();
        controller.close();
      });
    },
    cancel: () => close(),
  });
  return new Response(stream, {
    headers: { "content-type": "text/event-stream", "cache-control": "no-cache, no-transform", connection: "keep-alive" },
  });
}

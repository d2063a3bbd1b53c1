/** Where the application runs that a command talks to: TIN_RULER_URL, preset http://127.0.0.1:4310. */
const address = (process.env.TIN_RULER_URL ?? "http://127.0.0.1:4310").replace(/\/$/, "");

/** Asks the running application. @throws {Error} with its sentence, or that it does not answer */
export async function ask<T>(method: string, at: string, body?: unknown): Promise<T> {
  const sent = {
    method,
    headers: { "content-type": "application/json", origin: address },
    body: body === undefined ? undefined : JSON.stringify(body),
  };
  const answer = await fetch(`${address}/api${at}`, sent).catch(() => {
    throw new Error(`${address} does not answer; start it with sh bin/demo.`);
  });
  const told = await answer.json();
  if (!answer.ok) throw new Error(told.error ?? JSON.stringify(told));
  return told as T;
}

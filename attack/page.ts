/** Two attacks go on side by side where each has a port of its own. */
export const PORT = Number(process.env.ATTACK_PORT ?? 4318);
export const BASE = `http://127.0.0.1:${PORT}`;

/** Asks the application as its own pages do. */
export const ask = (method: string, at: string, body?: unknown): Promise<Response> =>
  fetch(`${BASE}/api${at}`, {
    method,
    headers: { "content-type": "application/json", origin: BASE },
    body: body === undefined ? undefined : body instanceof Uint8Array ? (body as BodyInit) : JSON.stringify(body),
  });

/** The smallest case of the bench. */
export const caseOf = (title: string) => ({
  title,
  purpose: "",
  problemId: "plates",
  fluidName: "air",
  temperature: "",
  pressure: "",
  parameters: {},
});

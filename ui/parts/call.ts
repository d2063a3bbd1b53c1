"use client";

/** A call that was refused, with what each field is told. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly details: Record<string, string>,
  ) {
    super(message);
    this.name = "Refused";
  }
}

/** Sends a change to the server. @throws {Refused} with the server's sentence */
export async function call<T = unknown>(method: "GET" | "POST" | "PUT" | "DELETE", path: string, body?: unknown): Promise<T> {
  const answer = await fetch(`/api/${path}`, {
    method,
    headers: { "content-type": "application/json" },
    body: body === undefined ? undefined : JSON.stringify(body),
  }).catch(() => undefined);
  if (!answer) throw new Refused("The server does not answer. Start it again; nothing that was saved is lost.", {});
  const data = await answer.json().catch(() => ({ error: `The server answered ${answer.status}.` }));
  if (!answer.ok)
    throw new Refused(
      data.error ?? `The server answered ${answer.status}.`,
      typeof data.details === "object" && !Array.isArray(data.details) ? (data.details ?? {}) : {},
    );
  return data as T;
}

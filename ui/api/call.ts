import type { Operations } from "./operations";

type Keys<Path extends string> = Path extends `${string}{${infer Key}}${infer Rest}` ? Key | Keys<Rest> : never;

/** The input of an operation; a page may keep any part of it as data that nobody changes. */
export type Input<What extends keyof Operations> = Operations[What] extends { input: infer Given } ? Unchanged<Given> : never;

type Unchanged<T> = T extends string | number | boolean | null | undefined ? T : { readonly [K in keyof T]: Unchanged<T[K]> };

/** What an operation is to be sent: the named parts of its path, and its input where it takes one. */
export type Sending<What extends keyof Operations> = ([Keys<What>] extends [never] ? object : { readonly at: Readonly<Record<Keys<What>, string>> }) &
  (Operations[What] extends { input: unknown } ? { readonly input: Input<What> } : object);

export type Answer<What extends keyof Operations> = Operations[What]["output"];

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

/** Where an operation is asked for. */
export function addressOf(path: string, at: Readonly<Record<string, string>> = {}): string {
  return `/api${path.replace(/\{(\w+)\}/g, (_, key: string) => encodeURIComponent(at[key]))}`;
}

/** Asks the server for an operation. @throws {Refused} with the server's sentence */
export async function call<What extends keyof Operations>(what: What, sending: Sending<What>, signal?: AbortSignal): Promise<Answer<What>> {
  const [method, path] = what.split(" ");
  const { at, input } = sending as { at?: Record<string, string>; input?: unknown };
  const answer = await fetch(addressOf(path, at), {
    method,
    headers: { "content-type": "application/json" },
    body: input === undefined ? undefined : JSON.stringify(input),
    signal,
  }).catch(() => undefined);
  if (!answer) throw new Refused("The server does not answer. Start it again; nothing that was saved is lost.", {});
  const data = await answer.json().catch(() => ({ error: `The server answered ${answer.status}.` }));
  if (answer.ok) return data as Answer<What>;
  const { error, details } = data as { error?: string; details?: unknown };
  const told = details && typeof details === "object" && !Array.isArray(details) ? (details as Record<string, string>) : {};
  throw new Refused(error ?? `The server answered ${answer.status}.`, told);
}

import { randomUUID } from "node:crypto";
import pg from "pg";
import type { RunEvent } from "./events.ts";

/** What processes that share a database tell each other: events of runs they compute, and wishes for runs others compute. */
export type Message =
  | { readonly kind: "event"; readonly caseId: string; readonly event: RunEvent }
  | { readonly kind: "control"; readonly runId: string; readonly control: number }
  | { readonly kind: "show"; readonly runId: string; readonly name: string };

export interface Exchange {
  send(message: Message): void;
  close(): Promise<void>;
}

const CHANNEL = "tin_ruler_bench";
/** characters of one notification: PostgreSQL takes 8,000 bytes, and every quote is written as two */
const PIECE = 3000;
const RETRY_MS = 2000;
/** messages that wait for a lost connection; older ones are dropped whole */
const MOST_WAITING = 40;

interface Piece {
  readonly from: string;
  readonly id: string;
  readonly part: number;
  readonly of: number;
  readonly text: string;
}

/** Tells and hears through the notifications of a PostgreSQL server; a lost connection is opened again. */
class ServerExchange implements Exchange {
  private readonly own = randomUUID();
  private client: pg.Client | undefined;
  private chain: Promise<unknown> = Promise.resolve();
  /** pieces of the message each process is sending */
  private readonly arriving = new Map<string, { id: string; parts: string[] }>();
  private waiting: string[][] = [];
  private closed = false;
  private sent = 0;

  constructor(
    private readonly address: string,
    private readonly hear: (message: Message) => void,
  ) {}

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.address });
    client.on("notification", (n) => this.take(n.payload ?? ""));
    client.on("error", () => this.reopen(client));
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
    this.client = client;
  }

  private reopen(lost: pg.Client): void {
    if (this.closed || this.client !== lost) return;
    this.client = undefined;
    const again = () => {
      if (!this.closed) void this.open().catch(() => setTimeout(again, RETRY_MS).unref());
    };
    setTimeout(again, RETRY_MS).unref();
  }

  private take(payload: string): void {
    const piece = JSON.parse(payload) as Piece;
    if (piece.from === this.own) return;
    const before = this.arriving.get(piece.from);
    // A message that broke off is given up when the next one begins.
    const parts = before?.id === piece.id ? before.parts : [];
    parts[piece.part] = piece.text;
    this.arriving.set(piece.from, { id: piece.id, parts });
    if (Object.keys(parts).length < piece.of) return;
    this.arriving.delete(piece.from);
    this.hear(JSON.parse(parts.join("")) as Message);
  }

  send(message: Message): void {
    const text = JSON.stringify(message);
    const id = `${this.own}:${this.sent++}`;
    const of = Math.ceil(text.length / PIECE);
    this.waiting.push(
      Array.from({ length: of }, (_, part) =>
        JSON.stringify({ from: this.own, id, part, of, text: text.slice(part * PIECE, (part + 1) * PIECE) } satisfies Piece),
      ),
    );
    this.waiting = this.waiting.slice(-MOST_WAITING);
    this.chain = this.chain.then(() => this.drain());
  }

  private async drain(): Promise<void> {
    for (;;) {
      const next = this.waiting[0];
      if (next === undefined || !this.client || this.closed) return;
      this.waiting.shift();
      for (const piece of next) {
        const done = await this.client?.query("select pg_notify($1, $2)", [CHANNEL, piece]).then(
          () => true,
          () => false,
        );
        if (!done) return;
      }
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    await this.chain;
    await this.client?.end().catch(() => undefined);
  }
}

/** One process alone with its database has nobody to tell. */
const SILENT: Exchange = { send: () => undefined, close: async () => undefined };

export async function openExchange(address: string | undefined, hear: (message: Message) => void): Promise<Exchange> {
  if (!address) return SILENT;
  const exchange = new ServerExchange(address, hear);
  await exchange.open();
  return exchange;
}

import { accessSync, constants } from "node:fs";
import type { PGlite } from "@electric-sql/pglite";

/** statements that change something, by their first word */
const CHANGES = /^\s*(insert|update|delete|truncate|create|alter|drop|with\s[\s\S]*\b(insert|update|delete)\b)/i;
const PARSE = "P".charCodeAt(0);
const SIMPLE = "Q".charCodeAt(0);
/** a message's kind and length */
const HEAD = 5;
const text = new TextDecoder();

/** The statement a protocol message carries, where it carries one. */
export function statementIn(message: Uint8Array): string | undefined {
  const [kind] = message;
  if (kind !== PARSE && kind !== SIMPLE) return undefined;
  const from = kind === SIMPLE ? HEAD : message.indexOf(0, HEAD) + 1;
  return text.decode(message.subarray(from, message.indexOf(0, from)));
}

/**
 * Refuses to change an embedded database whose disk has turned read-only, before the database notices: it would end in the middle of a change,
 * and nothing could be read any more. As soon as the disk can be written again changes go on.
 */
export function refuseWhenReadOnly(client: PGlite, folder: string): void {
  const answer = client.execProtocolRaw.bind(client);
  client.execProtocolRaw = async (message, ...rest) => {
    const statement = statementIn(message);
    // Says EROFS or EACCES, which answers know how to tell.
    if (statement && CHANGES.test(statement)) accessSync(/*turbopackIgnore: true*/ folder, constants.W_OK);
    return answer(message, ...rest);
  };
}

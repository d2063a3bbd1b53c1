import { readFile } from "node:fs/promises";
import { parseArgs } from "node:util";
import { assessPack, type PackCheck } from "../pack/assessPack.ts";
import { isSignedBy } from "../pack/signature.ts";

export const ASSESS_USE = `tin-ruler assess <pack.zip> [--signature <pack.sig> --key <key.pem>] [--json]

Makes the report of an evidence pack again from what is in the pack, and lists every figure that comes out otherwise.
Ends with 0 where it holds, with 1 where it does not, with 2 where it could not be checked.`;

/** Where a command says what it found. */
export interface Voice {
  readonly out: (line: string) => void;
  readonly err: (line: string) => void;
}

/** lines of one kind that are told before the rest is only counted */
const MOST_LINES = 200;

/** Checks a pack from the command line. @returns what the command ends with */
export async function assessCommand(args: readonly string[], { out, err }: Voice): Promise<0 | 1 | 2> {
  try {
    const options = { signature: { type: "string" }, key: { type: "string" }, json: { type: "boolean" } } as const;
    const { positionals, values } = parseArgs({ args: [...args], options, allowPositionals: true });
    if (positionals.length !== 1 || Boolean(values.signature) !== Boolean(values.key)) {
      err(ASSESS_USE);
      return 2;
    }
    const bytes = await read(positionals[0]);
    const signature = values.signature && values.key ? signatureOf(bytes, await text(values.signature), await text(values.key)) : undefined;
    const check = await assessPack(bytes, ({ what }) => err(`${what} ...`));
    if (values.json) out(JSON.stringify({ ...check, ...(signature === undefined ? {} : { signature }) }, null, 1));
    else for (const line of told(check, signature)) out(line);
    return check.holds && signature !== false ? 0 : 1;
  } catch (error) {
    err(error instanceof Error ? error.message : String(error));
    return 2;
  }
}

const signatureOf = (bytes: Uint8Array, signature: string, key: string): boolean => isSignedBy(bytes, signature, key);

async function read(place: string): Promise<Buffer> {
  return readFile(place).catch((error: NodeJS.ErrnoException) => {
    throw new Error(error.code === "ENOENT" ? `${place} is not there.` : `${place} cannot be read: ${error.message}`);
  });
}

const text = async (place: string): Promise<string> => (await read(place)).toString("utf8");

function told(c: PackCheck, signature: boolean | undefined): string[] {
  return [
    `${c.title}, report ${c.number}, issued ${c.issuedAt} by ${c.issuedBy}`,
    `${c.files} files; sum of their list ${c.manifest}`,
    ...(signature === undefined
      ? []
      : [signature ? "The signature is that of this key, over this very file." : "The signature is not one of this key over this file."]),
    ...listed("Not as packed", c.changed),
    ...listed("Not to be checked", c.notChecked),
    ...listed(
      "Comes out otherwise",
      c.differences.map((d) => `${d.where}: issued ${d.left ?? "without it"}, now ${d.right ?? "without it"}`),
    ),
    ...listed("Files that come out otherwise", c.otherFiles),
    c.sentence,
  ];
}

const listed = (title: string, lines: readonly string[]): string[] =>
  lines.length
    ? [
        `${title}:`,
        ...lines.slice(0, MOST_LINES).map((l) => `  ${l}`),
        ...(lines.length > MOST_LINES ? [`  and ${lines.length - MOST_LINES} more`] : []),
      ]
    : [];

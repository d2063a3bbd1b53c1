import { hashBytes } from "../hash.ts";

export const MANIFEST = "manifest-sha256.txt";

/** Files of a pack by their path. */
export type Files = Readonly<Record<string, Uint8Array>>;

/** Sums of all files, a line each, as `sha256sum -c` reads them. */
export function manifestOf(files: Files): string {
  const paths = Object.keys(files).filter((p) => p !== MANIFEST);
  return paths
    .sort()
    .map((path) => `${hashBytes(files[path])}  ${path}\n`)
    .join("");
}

/** What is wrong with the files of a pack by its own list, in sentences: changed, missing and added ones. */
export function manifestProblems(files: Files): string[] {
  const listed = files[MANIFEST];
  if (!listed) return [`${MANIFEST} is missing: nothing tells whether the files are those that were packed.`];
  const sums = new Map<string, string>();
  const problems: string[] = [];
  for (const line of new TextDecoder().decode(listed).split("\n").filter(Boolean)) {
    const found = line.match(/^([0-9a-f]{64}) {2}(.+)$/);
    if (found) sums.set(found[2], found[1]);
    else problems.push(`${MANIFEST} has a line that is none: "${line.slice(0, 80)}".`);
  }
  for (const [path, sum] of sums) {
    if (!files[path]) problems.push(`${path} is listed and is not there.`);
    else if (hashBytes(files[path]) !== sum) problems.push(`${path} is not as it was packed: its sum is another one.`);
  }
  for (const path of Object.keys(files)) if (path !== MANIFEST && !sums.has(path)) problems.push(`${path} is there and not listed: it was added.`);
  return problems;
}

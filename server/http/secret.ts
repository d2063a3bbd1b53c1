import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";

/** The secret bench nodes show: from BENCH_SECRET, else one made once and kept in the data folder. */
export async function benchSecret(folder: string): Promise<string> {
  if (process.env.BENCH_SECRET) return process.env.BENCH_SECRET;
  const file = path.join(folder, "bench-secret");
  const known = await readFile(file, "utf8").catch(() => "");
  if (known.trim().length >= 16) return known.trim();
  const made = randomBytes(24).toString("base64url");
  await writeFile(file, `${made}\n`, { mode: 0o600 });
  return made;
}

/** Compares in a time that tells nothing. */
export function secretMatches(secret: string, shown: string | null): boolean {
  if (!shown) return false;
  const digest = (text: string) => createHash("sha256").update(text).digest();
  return timingSafeEqual(digest(secret), digest(shown));
}

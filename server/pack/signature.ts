import { createPrivateKey, createPublicKey, generateKeyPairSync, type KeyObject, randomUUID, sign, verify } from "node:crypto";
import { link, readFile, rm, writeFile } from "node:fs/promises";
import path from "node:path";

const KEY = "signing-key.pem";

/** The key of a data folder, made when it is first asked for; readable by its owner alone. */
export async function folderKey(folder: string): Promise<KeyObject> {
  const place = path.join(folder, KEY);
  const there = await readFile(place, "utf8").catch((error: NodeJS.ErrnoException) => {
    if (error.code === "ENOENT") return undefined;
    throw error;
  });
  if (there !== undefined) return createPrivateKey(there);
  const made = generateKeyPairSync("ed25519").privateKey;
  const beside = `${place}.${randomUUID()}`;
  await writeFile(beside, made.export({ type: "pkcs8", format: "pem" }), { mode: 0o600, flag: "wx" });
  // Two who ask at once: the first one's key is everybody's, and nobody sees half a file.
  await link(beside, place).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== "EEXIST") throw error;
  });
  await rm(beside);
  return createPrivateKey(await readFile(place, "utf8"));
}

/** The half of a key that may be known to everybody, as text. */
export const publicPart = (key: KeyObject): string => createPublicKey(key).export({ type: "spki", format: "pem" }).toString();

/** Detached Ed25519 signature of a file, in base64. */
export const signed = (bytes: Uint8Array, key: KeyObject): string => `${sign(null, bytes, key).toString("base64")}\n`;

/**
 * Whether a signature was made of exactly these bytes with the key whose public half is given.
 * @throws {RangeError} the key is none
 */
export function isSignedBy(bytes: Uint8Array, signature: string, publicPem: string): boolean {
  let key: KeyObject;
  try {
    key = createPublicKey(publicPem);
  } catch (error) {
    throw new RangeError("The key cannot be read: it should be the text that begins with BEGIN PUBLIC KEY.", { cause: error });
  }
  if (key.asymmetricKeyType !== "ed25519") throw new RangeError(`The key is of kind ${key.asymmetricKeyType}; signatures are made with Ed25519.`);
  return verify(null, bytes, key, Buffer.from(signature.trim(), "base64"));
}

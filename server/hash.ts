import { createHash } from "node:crypto";

export const hashBytes = (bytes: Uint8Array | string): string => createHash("sha256").update(bytes).digest("hex");

/** JSON with its keys in order, so that equal values have equal text. */
export function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(",")}]`;
  if (typeof value === "object" && value !== null) {
    const entries = Object.entries(value).filter(([, v]) => v !== undefined);
    return `{${entries
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, v]) => `${JSON.stringify(k)}:${canonical(v)}`)
      .join(",")}}`;
  }
  return JSON.stringify(value) ?? "null";
}

export const hashOf = (value: unknown): string => hashBytes(canonical(value));

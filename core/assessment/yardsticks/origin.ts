import { sentenceCase } from "../../formatting/number.ts";
import type { Reference } from "../../records/reference.ts";

/** What a yardstick is, in words. */
export const KIND_WORDS: Readonly<Record<Reference["kind"], string>> = {
  exact: "exact solution",
  correlation: "correlation or asymptote",
  table: "published table or curve",
  measured: "measured",
  "other-code": "another code: agreement is not truth",
};

const hashed = (what: string, { name, hash }: { readonly name: string; readonly hash: string }) => `${what} ${name}, hash ${hash.slice(0, 8)}`;

/** Who made a yardstick, when and how, and the file or picture it came in: "By A.B.; hot wire; file traverse.csv, hash 3f2a19c0."; empty where nothing is known. */
export function originText({ provenance: p, figure }: Pick<Reference, "provenance" | "figure">): string {
  const parts = [p?.who && `by ${p.who}`, p?.when, p?.how, p?.file && hashed("file", p.file), figure && hashed("read off", figure)].filter(Boolean);
  return parts.length ? `${sentenceCase(parts.join("; "))}.` : "";
}

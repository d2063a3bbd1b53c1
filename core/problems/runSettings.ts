import type { Grading } from "../mesh/grading.ts";
import type { ConvectionScheme } from "../solver/flowLevel.ts";

/** A mesh the bench can make: counts and grading of a rectangle whose size comes from the case. */
export interface MeshSpec {
  readonly nx: number;
  readonly ny: number;
  readonly gradingX: Grading;
  readonly gradingY: Grading;
}

export interface Numerics {
  readonly scheme: ConvectionScheme;
  readonly dropOrders: number;
  readonly maxIterations: number;
}

/** Everything a run depends on, frozen with it. */
export interface RunSettings {
  readonly problemId: string | null;
  readonly parameters: Readonly<Record<string, number>>;
  readonly numerics: Numerics;
  readonly mesh: MeshSpec | { readonly cells: number; readonly spacingM: number; readonly dimension: 2 | 3 };
  readonly code: string;
  /** files a brought-in run was made from, by the hash of their bytes */
  readonly files?: readonly { readonly name: string; readonly hash: string }[];
}

export interface SettingDifference {
  readonly path: string;
  readonly left: string;
  readonly right: string;
}

/** What differs between two set-ups, flat, by path. */
export function settingDifferences(left: unknown, right: unknown, path = ""): SettingDifference[] {
  const plain = (v: unknown): v is Record<string, unknown> => typeof v === "object" && v !== null;
  if (plain(left) && plain(right)) {
    const keys = [...new Set([...Object.keys(left), ...Object.keys(right)])].sort();
    return keys.flatMap((k) => settingDifferences(left[k], right[k], path ? `${path}.${k}` : k));
  }
  if (Object.is(left, right)) return [];
  const show = (v: unknown) => (v === undefined ? "not set" : typeof v === "object" ? JSON.stringify(v) : String(v));
  return [{ path, left: show(left), right: show(right) }];
}

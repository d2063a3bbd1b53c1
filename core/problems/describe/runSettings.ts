import type { Grading } from "../../mesh/grading.ts";
import type { CellShape } from "../../mesh/shapes.ts";
import type { KeyedMonitor } from "../../monitors/monitor.ts";
import type { Limiter, RiemannFlux } from "../../solver/gas/gas.ts";
import type { ConvectionScheme } from "../../solver/kernels/schemes.ts";

/** A mesh the bench can make: counts, grading and cell shape; sizes come from the case. */
export interface MeshSpec {
  readonly nx: number;
  readonly ny: number;
  readonly gradingX: Grading;
  readonly gradingY: Grading;
  /** "rows" unless given */
  readonly shape?: CellShape;
  readonly seed?: number;
}

/** When a run ends before its target or limit. */
export interface StopRules {
  /** seconds of computing */
  readonly longestS?: number;
  /** stop once every watched quantity has settled by the test of method 1, whatever the residuals say */
  readonly onceSteady?: boolean;
}

export interface Numerics {
  readonly scheme: ConvectionScheme;
  /** orders the residuals are to fall: over the run when steady, within each step when transient */
  readonly dropOrders: number;
  readonly maxIterations: number;
  /** transient: largest Courant number of a step */
  readonly courant?: number;
  /** compressible: approximate Riemann flux, limiter of the reconstruction */
  readonly riemannFlux?: RiemannFlux;
  readonly limiter?: Limiter;
  readonly stop?: StopRules;
  /** transient: at how many even steps of time up to the end the fields are kept */
  readonly moments?: number;
}

/** A finished run another one starts from. */
export interface StartPoint {
  readonly label: string;
  readonly problemId: string;
  readonly parameters: Readonly<Record<string, number>>;
  readonly mesh: MeshSpec;
  readonly fields: readonly { readonly name: string; readonly unit: string; readonly hash: string }[];
  /** the mesh the fields lie on, by the hash of its file; absent where it was not kept with them */
  readonly meshHash?: string;
}

/** Everything a run depends on, frozen with it. */
export interface RunSettings {
  readonly problemId: string | null;
  readonly parameters: Readonly<Record<string, number>>;
  readonly formulas?: Readonly<Record<string, string>>;
  readonly numerics: Numerics;
  readonly mesh: MeshSpec | { readonly cells: number; readonly spacingM: number; readonly dimension: 2 | 3 };
  readonly code: string;
  /** quantities watched besides the template's own */
  readonly monitors?: readonly KeyedMonitor[];
  /** result the run starts from in place of rest; its fields by the hash of their bytes */
  readonly startFrom?: StartPoint;
  /** how the flows through boundaries were counted in the files of a brought-in run */
  readonly fluxes?: { readonly signs: "outward" | "inward" | "by-name"; readonly factor: number };
  /** what a brought-in run was made with where it differs from what the case says of its code */
  readonly stated?: {
    readonly schemeOrder?: 1 | 2 | undefined;
    readonly dropOrders?: number | undefined;
    readonly timeStepS?: number | undefined;
    /** how far the domain reaches, m, where that is what a study varies */
    readonly domainM?: number | undefined;
    readonly note?: string | undefined;
  };
  /** log on the server the record is read from while it is being written, and what its columns are */
  readonly follow?: { readonly path: string; readonly roles: readonly string[]; readonly units: readonly (string | null)[] };
  /** file its fields were read from, and the plane they were cut with where it lies in space */
  readonly fieldsFrom?: { readonly file: string; readonly length: string; readonly cut?: FieldCut };
  /** files a brought-in run was made from, by the hash of their bytes */
  readonly files?: readonly { readonly name: string; readonly hash: string }[];
}

type Triple = readonly [number, number, number];

/** A plane in the file's unit of length: across an axis, or by a direction across it and a place in it. */
type FieldCut = { readonly across: "x" | "y" | "z"; readonly at: number } | { readonly normal: Triple; readonly through: Triple };

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

import { inDecades } from "@/core/drawing/decades";
import type { FieldColors } from "@/core/drawing/fieldRaster";
import { fieldRange } from "@/core/drawing/fieldRaster";
import { significant } from "@/core/formatting/number";
import { scaleText } from "@/core/formatting/scale";
import { select } from "@/core/numeric/select";
import type { StudiedField } from "../../../engine/fieldStudyAsks";

/** What one picture of a field study may show. */
export interface Shown {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  /** one a cell of the common mesh */
  readonly values: Float64Array;
  /** what is painted of them: of errors the logarithm */
  readonly painted: Float64Array;
  readonly range: readonly [number, number];
  readonly colors: FieldColors;
  /** a painted number in words: logarithms are told as what they are of */
  readonly text: (v: number) => string;
  readonly whole: (v: number) => string;
  /** what the colours do not say by themselves */
  readonly note?: string;
}

/** share of the cells that a scale of changes reaches */
const ALL_BUT = 0.995;
/** orders are painted up to this many times the formal one */
const ORDERS = 2;

/**
 * Everything that can be shown of a study: every mesh's field on one scale, neighbours' changes, local orders, error and band.
 * @param oneScale all changes are painted on the scale of the largest; else each on its own, which ends where one cell in two hundred is larger
 */
export function showsOf({ study, wish, name, unit }: StudiedField, oneScale: boolean): Shown[] {
  const { values, points, error } = study;
  const labels = wish.runs.map((r) => r.label);
  const ends = values.map(fieldRange);
  const range = [Math.min(...ends.map((e) => e[0])), Math.max(...ends.map((e) => e[1]))] as const;
  const differences = values.slice(1).map((coarse, k) => coarse.map((v, i) => v - values[k][i]));
  const reach = differences.map((d) => magnitudeAt(d, oneScale ? 1 : ALL_BUT));
  const plain = (r: readonly [number, number]) => scaleText(r);
  const fields = values.map((v, k): Shown => {
    return { key: `value-${k}`, name: `${name}, ${labels[k]}`, unit, values: v, painted: v, range, colors: "even", ...plain(range) };
  });
  const changes = differences.map((d, k): Shown => {
    const most = oneScale ? Math.max(...reach) : reach[k];
    const around = [-most, most] as const;
    return {
      key: `change-${k}`,
      name: `${labels[k + 1]} less ${labels[k]}`,
      unit,
      values: d,
      painted: d,
      range: around,
      colors: "signed",
      ...plain(around),
    };
  });
  const formal = [0, ORDERS * wish.formalOrder] as const;
  const orders: Shown[] = points
    ? [
        {
          key: "order",
          name: "local order",
          unit: "",
          values: points.order,
          painted: points.order,
          range: formal,
          colors: "signed",
          note: "Light where it is the formal order; white where there is none.",
          ...plain(formal),
        },
      ]
    : [];
  const bands = points ? [logarithmic("band", `uncertainty of ${labels[0]}, 95 %`, unit, points.band)] : [];
  return [
    ...fields,
    ...changes,
    ...orders,
    logarithmic("error", wish.difference ? "size of the difference" : `estimated error of ${labels[0]}`, unit, error),
    ...bands,
  ];
}

/** Magnitude that a share of the cells does not exceed. */
function magnitudeAt(values: Float64Array, share: number): number {
  const sizes = values.filter((v) => !Number.isNaN(v)).map(Math.abs);
  return sizes.length ? select(sizes, Math.min(sizes.length - 1, Math.floor(share * sizes.length))) || 1 : 1;
}

/** Errors reach over decades: painted by their logarithm, told as they are. */
function logarithmic(key: string, name: string, unit: string, of: Float64Array): Shown {
  const { painted, range } = inDecades(of);
  const text = (v: number) => significant(10 ** v, 2);
  const note = `In decades; darkest from ${text(range[0])} down.`;
  return { key, name, unit, values: of, painted, range, colors: "even", text, whole: text, note };
}

/** What the four pictures show at first. */
export const firstShown = (shows: readonly Shown[]): string[] => {
  const wanted = ["value-0", "change-0", "order", "error", "value-1"];

  return wanted.filter((key) => shows.some((s) => s.key === key)).slice(0, 4);
};

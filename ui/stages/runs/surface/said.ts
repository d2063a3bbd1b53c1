import type { Division, PatchRecipe, Piece, Split } from "@/core/dataset/patches";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import type { ForceLink, SurfaceRecord, SurfaceRole } from "@/core/records/surfaces";
import type { Input } from "../../../api/call";
import { typedNumber } from "../../../forms/typedNumber";
import { arrayKey, type SaidArray } from "../../../tables/arrayColumns";

export type SurfaceInput = Input<"POST /runs/{id}/surface">;

/** Three numbers as they are typed. */
export type Typed3 = readonly [string, string, string];

export interface TypedLink {
  readonly quantityKey: string;
  /** not held against anything where it is "" */
  readonly of: "" | "force" | "moment";
  /** "" for the whole surface, pieces without a name included; "*" for all that have a name */
  readonly patches: string;
  readonly direction: Typed3;
  readonly factor: string;
  readonly density: string;
  readonly speed: string;
  readonly area: string;
  readonly length: string;
}

/** What stands in the form. */
export interface TypedSurface {
  readonly length: string;
  readonly roles: Readonly<Record<string, SaidArray<SurfaceRole>>>;
  readonly division: Division;
  /** name of each piece, by its number */
  readonly names: readonly string[];
  readonly splits: readonly Split[];
  readonly normals: SurfaceInput["normals"];
  readonly shearOn: SurfaceInput["shearOn"];
  readonly reference: string;
  readonly about: Typed3;
  readonly links: readonly TypedLink[];
}

interface Quantity {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
}

/** Quantities a surface can give: forces, moments, and coefficients of them. */
export const linkable = (quantities: readonly Quantity[]): Quantity[] => quantities.filter((q) => ["N", "N m", "1", ""].includes(q.unit));

const text = (v: number): string => String(Number(v.toPrecision(12)));
const typed3 = (v: readonly number[]): Typed3 => [text(v[0]), text(v[1]), text(v[2])];

/** What stands in the form at first: what was said before, as far as it goes with the file; else what the file itself tells. */
export function firstTyped(
  look: SurfaceLook,
  quantities: readonly Quantity[],
  conditions: Readonly<Record<string, number>>,
  before: SurfaceRecord | null,
): TypedSurface {
  const said = before?.said;
  const roles = Object.fromEntries(
    look.arrays.map((a) => {
      const known = said?.arrays.find((w) => w.name === a.name && w.on === a.on);
      return [
        arrayKey(a),
        known ? { role: known.role, unit: known.unit } : said ? { role: "ignore" as const, unit: a.unit } : { role: a.role, unit: a.unit },
      ];
    }),
  );
  const made = {
    density: conditions.densityKgM3 === undefined ? "" : `${text(conditions.densityKgM3)} kg/m^3`,
    speed: conditions.velocityMS === undefined ? "" : `${text(conditions.velocityMS)} m/s`,
    area: "",
    length: conditions.lengthM === undefined ? "" : `${text(conditions.lengthM)} m`,
  };
  return {
    length: said?.length ?? "m",
    roles,
    division: look.division,
    names: said ? look.names : look.pieces.map((p) => p.called ?? ""),
    splits: said?.recipe.splits ?? [],
    normals: said?.normals ?? look.normals,
    shearOn: said?.shearOn ?? "wall",
    reference: `${text(said?.referencePa ?? 0)} Pa`,
    about: typed3(said?.aboutM ?? [0, 0, 0]),
    links: linkable(quantities).map((q) =>
      typedLink(
        q,
        made,
        said?.links.find((l) => l.quantityKey === q.key),
      ),
    ),
  };
}

function typedLink(q: Quantity, made: Pick<TypedLink, "density" | "speed" | "area" | "length">, known: ForceLink | undefined): TypedLink {
  const c = known?.coefficient;
  return {
    quantityKey: q.key,
    of: known?.of ?? "",
    patches: known?.patches.join(", ") ?? "",
    direction: typed3(known?.direction ?? (q.unit === "N m" ? [0, 0, 1] : [1, 0, 0])),
    factor: text(known?.factor ?? 1),
    ...(c
      ? { density: `${text(c.densityKgM3)} kg/m^3`, speed: `${text(c.speedMS)} m/s`, area: `${text(c.areaM2)} m^2`, length: `${text(c.lengthM)} m` }
      : made),
  };
}

/** The recipe that stands in the form. */
export const recipeOf = ({ division, names, splits }: TypedSurface, pieces: readonly Piece[]): PatchRecipe => ({
  division,
  names: pieces.flatMap((p, k) => (names[k]?.trim() ? [{ at: p.at, name: names[k].trim() }] : [])),
  splits,
});

/** Names patches have after all of it, in order. */
export const patchNames = (recipe: PatchRecipe): string[] => [...new Set([...recipe.names.map((n) => n.name), ...recipe.splits.map((s) => s.name)])];

/** A number as it is typed. @throws {Error} it is none */
function numberOf(typed: string, what: string): number {
  const v = typedNumber(typed);
  if (!Number.isFinite(v)) throw new Error(`${what}: "${typed}" is not a number.`);
  return v;
}

export const vectorOf = (typed: Typed3, what: string): [number, number, number] =>
  typed.map((v, d) => numberOf(v, `${what}, ${"xyz"[d]}`)) as [number, number, number];

/** What is sent. @throws {Error} an entry that is no number, with its name */
export function inputOf(
  t: TypedSurface,
  look: SurfaceLook,
  quantities: readonly Quantity[],
  file: { readonly hash: string; readonly name: string },
): SurfaceInput {
  const recipe = recipeOf(t, look.pieces);
  const named = patchNames(recipe);
  return {
    ...file,
    length: t.length,
    arrays: look.arrays.map((a) => ({ name: a.name, on: a.on, ...t.roles[arrayKey(a)] })).filter((a) => a.role !== "ignore"),
    division: recipe.division as SurfaceInput["division"],
    names: recipe.names.map((n) => ({ at: [...n.at] as [number, number, number], name: n.name })),
    splits: recipe.splits as SurfaceInput["splits"],
    normals: t.normals,
    shearOn: t.shearOn,
    reference: t.reference,
    aboutM: vectorOf(t.about, "Moments about"),
    links: t.links.flatMap((l): SurfaceInput["links"][number][] => {
      if (l.of === "") return [];
      const q = quantities.find((x) => x.key === l.quantityKey);
      const pure = q?.unit === "1" || q?.unit === "";
      const what = q?.name ?? l.quantityKey;
      return [
        {
          quantityKey: l.quantityKey,
          of: l.of,
          patches: patchesOf(l.patches, named),
          direction: vectorOf(l.direction, `Direction of ${what}`),
          factor: numberOf(l.factor, `Factor of ${what}`),
          ...(pure ? { coefficient: { density: l.density, speed: l.speed, area: l.area, ...(l.of === "moment" ? { length: l.length } : {}) } } : {}),
        },
      ];
    }),
  };
}

/** Names as they are typed, one after the other with commas; "*" stands for all that there are. */
export const patchesOf = (typed: string, named: readonly string[]): string[] =>
  typed.trim() === "*"
    ? [...named]
    : typed
        .split(",")
        .map((n) => n.trim())
        .filter(Boolean);

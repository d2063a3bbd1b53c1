import { Field } from "../../../forms/Field";
import { type Column, DataTable } from "../../../tables/DataTable";
import type { TypedLink, TypedSurface } from "./said";
import { Typed3Field } from "./Typed3Field";

interface Quantity {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
}

interface Props {
  readonly quantities: readonly Quantity[];
  readonly typed: TypedSurface;
  readonly named: readonly string[];
  readonly set: (links: readonly TypedLink[]) => void;
}

/** Which of the case's quantities are forces or moments on this surface: what was reported is held against what it gives. */
export function Links({ quantities, typed, named, set }: Props) {
  if (!quantities.length)
    return <p className="mt-2 text-[12.5px] text-ink-2">The case has no quantity in N, N m or a coefficient to hold the surface against.</p>;
  const rows = typed.links.flatMap((l) => {
    const q = quantities.find((x) => x.key === l.quantityKey);
    return q ? [{ ...l, q }] : [];
  });
  const change = (key: string, to: Partial<TypedLink>) => set(typed.links.map((l) => (l.quantityKey === key ? { ...l, ...to } : l)));
  return (
    <>
      <h3 className="mt-3">Held against what was reported</h3>
      <DataTable
        rows={rows}
        rowKey={(r) => r.quantityKey}
        columns={columnsOf(change, named)}
        detail={(r) => (isPure(r.q) && r.of ? <MadeWith row={r} change={change} /> : null)}
      />
      <p className="mt-1 text-[11.5px] text-ink-3">
        Patches by their names with commas between; * for all that have one, nothing for the whole surface. The factor is for a half or periodic
        model: times the modelled part stands in what was reported.
      </p>
    </>
  );
}

type Row = TypedLink & { readonly q: Quantity };
type Change = (key: string, to: Partial<TypedLink>) => void;

const isPure = ({ unit }: Quantity) => unit === "1" || unit === "";

const kindsOf = (q: Quantity): readonly (readonly [TypedLink["of"], string])[] => [
  ["", "not on this surface"],
  ...(q.unit === "N m" ? [] : [["force", isPure(q) ? "coefficient of force" : "force"] as const]),
  ...(q.unit === "N" ? [] : [["moment", isPure(q) ? "coefficient of moment" : "moment"] as const]),
];

const columnsOf = (change: Change, named: readonly string[]): Column<Row>[] => [
  { header: "Quantity", words: true, headClassName: "text-left", cell: (r) => `${r.q.name}${isPure(r.q) ? "" : `, ${r.q.unit}`}` },
  {
    header: "It is",
    words: true,
    headClassName: "text-left w-48",
    cell: (r) => (
      <Field unseenLabel label={`What ${r.q.name} is`} value={r.of} onChange={(of) => change(r.quantityKey, { of })} choices={kindsOf(r.q)} />
    ),
  },
  {
    header: "On the patches",
    words: true,
    headClassName: "text-left w-52",
    cell: (r) =>
      r.of ? (
        <Field
          unseenLabel
          words
          label={`Patches of ${r.q.name}`}
          value={r.patches}
          placeholder={named.length ? named.join(", ") : "the whole surface"}
          onChange={(patches) => change(r.quantityKey, { patches })}
        />
      ) : null,
  },
  {
    header: "Along",
    words: true,
    headClassName: "text-left w-56",
    cell: (r) =>
      r.of ? (
        <Typed3Field unseenLabel label={`Direction of ${r.q.name}`} value={r.direction} set={(direction) => change(r.quantityKey, { direction })} />
      ) : null,
  },
  {
    header: "Factor",
    words: true,
    headClassName: "text-left w-20",
    cell: (r) =>
      r.of ? <Field unseenLabel label={`Factor of ${r.q.name}`} value={r.factor} onChange={(factor) => change(r.quantityKey, { factor })} /> : null,
  },
];

/** What a coefficient was made with. */
function MadeWith({ row, change }: { readonly row: Row; readonly change: Change }) {
  const entry = (key: "density" | "speed" | "area" | "length", label: string) => (
    <div className="w-36">
      <Field label={label} value={row[key]} onChange={(v) => change(row.quantityKey, { [key]: v })} />
    </div>
  );
  return (
    <div className="flex items-end gap-3 pb-2">
      <span className="text-[12px] text-ink-2">Made with</span>
      {entry("density", "Density")}
      {entry("speed", "Speed")}
      {entry("area", "Area")}
      {row.of === "moment" ? entry("length", "Length") : null}
    </div>
  );
}

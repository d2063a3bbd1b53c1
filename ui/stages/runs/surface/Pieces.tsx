import type { Division, Piece } from "@/core/dataset/patches";
import { patchColor } from "@/core/drawing/surfaceDrawing";
import { resolve } from "@/core/formatting/scale";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import { Field } from "../../../forms/Field";
import { placeText } from "../../../space/placeText";
import { type Column, DataTable } from "../../../tables/DataTable";
import type { TypedSurface } from "./said";

interface Props {
  readonly look: SurfaceLook;
  readonly typed: TypedSurface;
  readonly set: (change: Partial<TypedSurface>) => void;
  readonly divide: (division: Division) => void;
}

const keyOf = (d: Division): string => (d.by === "array" ? `array ${d.array}` : d.by);
const wordsOf = (d: Division): string =>
  d.by === "parts" ? "the file's own parts" : d.by === "array" ? `the array ${d.array}` : "edges sharper than an angle";

/** How the surface is divided, and a name for each piece; two of one name are one patch. */
export function Pieces({ look, typed, set, divide }: Props) {
  const { division } = typed;
  const name = (k: number, v: string) => set({ names: look.pieces.map((_, i) => (i === k ? v : (typed.names[i] ?? ""))) });
  return (
    <div className="min-w-0">
      <div className="flex items-end gap-3">
        <div className="w-60">
          <Field
            label="Divided by"
            words
            value={keyOf(division)}
            choices={look.divisions.map((d) => [keyOf(d), wordsOf(d)] as const)}
            onChange={(key) => divide(look.divisions.find((d) => keyOf(d) === key) ?? division)}
          />
        </div>
        {division.by === "angle" ? (
          <div className="w-24">
            <Field
              label="Angle, degrees"
              value={String(division.degrees)}
              onChange={(v) => {
                const degrees = Number(v);
                if (v.trim() !== "" && degrees >= 0 && degrees <= 180) divide({ by: "angle", degrees });
              }}
            />
          </div>
        ) : null}
      </div>
      <div className="mt-1 max-h-[300px] overflow-auto">
        <DataTable
          rows={look.pieces.map((p, k) => ({ ...p, k }))}
          rowKey={(p) => String(p.k)}
          columns={columnsOf(typed.names, name, resolve(look.pieces.map((p) => p.area)), typed.length)}
        />
      </div>
      <p className="mt-1 text-[11.5px] text-ink-3">
        Pressing a piece in the picture goes to its name. Names are kept by places on the pieces, so that they fit the next file of the family too.
      </p>
    </div>
  );
}

type Row = Piece & { readonly k: number };

const columnsOf = (names: readonly string[], name: (k: number, v: string) => void, area: (v: number) => string, unit: string): Column<Row>[] => [
  {
    header: "Piece",
    words: true,
    headClassName: "text-left",
    cell: (p) => (
      <span className="flex items-center gap-1.5">
        <svg width="10" height="10" aria-hidden="true">
          <rect width="10" height="10" fill={`rgb(${patchColor(p.k).join(",")})`} />
        </svg>
        {p.k + 1}
        {p.called ? <span className="text-ink-3">{p.called}</span> : null}
      </span>
    ),
  },
  { header: "Faces", cell: (p) => p.faces },
  { header: `Area, ${unit}²`, cell: (p) => area(p.area) },
  { header: `At, ${unit}`, cell: (p) => placeText(p.at) },
  {
    header: "Name",
    words: true,
    headClassName: "text-left w-36",
    cell: (p) => (
      <input
        id={`piece-name-${p.k}`}
        className="field words"
        aria-label={`Name of piece ${p.k + 1}`}
        value={names[p.k] ?? ""}
        onChange={(e) => name(p.k, e.target.value)}
      />
    ),
  },
];

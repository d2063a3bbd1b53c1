import { count, significant } from "@/core/formatting/number";
import type { MeshQuality } from "@/core/mesh/quality";
import { type Column, DataTable } from "../../tables/DataTable";
import type { Member } from "./familyPlan";

type Measured = MeshQuality | undefined;

interface PlannedTableProps {
  readonly members: readonly Member[];
  readonly quality: readonly Measured[] | undefined;
  readonly measuring: boolean;
  readonly shown: number;
  readonly show: (member: number) => void;
}

/** The meshes a family would have, with what is known of them before they are run. */
export function PlannedTable({ members, quality, measuring, shown, show }: PlannedTableProps) {
  const finest = quality?.[members.length - 1]?.spacingM;
  const figure = (header: string, of: (q: NonNullable<Measured>) => number, digits: number): Column<Member> => ({
    header,
    cell: (_, i) => {
      const q = quality?.[i];
      return q ? significant(of(q), digits) : "–";
    },
  });
  const columns: Column<Member>[] = [
    {
      header: "Mesh",
      cell: (m, i) => (
        <button type="button" className="link font-mono" aria-pressed={i === shown} onClick={() => show(i)}>
          {m.nx} × {m.ny}
        </button>
      ),
    },
    { header: "Cells", cell: (m) => count(m.cells) },
    {
      header: "h, m",
      cell: (_, i) => {
        const q = quality?.[i];
        return q ? significant(q.spacingM, 3) : measuring ? "…" : "when run";
      },
    },
    { header: "h / h₁", cell: (_, i) => (finest && quality?.[i] ? significant(quality[i].spacingM / finest, 4) : "–") },
    figure("Aspect ratio", (q) => q.aspectRatio, 3),
    figure("Neighbours", (q) => q.neighbourVolumeRatio, 4),
    figure("Skew, °", (q) => q.nonOrthogonalityDeg, 2),
    figure("Least edge, m", (q) => q.smallestEdgeM, 3),
    { header: "Memory", cell: (m) => `${significant(m.memoryBytes / 1e6, 2)} MB` },
  ];
  return (
    <DataTable
      className="mt-1 [&_td]:whitespace-nowrap"
      rows={members}
      rowKey={(m) => `${m.nx}-${m.ny}`}
      rowClass={(m) => (members[shown] === m ? "bg-margin" : "")}
      columns={columns}
    />
  );
}

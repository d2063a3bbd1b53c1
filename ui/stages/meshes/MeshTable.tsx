import { count, significant } from "@/core/formatting/number";
import { type Column, DataTable } from "../../tables/DataTable";
import type { MeshesView, MeshView } from "../../view";

const COLUMNS: readonly Column<MeshView>[] = [
  { header: "Mesh", cell: (m) => m.label },
  { header: "Cells", cell: (m) => count(m.cells) },
  { header: "h, m", cell: (m) => significant(m.spacing, 3) },
  { header: "Aspect ratio", cell: (m) => (m.quality ? significant(m.quality.aspectRatio, 3) : "–") },
  { header: "Neighbour size", cell: (m) => (m.quality ? significant(m.quality.neighbourVolumeRatio, 4) : "–") },
];

/** The meshes results were made on. */
export function MeshTable({ view }: { view: MeshesView }) {
  if (!view.meshes.length) return <p className="mt-1 text-[12.5px] text-ink-2">None yet.</p>;
  return <DataTable rows={view.meshes} rowKey={(m) => m.id} columns={COLUMNS} />;
}

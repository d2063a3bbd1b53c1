import { fieldSentences } from "../../core/assessment/refinement/fieldWords.ts";
import type { WrittenChapter } from "../../core/assessment/registry.ts";
import { type Cell, table } from "../../core/assessment/stages/table.ts";
import { cellsUnderPixels, paintCells, wholeMesh } from "../../core/drawing/cellRaster.ts";
import { inDecades } from "../../core/drawing/decades.ts";
import { encodePng } from "../../core/formats/png.ts";
import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { significant } from "../../core/formatting/number.ts";
import { bounds } from "../../core/mesh/bounds.ts";
import type { FaceMesh } from "../../core/mesh/faceMesh.ts";
import { type FieldRung, fieldStudy } from "../../core/study/fieldStudy.ts";
import { type FieldSource, readFields } from "../desk/fields.ts";

/** A mesh of the family that left its fields. */
export interface StudiedMesh {
  readonly label: string;
  /** m */
  readonly spacing: number;
  readonly source: FieldSource;
}

type Picture = ReportDocument["pictures"][number];

const WIDTH = 480;

/**
 * The first field of the finest meshes brought to the coarsest of them: how it converges and where the error sits.
 * @param meshes finest first
 * @returns undefined where fewer than two meshes left fields
 */
export async function fieldChapter(
  blobs: string,
  meshes: readonly StudiedMesh[],
  { formalOrder, inTime }: { readonly formalOrder: number; readonly inTime: boolean },
): Promise<{ chapter: WrittenChapter; picture: Picture } | undefined> {
  if (meshes.length < 2) return undefined;
  const rungs: (FieldRung & { readonly name: string; readonly unit: string })[] = [];
  for (const { label, spacing, source } of meshes) {
    const { mesh, fields } = await readFields(blobs, source);
    rungs.push({ label, spacing, mesh, ...fields[0] });
  }
  const onto = rungs.length - 1;
  const study = fieldStudy({ rungs, onto, way: "averages", formalOrder });
  const { name, unit, mesh, label } = rungs[onto];
  const rows = study.norms.map((n, k): Cell[] => [`${rungs[k + 1].label} less ${rungs[k].label}`, n.l1, n.l2, n.largest]);
  const { painted, range } = inDecades(study.error);
  const [least, largest] = range.map((v) => significant(10 ** v, 2));
  return {
    chapter: {
      key: "fields",
      title: `The ${name} on one mesh`,
      sentences: fieldSentences(study, { unit, formalOrder, mesh: label, inTime }),
      tables: table(
        "fieldChanges",
        `Change of the ${name} from mesh to mesh`,
        ["change", ["mean", unit], ["root mean square", unit], ["largest", unit]],
        rows,
      ),
    },
    picture: {
      key: "field-error",
      stage: "fields",
      title: `Estimated error of the ${name} on ${rungs[0].label}, ${least} to ${largest} ${unit} in decades`,
      pngBase64: cellPicture(mesh, painted, range),
    },
  };
}

/** Cell values as they are, as a PNG in base64. */
export function cellPicture(mesh: FaceMesh, values: Float64Array, range: readonly [number, number]): string {
  const { low, high } = bounds(mesh.pointsM);
  const height = Math.max(40, Math.min(WIDTH, Math.round((WIDTH * (high[1] - low[1])) / (high[0] - low[0]))));
  const painted = paintCells(cellsUnderPixels(mesh, wholeMesh(mesh, WIDTH, height)), values, range);
  const rgb = new Uint8Array(3 * WIDTH * height);
  for (let i = 0; i < WIDTH * height; i++) rgb.set(painted.subarray(4 * i, 4 * i + 3), 3 * i);
  return Buffer.from(encodePng(WIDTH, height, rgb)).toString("base64");
}

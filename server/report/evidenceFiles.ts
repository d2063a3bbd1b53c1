import { writeCsv } from "../../core/formats/csv.ts";
import { fieldFile } from "../desk/fields.ts";
import { readWorked } from "../desk/records.ts";
import { recordText } from "../desk/recordText.ts";
import type { ArchiveFile } from "./archive.ts";
import type { ReportMaterial } from "./document.ts";

/** fields of more cells than this stay with the run: an archive is to be sent about */
const MOST_CELLS = 300_000;

/** Records and profiles of every run the case rests on, and the fields of the finest, in open formats. */
export async function evidenceFiles({ book, blobs, records, fields }: ReportMaterial): Promise<ArchiveFile[]> {
  const out: ArchiveFile[] = [];
  for (const id of book.assessment.ladder) {
    const run = book.runs.find((r) => r.id === id);
    if (!run) continue;
    const history = records[id] && (await readWorked(records[id]));
    if (history?.iteration.length) out.push({ path: `records/${run.label}.csv`, text: recordText(history, book.evidence.quantities) });
    for (const p of run.result?.profiles ?? [])
      out.push({
        path: `profiles/${run.label} ${p.key}.csv`,
        text: writeCsv(
          [`${p.abscissa.name} (${p.abscissa.unit})`, `${p.value.name} (${p.value.unit})`],
          p.abscissa.values.map((x, i) => [x, p.value.values[i]]),
        ),
      });
  }
  const finest = book.runs.find((r) => r.id === book.assessment.ladder[0]);
  if (finest && fields && fields.rows[0].count <= MOST_CELLS)
    out.push({ path: `fields/${finest.label}.vtu`, text: (await fieldFile({ blobs, source: fields, kind: "vtu" })).bytes });
  return out;
}

import { writeCsv } from "../../core/formats/csv.ts";
import type { Store } from "../db/store.ts";
import { listFields } from "../repositories/runs.ts";
import { type CaseBook, loadWorkedHistory } from "../usecases/evidence.ts";
import { fieldsVtk } from "../usecases/fields.ts";
import { recordCsv } from "../usecases/records.ts";
import type { ArchiveFile } from "./archive.ts";

/** fields of more cells than this stay with the run: an archive is to be sent about */
const MOST_CELLS = 300_000;

/** Records and profiles of every run the case rests on, and the fields of the finest, in open formats. */
export async function evidenceFiles(opened: Store, book: CaseBook): Promise<ArchiveFile[]> {
  const out: ArchiveFile[] = [];
  for (const id of book.assessment.ladder) {
    const run = book.runs.find((r) => r.id === id);
    if (!run) continue;
    const history = await loadWorkedHistory(opened, id);
    if (history?.iteration.length) out.push({ path: `records/${run.label}.csv`, text: recordCsv(history, book.evidence.quantities) });
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
  const fields = finest ? await listFields(opened.db, finest.id) : [];
  if (finest && fields.length && fields[0].count <= MOST_CELLS)
    out.push({ path: `fields/${finest.label}.vtu`, text: await fieldsVtk(opened, finest.id) });
  return out;
}

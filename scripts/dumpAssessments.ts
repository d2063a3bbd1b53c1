/**
 * Writes every assessment of a data folder, worked out anew, with all digits: two versions of the code say the same where their dumps are equal.
 * npm run dump-assessments -- <data folder> > before.json
 */

import { assessmentCache } from "../server/db/schema.ts";
import { openStore } from "../server/db/store.ts";
import { canonical } from "../server/hash.ts";
import { listCases } from "../server/repositories/cases.ts";
import { openCases } from "../server/usecases/evidence.ts";

const [folder] = process.argv.slice(2);
if (!folder) throw new Error("Which data folder? npm run dump-assessments -- <data folder>");
const store = await openStore(folder);
try {
  await store.db.delete(assessmentCache);
  const cases = await listCases(store.db);
  const books = await openCases(
    store,
    cases.map((c) => c.id),
  );
  for (const b of books) console.log(`${b.row.title}\t${canonical(b.assessment)}`);
} finally {
  await store.close();
}

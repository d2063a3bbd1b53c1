import type { FaceMesh } from "@/core/mesh/faceMesh";
import { derivedFields } from "@/core/monitors/derived";
import { unpackMesh } from "@/core/solver/meshFile";
import type { CellField } from "@/core/solver/simulation";
import { fieldDifference } from "@/core/study/fieldDifference";
import { type FieldRung, fieldStudy } from "@/core/study/fieldStudy";
import type { StudiedRun, StudyTold, StudyWish } from "./fieldStudyAsks";

interface Loaded {
  readonly mesh: FaceMesh;
  readonly fields: readonly CellField[];
}

/** What was fetched stays for the next question. */
const loaded = new Map<string, Promise<Loaded>>();
const tell = (t: StudyTold) => self.postMessage(t);

async function bytesOf(path: string, what: string): Promise<ArrayBuffer> {
  const answer = await fetch(path);
  if (answer.ok) return answer.arrayBuffer();
  const said = (await answer.json().catch(() => ({}))) as { error?: string };
  throw new Error(`${what} cannot be read${said.error ? `: ${said.error}` : "."}`);
}

async function load({ runId, label }: StudiedRun): Promise<Loaded> {
  const at = `/api/runs/${runId}`;
  const list = JSON.parse(new TextDecoder().decode(await bytesOf(`${at}/fields`, `The list of fields of ${label}`))) as {
    name: string;
    unit: string;
  }[];
  const mesh = unpackMesh(new Uint8Array(await bytesOf(`${at}/mesh`, `The mesh of ${label}`)));
  const fields = await Promise.all(
    list.map(async ({ name, unit }) => ({
      name,
      unit,
      values: new Float64Array(await bytesOf(`${at}/fields/${encodeURIComponent(name)}`, `The field ${name} of ${label}`)),
    })),
  );
  return { mesh, fields };
}

async function study(wish: StudyWish): Promise<void> {
  const rungs: (FieldRung & { readonly name: string; readonly unit: string })[] = [];
  for (const [k, run] of wish.runs.entries()) {
    tell({ kind: "share", share: (0.3 * k) / wish.runs.length, what: `Reading ${run.label}` });
    const known = loaded.get(run.runId) ?? load(run);
    loaded.set(run.runId, known);
    known.catch(() => loaded.delete(run.runId));
    const { mesh, fields } = await known;
    const field = derivedFields(mesh, fields, wish.fluid).find((f) => f.key === wish.field);
    if (!field) throw new Error(`${run.label} has no field ${wish.field}.`);
    rungs.push({ label: run.label, spacing: run.spacing, mesh, values: field.values, name: field.name, unit: field.unit });
  }
  const what = "Bringing the fields to one mesh";
  const share = (s: number) => tell({ kind: "share", share: 0.3 + 0.7 * s, what });
  const { onto, way, formalOrder } = wish;
  const found = wish.difference
    ? fieldDifference({ pair: [rungs[0], rungs[1]], onto: onto === 0 ? 0 : 1, way }, share)
    : fieldStudy({ rungs, onto, way, formalOrder }, share);
  const { mesh, name, unit } = rungs[wish.onto];
  tell({ kind: "done", studied: { wish, study: found, mesh, name, unit } });
}

self.onmessage = ({ data }: MessageEvent<StudyWish>) => {
  study(data).catch((error: unknown) => tell({ kind: "mistake", sentence: error instanceof Error ? error.message : String(error) }));
};

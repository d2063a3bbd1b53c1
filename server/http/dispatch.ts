import { z } from "zod";
import { recordSchema } from "../../core/formats/recordJson.ts";
import { reportSchema } from "../../core/formats/reportDocument.ts";
import { thinned, writeHistory } from "../../core/records/history.ts";
import { BlobError } from "../blobs/blobStore.ts";
import { type Store, store } from "../db/store.ts";
import { bench } from "../jobs/bench.ts";
import { NODE_ROUTES } from "../jobs/nodeRoutes.ts";
import { listQuantities, markYardstick } from "../repositories/cases.ts";
import { listRecipes, markRecipe } from "../repositories/recipes.ts";
import { findRun } from "../repositories/runs.ts";
import { AddInput, addToRun, BringInInput, bringIn, bringInFamily, FamilyInInput, PreviewInput, previewFiles } from "../usecases/bringIn.ts";
import {
  AnswerInput,
  answerRemark,
  CopyCaseInput,
  compareSetups,
  copyCase,
  createCase,
  createYardstick,
  deleteCase,
  NewCaseInput,
  otherCases,
  QuestionInput,
  restoreCase,
  saveQuestion,
  withdrawAnswer,
  YardstickInput,
} from "../usecases/cases.ts";
import { loadWorkedHistory, openCase } from "../usecases/evidence.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { fieldList, fieldsCsv, fieldsVtk, rawField, rawMesh } from "../usecases/fields.ts";
import { createFinding, deleteFinding, FindingInput, restoreFinding, saveFinding } from "../usecases/findings.ts";
import { FollowInput, followLog } from "../usecases/following.ts";
import {
  chooseKind,
  createDerived,
  createMonitor,
  createQuantity,
  DerivedInput,
  KindInput,
  monitorChoices,
  NewMonitorInput,
  QuantityInput,
  removeQuantity,
} from "../usecases/quantities.ts";
import {
  beginReading,
  CheckInput,
  checkMapping,
  columnPicture,
  discardReading,
  listLogs,
  ReadingInput,
  readingState,
  takeUpload,
} from "../usecases/readings.ts";
import { chooseTake, JudgingInput, judgeRun, recordCsv, recordPictures, TakeInput } from "../usecases/records.ts";
import { IssueInput, issueReport, readReport } from "../usecases/reports.ts";
import {
  CopyInput,
  CoresInput,
  copyRun,
  deleteRun,
  deleteSweep,
  FamilyInput,
  FieldInput,
  PriorityInput,
  restoreRun,
  runAgain,
  runFamilyAgain,
  SweepInput,
  setCores,
  setPriority,
  startChoices,
  startFamily,
  startSweep,
  stopRun,
} from "../usecases/runs.ts";
import { PrecisionInput, SettlementInput, settleSource, statePrecision, withdrawSettlement } from "../usecases/sources.ts";
import { hostAllowed, originAllowed } from "./guard.ts";
import { benchSecret, secretMatches } from "./secret.ts";

interface Call {
  readonly opened: Store;
  /** values of the named parts of the path */
  readonly at: Readonly<Record<string, string>>;
  readonly body: unknown;
  readonly url: URL;
}

type Handler = (call: Call) => Promise<unknown>;
const MOST_BODY = 40 * 1024 * 1024;
/** a node tells of checkpoints, which hold the memory of the acceleration */
const MOST_FROM_NODE = 500 * 1024 * 1024;

/** A file to be saved or shown. */
function file(bytes: Uint8Array | string, type: string, name?: string): Response {
  const headers: Record<string, string> = { "content-type": type, "cache-control": "no-store" };
  if (name) headers["content-disposition"] = `attachment; filename="${name.replace(/[^\w.-]+/g, "-")}"`;
  return new Response(bytes as BodyInit, { headers });
}

/** One entry an operation: method and path, then what it does. */
const ROUTES: Readonly<Record<string, Handler>> = {
  "POST cases": ({ opened, body }) => createCase(opened, NewCaseInput.parse(body)).then(({ id }) => ({ id })),
  "POST cases/:id/copy": ({ opened, at, body }) => copyCase(opened, at.id, CopyCaseInput.parse(body)).then(({ id }) => ({ id })),
  "POST cases/:id/family/again": ({ opened, at }) => runFamilyAgain(opened, at.id).then((runs) => runs.map((r) => r.id)),
  "PUT cases/:id": ({ opened, at, body }) => saveQuestion(opened, at.id, QuestionInput.parse(body)),
  "DELETE cases/:id": ({ opened, at }) => deleteCase(opened, at.id),
  "POST cases/:id/restore": ({ opened, at }) => restoreCase(opened, at.id),
  "GET cases/:id/assessment": ({ opened, at }) => openCase(opened, at.id).then((b) => b.assessment),
  "POST cases/:id/family": ({ opened, at, body }) => startFamily(opened, at.id, FamilyInput.parse(body)).then((runs) => runs.map((r) => r.id)),
  "POST cases/:id/preview": ({ opened, at, body }) => previewFiles(opened, at.id, PreviewInput.parse(body)),
  "POST cases/:id/bring-in": ({ opened, at, body }) => bringIn(opened, at.id, BringInInput.parse(body)).then(({ id }) => ({ id })),
  "POST cases/:id/bring-in-family": ({ opened, at, body }) =>
    bringInFamily(opened, at.id, FamilyInInput.parse(body)).then((runs) => runs.map((r) => r.id)),
  "POST runs/:id/add": ({ opened, at, body }) => addToRun(opened, at.id, AddInput.parse(body)),
  "POST cases/:id/readings": ({ opened, body }) => beginReading(opened, ReadingInput.parse(body)),
  "GET cases/:id/readings/:reading": ({ opened, at }) => readingState(opened, at.id, at.reading),
  "POST cases/:id/readings/:reading/check": ({ opened, at, body }) => checkMapping(opened, at.id, at.reading, CheckInput.parse(body)),
  "GET cases/:id/readings/:reading/columns/:index": async ({ at }) => columnPicture(at.reading, Number(at.index)),
  "DELETE cases/:id/readings/:reading": ({ opened, at }) => discardReading(opened, at.reading),
  "GET logs": ({ opened }) => listLogs(opened),
  "POST cases/:id/follow": ({ opened, at, body }) => followLog(opened, at.id, FollowInput.parse(body)).then(({ id }) => ({ id })),
  "GET recipes": ({ opened }) => listRecipes(opened.db),
  "DELETE recipes/:id": ({ opened, at }) => markRecipe(opened.db, at.id, new Date()),
  "POST recipes/:id/restore": ({ opened, at }) => markRecipe(opened.db, at.id, null),
  "POST cases/:id/yardsticks": ({ opened, at, body }) => createYardstick(opened, at.id, YardstickInput.parse(body)),
  "DELETE yardsticks/:id": ({ opened, at }) => markYardstick(opened.db, at.id, new Date()),
  "POST yardsticks/:id/restore": ({ opened, at }) => markYardstick(opened.db, at.id, null),
  "POST cases/:id/quantities": ({ opened, at, body }) => createQuantity(opened, at.id, QuantityInput.parse(body)),
  "DELETE cases/:id/quantities/:key": ({ opened, at }) => removeQuantity(opened, at.id, at.key, new Date()),
  "POST cases/:id/quantities/:key/restore": ({ opened, at }) => removeQuantity(opened, at.id, at.key, null),
  "PUT cases/:id/quantities/:key/take": ({ opened, at, body }) => chooseTake(opened, at.id, at.key, TakeInput.parse(body).take),
  "PUT cases/:id/quantities/:key/kind": ({ opened, at, body }) => chooseKind(opened, at.id, at.key, KindInput.parse(body).kind),
  "GET cases/:id/monitors": ({ opened, at }) => monitorChoices(opened, at.id),
  "POST cases/:id/monitors": ({ opened, at, body }) => createMonitor(opened, at.id, NewMonitorInput.parse(body)),
  "POST cases/:id/derived": ({ opened, at, body }) => createDerived(opened, at.id, DerivedInput.parse(body)),
  "GET cases/:id/others": ({ opened, at }) => otherCases(opened, at.id),
  "GET cases/:id/compare/:other": ({ opened, at }) => compareSetups(opened, at.id, at.other),
  "POST cases/:id/answers": ({ opened, at, body }) => answerRemark(opened, at.id, AnswerInput.parse(body)),
  "DELETE cases/:id/answers/:rule": ({ opened, at }) => withdrawAnswer(opened, at.id, at.rule),
  "POST cases/:id/settlements": ({ opened, at, body }) => settleSource(opened, at.id, SettlementInput.parse(body)),
  "DELETE cases/:id/settlements/:source/:quantity": ({ opened, at }) => withdrawSettlement(opened, at.id, at.source, at.quantity),
  "PUT settings/precision": ({ opened, body }) => statePrecision(opened, PrecisionInput.parse(body)),
  "POST cases/:id/findings": ({ opened, at, body }) => createFinding(opened, at.id, FindingInput.parse(body)).then(({ id }) => ({ id })),
  "PUT findings/:id": ({ opened, at, body }) => saveFinding(opened, at.id, FindingInput.parse(body)),
  "DELETE findings/:id": ({ opened, at }) => deleteFinding(opened, at.id),
  "POST findings/:id/restore": ({ opened, at }) => restoreFinding(opened, at.id),
  "POST cases/:id/reports": ({ opened, at, body }) => issueReport(opened, at.id, IssueInput.parse(body).issuedBy).then(({ number }) => ({ number })),
  "GET cases/:id/reports/:number/pdf": ({ opened, at }) => reportFile(opened, at, "pdf"),
  "GET cases/:id/reports/:number/zip": ({ opened, at }) => reportFile(opened, at, "zip"),
  "GET cases/:id/reports/:number/json": ({ opened, at }) => reportFile(opened, at, "json"),
  "GET schema/report": async () => reportSchema(),
  "GET schema/record": async () => recordSchema(),
  "POST runs/:id/stop": ({ at }) => stopRun(at.id),
  "POST runs/:id/pause": async ({ at }) => (await bench()).pause(at.id),
  "POST runs/:id/resume": async ({ at }) => (await bench()).resume(at.id),
  "POST runs/:id/show": async ({ at, body }) => (await bench()).show(at.id, FieldInput.parse(body).name),
  "PUT runs/:id/priority": ({ opened, at, body }) => setPriority(opened, at.id, PriorityInput.parse(body).priority),
  "GET runs/:id/starts": ({ opened, at }) => startChoices(opened, at.id),
  "POST runs/:id/copy": ({ opened, at, body }) => copyRun(opened, at.id, CopyInput.parse(body)).then(({ id }) => ({ id })),
  "POST cases/:id/sweeps": ({ opened, at, body }) => startSweep(opened, at.id, SweepInput.parse(body)).then(({ id }) => ({ id })),
  "DELETE sweeps/:id": ({ opened, at }) => deleteSweep(opened, at.id),
  "POST runs/:id/again": ({ opened, at }) => runAgain(opened, at.id).then(({ id }) => ({ id })),
  "DELETE runs/:id": ({ opened, at }) => deleteRun(opened, at.id),
  "POST runs/:id/restore": ({ opened, at }) => restoreRun(opened, at.id),
  "GET runs/:id/history": ({ opened, at, url }) => thinHistory(opened, at.id, Number(url.searchParams.get("points") ?? 1500)),
  "GET runs/:id/history.csv": ({ opened, at }) => historyCsv(opened, at.id),
  "PUT runs/:id/judging": ({ opened, at, body }) => judgeRun(opened, at.id, JudgingInput.parse(body)),
  "GET runs/:id/records/:key": ({ opened, at }) => recordPictures(opened, at.id, at.key),
  "GET runs/:id/mesh": ({ opened, at }) => rawMesh(opened, at.id).then((b) => file(b, "application/octet-stream")),
  "GET runs/:id/fields": ({ opened, at }) => fieldList(opened, at.id),
  "GET runs/:id/fields/:name": ({ opened, at }) => rawField(opened, at.id, at.name).then((b) => file(b, "application/octet-stream")),
  "GET runs/:id/fields.vtu": ({ opened, at }) => fieldsVtk(opened, at.id).then((t) => file(t, "application/xml", "fields.vtu")),
  "GET runs/:id/fields.csv": ({ opened, at }) => fieldsCsv(opened, at.id).then((t) => file(t, "text/csv; charset=utf-8", "fields.csv")),
  "PUT settings/cores": ({ opened, body }) => setCores(opened, CoresInput.parse(body).cores),
};

async function reportFile(opened: Store, at: Readonly<Record<string, string>>, kind: "pdf" | "zip" | "json") {
  const { row } = await readReport(opened, at.id, Number(at.number));
  const name = `report-${row.number}.${kind}`;
  const hash = { pdf: row.pdf, zip: row.archive, json: row.document }[kind];
  return file(await opened.blobs.get(hash), { pdf: "application/pdf", zip: "application/zip", json: "application/json" }[kind], name);
}

/** A record for drawing: every k-th entry and always the last; what is stored stays whole. */
async function thinHistory(opened: Store, runId: string, points: number) {
  const h = await loadWorkedHistory(opened, runId);
  return h ? writeHistory(thinned(h, Math.min(5000, Math.max(50, points || 1500)))) : { iteration: [], residuals: {}, quantities: {} };
}

async function historyCsv(opened: Store, runId: string) {
  const h = await loadWorkedHistory(opened, runId);
  const run = await findRun(opened.db, runId);
  if (!h || !run) throw new UseCaseError("not-found", "This run has no record.");
  return file(recordCsv(h, await listQuantities(opened.db, run.caseId)), "text/csv; charset=utf-8", "history.csv");
}

const STATUS = { "not-found": 404, invalid: 422, conflict: 409 } as const;
const refuse = (status: number, sentence: string, details?: unknown) => Response.json({ error: sentence, details }, { status });

function match(method: string, path: readonly string[]): { handler: Handler; at: Record<string, string> } | undefined {
  for (const [key, handler] of Object.entries(ROUTES)) {
    const [m, pattern] = key.split(" ");
    const parts = pattern.split("/");
    if (m !== method || parts.length !== path.length) continue;
    if (!parts.every((p, i) => p.startsWith(":") || p === path[i])) continue;
    const at = Object.fromEntries(parts.flatMap((p, i) => (p.startsWith(":") ? [[p.slice(1), path[i]]] : [])));
    return { handler, at };
  }
  return undefined;
}

const Id = z.uuid();

/** Answers one call of the interface: checks where it comes from, its size and its shape, then hands it to its use case. */
export async function dispatch(request: Request, path: readonly string[]): Promise<Response> {
  const host = request.headers.get("host");
  if (!hostAllowed(host)) return refuse(421, "This address is not served.");
  if (path[0] === "node") return nodeCall(request, path);
  if (request.method === "POST" && path.length === 1 && path[0] === "uploads") return upload(request, host);
  const found = match(request.method, path);
  if (!found) return refuse(404, "There is no such address.");
  if (request.method !== "GET" && !originAllowed(request.headers.get("origin"), host))
    return refuse(403, "This change did not come from a page of Tin Ruler.");
  if (found.at.id !== undefined && !Id.safeParse(found.at.id).success) return refuse(404, "There is nothing of that name.");
  try {
    const body = await readBody(request);
    const answer = await found.handler({ opened: await store(), at: found.at, body, url: new URL(request.url) });
    return answer instanceof Response ? answer : Response.json(answer ?? { ok: true });
  } catch (error) {
    return failure(error);
  }
}

/** A file that is too long to be held: its bytes go straight into the data folder. */
async function upload(request: Request, host: string | null): Promise<Response> {
  if (!originAllowed(request.headers.get("origin"), host)) return refuse(403, "This change did not come from a page of Tin Ruler.");
  try {
    return Response.json(await takeUpload(await store(), request.body, Number(request.headers.get("content-length") ?? Number.NaN)));
  } catch (error) {
    return failure(error);
  }
}

/** Calls of bench nodes: no page makes them, so that the shared secret stands in for the origin. */
async function nodeCall(request: Request, path: readonly string[]): Promise<Response> {
  const handler = request.method === "POST" ? NODE_ROUTES[path.slice(1).join("/")] : undefined;
  if (!handler) return refuse(404, "There is no such address.");
  const opened = await store();
  if (!secretMatches(await benchSecret(opened.folder), request.headers.get("x-bench-secret")))
    return refuse(401, "The bench secret is missing or wrong.");
  try {
    return Response.json(await handler(await readBody(request, MOST_FROM_NODE)));
  } catch (error) {
    return failure(error);
  }
}

async function readBody(request: Request, most = MOST_BODY): Promise<unknown> {
  if (request.method === "GET" || request.method === "DELETE") return undefined;
  const tooLarge = new UseCaseError("invalid", `That is more than ${Math.round(most / 1024 / 1024)} MB.`);
  if (Number(request.headers.get("content-length") ?? 0) > most) throw tooLarge;
  const text = await request.text();
  if (text.length > most) throw tooLarge;
  const sent = Number(request.headers.get("content-length") ?? Number.NaN);
  if (Number.isFinite(sent) && Buffer.byteLength(text) < sent) throw new UseCaseError("invalid", "What was sent arrived cut off. Try again.");
  if (text === "") return undefined;
  try {
    return JSON.parse(text);
  } catch {
    throw new UseCaseError("invalid", "What was sent is not JSON.");
  }
}

function failure(error: unknown): Response {
  if (error instanceof UseCaseError) return refuse(STATUS[error.code], error.message, error.details);
  if (error instanceof z.ZodError) {
    const first = error.issues[0];
    return refuse(
      422,
      `${first.path.length ? `${first.path.join(".")}: ` : ""}${first.message}`,
      Object.fromEntries(error.issues.map((i) => [i.path.join("."), i.message])),
    );
  }
  if (error instanceof RangeError || error instanceof BlobError) return refuse(422, error.message);
  console.error(error);
  return refuse(500, "Something went wrong here. Nothing was changed; the server's output says what.");
}

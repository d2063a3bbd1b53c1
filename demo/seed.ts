import { existsSync, mkdirSync, renameSync, rmSync } from "node:fs";
import { readFile } from "node:fs/promises";
import path from "node:path";
import type { z } from "zod";
import type { Calibration } from "../core/figure/calibration.ts";
import { type CaseSetup, parameterSpecs } from "../core/problems/describe/caseSetup.ts";
import type { MeshSpec } from "../core/problems/describe/runSettings.ts";
import { entryText } from "../core/units/entry.ts";
import { enterSaid } from "../server/chain.ts";
import { dataFolder } from "../server/config.ts";
import { FolderTrouble } from "../server/db/folderLock.ts";
import { openStore, type Store } from "../server/db/store.ts";
import { hashOf } from "../server/hash.ts";
import { Bench } from "../server/jobs/bench.ts";
import { findCase, listCases, listQuantities } from "../server/repositories/cases.ts";
import { currentProgramme, insertProgramme } from "../server/repositories/programmes.ts";
import { listRuns, type RunRow } from "../server/repositories/runs.ts";
import { bringIn } from "../server/usecases/bringIn.ts";
import { createCase, createYardstick, type NewCaseInput, type QuestionInput, saveQuestion } from "../server/usecases/cases.ts";
import { addCurves, bringCurves } from "../server/usecases/curves.ts";
import { bringFigure } from "../server/usecases/figures.ts";
import { createFinding } from "../server/usecases/findings.ts";
import { takeFields } from "../server/usecases/gridFields.ts";
import { startLadder } from "../server/usecases/ladders.ts";
import { previewFiles } from "../server/usecases/previewFiles.ts";
import { placeInProgramme, saveProgramme } from "../server/usecases/programmes.ts";
import { createQuantity } from "../server/usecases/quantities.ts";
import { judgeRun } from "../server/usecases/records.ts";
import { issueReport } from "../server/usecases/reports.ts";
import { type CopyInput, copyRun, type FamilyInput, startFamily } from "../server/usecases/runs.ts";
import { keepQuality } from "../server/usecases/spaceQuality.ts";
import { addStations, takeSurfaceOf } from "../server/usecases/surfaces.ts";
import { CURTAIN_TRUTH, curtainRuns } from "./curtain.ts";
import { blockFile, LEAF, leafFile, leafRuns, placeOn, TAPS, tapsFile } from "./doorLeaf.ts";
import { FAN_TRUTH, fanQuantity, fanRuns, operatingFile, rigFile } from "./fan.ts";
import { LINTEL_TRUTH, lintelRuns } from "./lintel.ts";
import { clicks, PAPER_FIGURE, paperCalibration } from "./paperFigure.ts";
import { curvesFile, traverseFile } from "./traverse.ts";
import { wakeRuns } from "./wakeGrid.ts";

const COLD_AIR = { fluidName: "air", temperature: "4 degC", pressure: "101325 Pa" };
const uniform = { kind: "uniform" } as const;
const graded = { kind: "both-ends", strength: 1.5 } as const;
/** lid speed for a Reynolds number in the 50 mm box of air at 4 degrees C */
const lidSpeed = (reynolds: number) => `${((reynolds * 1.74e-5) / (1.274 * 0.05)).toPrecision(5)} m/s`;

interface Seeding {
  /** solves every bench case; else all but the first wait in the queue, for the application to solve while it is looked at */
  readonly solve: boolean;
  readonly say: (text: string) => void;
}

/** Fills an empty data folder with the Hollin Moss programme, through the same functions the pages use. */
async function seed(opened: Store, { solve, say }: Seeding): Promise<void> {
  if ((await listCases(opened.db)).length) return;
  const programme = (await currentProgramme(opened.db)) ?? (await insertProgramme(opened.db, "Hollin Moss cold store"));
  await saveProgramme(opened, programme.id, {
    name: programme.name,
    purpose:
      "How much warm air comes in through the loading door of the cold store, and whether the curtain that was offered holds enough of it back. From single effects over published benchmarks and the wind box to the door itself.",
    people: [
      { initials: "H. M.", role: "prepares" },
      { initials: "K. B.", role: "checks" },
      { initials: "R. T.", role: "approves" },
    ],
    limits: [{ quantity: "sealing efficiency", limit: "5 %" }],
    decision: "both-ways",
    stakes: { consequence: 2, influence: 3 },
  });
  const says = "Filled an empty data folder with the demo: the Hollin Moss programme, made up";
  await enterSaid(opened, { says, method: "seed", path: "/", caseId: null, by: null, inputHash: hashOf(programme.name) });
  const bench = new Bench(opened);
  const make = async (input: Omit<NewCaseInput, "fluidName" | "temperature" | "pressure">, family?: FamilyInput) => {
    const row = await createCase(opened, { ...COLD_AIR, ...input });
    if (family) await startFamily(opened, row.id, family, false);
    return row.id;
  };
  const plates = { gapM: "10 mm", lengthM: "20 mm", wallSpeedMS: "0.1 m/s", densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s", ends: "0" };
  const strip = { baseNx: 8, baseNy: 8, ratio: 2, count: 3, gradingX: uniform, gradingY: uniform };
  /** five meshes, each half as fine again */
  const five = (n: number, grading: FamilyInput["gradingX"]) => ({
    baseNx: n,
    baseNy: n,
    ratio: 1.5,
    count: 5,
    gradingX: grading,
    gradingY: grading,
  });
  const box = (reynolds: number) => ({ sideM: "50 mm", lidSpeedMS: lidSpeed(reynolds), densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s" });

  const air = { densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s" };

  say(solve ? "making the demo data, solving every bench case" : "making the demo data");
  const first = await make(
    {
      title: "Sliding strip over still air",
      problemId: "plates",
      purpose: "The strip of the loading door slides over a layer of still air. A straight profile: the solver must reproduce it exactly.",
      parameters: { ...plates, pressureGradientPaM: "0 Pa/m" },
    },
    strip,
  );
  // The smallest case is solved at once: it has an issued report.
  await bench.recover();
  await bench.idle();
  await issueReport(opened, first, "H. M.");
  await make(
    {
      title: "Sliding strip with a draught",
      problemId: "plates",
      purpose: "The same strip with a pressure difference along it. A curved profile: the error must fall at order 2.",
      parameters: { ...plates, pressureGradientPaM: "-0.05 Pa/m" },
    },
    five(8, uniform),
  );
  const lidded = await make(
    {
      title: "Lidded box, Re 1000",
      problemId: "lidded-box",
      purpose: "A seed crate under the curtain's jet, as a square box with a sliding lid. Is the coupling of velocity and pressure right?",
      parameters: box(1000),
    },
    five(20, graded),
  );
  await vary(opened, lidded, [{ scheme: "upwind" }, { scheme: "limited" }, { dropOrders: 2 }, { dropOrders: 4 }]);
  const retyped = await make(
    {
      title: "Lidded box, Re 100",
      problemId: "lidded-box",
      purpose: "The same crate in slow air. Its viscosity was typed again after the runs.",
      parameters: box(100),
    },
    { baseNx: 20, baseNy: 20, ratio: 2, count: 3, gradingX: graded, gradingY: graded },
  );
  // Its runs keep the set-up they were queued with: they will be older than the case.
  await retype(opened, retyped);
  await newKinds(opened, make, air);
  await make({ title: "Lidded box, Re 400", problemId: "lidded-box", purpose: "Between the two; waits for its runs.", parameters: box(400) });
  if (solve) await bench.recover();
  await bench.idle();
  await louvre(opened);
  await curtain(opened);
  await fan(opened);
  await doorLeaf(opened);
  await stand(opened);
  await bench.close();
}

/** Conditions as the fields of the Question page show them. */
const entries = (setup: CaseSetup) =>
  Object.fromEntries(
    parameterSpecs(setup.problemId).map((s) => [
      s.key,
      s.choices ? String(setup.parameters[s.key]) : entryText(setup.typed?.[s.key], setup.parameters[s.key], s.unit),
    ]),
  );

/** Saves the question of a case again, as its page does, with some entries typed anew. */
async function resave(opened: Store, caseId: string, change: Partial<QuestionInput>): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) return;
  const { setup } = row;
  await saveQuestion(opened, caseId, {
    title: row.title,
    purpose: row.purpose,
    ...COLD_AIR,
    reynolds: "",
    kinematicViscosity: "",
    ...(setup.problemId === null ? {} : { scheme: setup.numerics.scheme }),
    dropOrders: String(setup.numerics.dropOrders),
    limits: {},
    parameters: entries(setup),
    ...change,
  });
}

/** Changes the viscosity of a case after its runs: its evidence is then older than its inputs. */
async function retype(opened: Store, caseId: string): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) return;
  await resave(opened, caseId, { reynolds: "100", parameters: { ...entries(row.setup), viscosityPaS: "1.7405e-5 Pa s" } });
}

type Make = (input: Omit<NewCaseInput, "fluidName" | "temperature" | "pressure">, family?: FamilyInput) => Promise<string>;

/** A run of the house's own code by its values alone. */
async function bringLintel(
  opened: Store,
  caseId: string,
  { label, cells, quantities: text }: { readonly label: string; readonly cells: number; readonly quantities: string },
  size: { readonly volume: string; readonly dimension: 2 | 3 },
  at: string,
): Promise<RunRow> {
  const files = { history: null, quantities: { name: `${label}.csv`, text } };
  const preview = await previewFiles(opened, caseId, files);
  const build = { version: "4.2", compiler: "made up", machine: "the house's own" };
  const rowRoles = [...(preview.quantities?.roles ?? [])];
  return bringIn(opened, caseId, { ...files, label, code: "Lintel", build, cells, ...size, roles: [], rowRoles }, new Date(at));
}

/** The house's own code in the same wake: values, errors and whole fields of two meshes. */
async function lintelInTheWake(opened: Store, caseId: string): Promise<void> {
  const row = await findCase(opened.db, caseId);
  if (!row) return;
  for (const r of wakeRuns(row.setup.parameters as never)) {
    const run = await bringLintel(opened, caseId, r, { volume: `${r.areaM2} m^2`, dimension: 2 }, "2026-04-20T09:00:00Z");
    const hash = await opened.blobs.put(new TextEncoder().encode(r.grid));
    const arrays = [
      { name: "u", on: "cells" as const, role: "velocity-x" as const, unit: "m/s" },
      { name: "v", on: "cells" as const, role: "velocity-y" as const, unit: "m/s" },
      { name: "p", on: "cells" as const, role: "pressure" as const, unit: "m^2/s^2" },
    ];
    await takeFields(opened, run.id, { hash, name: `${r.label}.vtu`, length: "m", arrays });
  }
}

/** One case of every kind the bench solves: distorted cells, time, buoyancy, gas. */
async function newKinds(opened: Store, make: Make, air: Record<string, string>): Promise<void> {
  const wake = await make(
    {
      title: "Strip wake, exact field",
      problemId: "wake",
      purpose: "The curtain's strips leave a row of wakes behind them. The field is known exactly: is the error of order 2 on bent cells too?",
      parameters: { spacingM: "10 mm", velocityMS: `${((40 * 1.74e-5) / (1.274 * 0.01)).toPrecision(5)} m/s`, ...air },
    },
    { baseNx: 24, baseNy: 16, ratio: 2, count: 3, gradingX: uniform, gradingY: uniform, shape: "smooth" },
  );
  // The same field by a method of first order, on meshes of its own.
  const coarseToFine = [24, 48, 96].map((nx) => ({ scheme: "upwind" as const, nx, ny: (2 * nx) / 3 }));
  await vary(opened, wake, coarseToFine);
  await lintelInTheWake(opened, wake);
  const step = await make(
    {
      title: "Louvre step, slow and laminar",
      problemId: "step",
      purpose: "The louvre's step in slow air, where the bench can solve it. Is the box behind it long enough for the reattachment length?",
      parameters: { stepM: "10 mm", lengthSteps: "15", inletSteps: "3", meanVelocityMS: "0.13657 m/s", ...air },
    },
    { baseNx: 45, baseNy: 12, ratio: 1.5, count: 3, gradingX: uniform, gradingY: uniform },
  );
  const [base] = await listRuns(opened.db, step);
  if (base) await startLadder(opened, step, { axis: "domain", runId: base.id, values: [22.5, 30] }, false);
  const eddies = await make(
    {
      title: "Decaying eddies behind the fan guard",
      problemId: "eddies",
      purpose: "The guard of an evaporator fan leaves rows of eddies that die away. Are they damped at the right rate, in space and time at once?",
      parameters: { sideM: "100 mm", velocityMS: "0.02 m/s", driftMS: "0.01 m/s", endTimeS: "2 s", ...air },
    },
    { baseNx: 12, baseNy: 12, ratio: 2, count: 3, gradingX: uniform, gradingY: uniform, shape: "rows" },
  );
  await vary(opened, eddies, [{ courant: 1 }, { courant: 2 }]);
  const chamber = { sideM: "50 mm", coldK: "4 degC", gravityMS2: "9.81 m/s^2", expansionPerK: "0.00357 K^-1", prandtl: "0.71", ...air };
  const warm = (ra: number) => {
    const nu = 1.74e-5 / 1.274;
    return `${(277.15 + (ra * nu * nu) / (0.71 * 9.81 * 0.00357 * 0.05 ** 3)).toPrecision(7)} K`;
  };
  await make(
    {
      title: "Chamber with one warm wall",
      problemId: "chamber",
      purpose: "A model of the 4 degree chamber, one wall warmed from outside. Does the air carry as much heat as published?",
      parameters: { ...chamber, warmK: warm(1e5) },
    },
    { baseNx: 20, baseNy: 20, ratio: 1.5, count: 5, gradingX: graded, gradingY: graded },
  );
  await make({
    title: "Chamber with one warm wall, Ra 1e6",
    problemId: "chamber",
    purpose: "The same chamber at ten times the warmth. Copied from a case with water in it.",
    parameters: { ...chamber, warmK: warm(1e6), viscosityPaS: "1.57e-3 Pa s" },
  });
  const disc = await make(
    {
      title: "Burst disc opens",
      problemId: "shock-tube",
      purpose: "The disc between the two chambers gives way. Do the shock and the air behind it run at the right speed?",
      parameters: {
        lengthM: "2 m",
        leftPressurePa: "101325 Pa",
        leftDensity: "1.274 kg/m^3",
        rightPressurePa: "10132.5 Pa",
        rightDensity: "0.15925 kg/m^3",
        endTimeS: "1.4 ms",
        gamma: "1.4",
        gasConstant: "287.05 J/(kg K)",
      },
    },
    { baseNx: 50, baseNy: 4, ratio: 1.5, count: 5, gradingX: uniform, gradingY: uniform },
  );
  await vary(opened, disc, [{ riemannFlux: "linearised" }, { limiter: "smooth" }, { limiter: "first-order" }]);
}

/** Queues copies of a case's finest run, each with something of its numerics changed: rungs of other ladders. */
async function vary(opened: Store, caseId: string, changes: readonly Partial<z.infer<typeof CopyInput>>[]): Promise<void> {
  const runs = await listRuns(opened.db, caseId);
  const cells = ({ settings: { mesh } }: (typeof runs)[number]) => ("nx" in mesh ? mesh.nx * mesh.ny : 0);
  const finest = runs.reduce((a, b) => (cells(b) > cells(a) ? b : a));
  const { nx, ny } = finest.settings.mesh as MeshSpec;
  const { stop: _stop, ...numerics } = finest.settings.numerics;
  for (const change of changes) await copyRun(opened, finest.id, { nx, ny, priority: -1, ...numerics, ...change }, false);
}

/** A table of results with the values of its quantities times a factor; flows stay. */
const changedBy = (table: string, factor: number): string =>
  table.replace(
    /^((?:reattachment length|pressure drop),)([^,]+)/gm,
    (_, name: string, value: string) => `${name}${(Number(value) * factor).toPrecision(7)}`,
  );

async function louvre(opened: Store): Promise<void> {
  const row = await createCase(opened, {
    ...COLD_AIR,
    title: "Louvre step in the wind box",
    problemId: null,
    purpose: "Air over the step of the return louvre in the wind box, computed with Lintel. Does the reattachment length agree with the traverse?",
    parameters: { velocityMS: "2 m/s", lengthM: "50 mm", densityKgM3: "1.724 kg/m^3", viscosityPaS: "1.74e-5 Pa s" },
    quantityName: "reattachment length",
    quantityUnit: "m",
  });
  await createQuantity(opened, row.id, { name: "pressure drop", unit: "Pa", limit: "5 %" });
  const [length, drop] = await listQuantities(opened.db, row.id);
  await createYardstick(opened, row.id, {
    name: "Wind box traverse",
    kind: "measured",
    source: "Hollin Moss wind box, traverse 7, made up",
    validity: "Step of 50 mm, 1.5 to 2.5 m/s.",
    quantityKey: length.key,
    value: "392 mm",
    uncertainty: "8 mm",
  });
  await createYardstick(opened, row.id, {
    name: "Wind box pressure taps",
    kind: "measured",
    source: "Hollin Moss wind box, taps 3 and 9, made up",
    validity: "1.5 to 2.5 m/s.",
    quantityKey: drop.key,
    value: "11.2 Pa",
    uncertainty: "3 %",
  });
  const lintel = lintelRuns();
  const [, medium] = lintel;
  // The mesh of the middle again with two versions before: the third one changed something.
  const earlier = (["4.0", "4.1"] as const).map((version, k) => ({
    ...medium,
    label: `${medium.label}, Lintel ${version}`,
    version,
    // Their records were not kept: values alone.
    history: undefined,
    quantities: changedBy(medium.quantities, 0.997),
    at: new Date(`2026-0${k + 2}-10T09:00:00Z`),
  }));
  for (const r of [...earlier, ...lintel.map((x) => ({ ...x, version: "4.2", at: new Date("2026-04-14T09:00:00Z") }))]) {
    const files = {
      history: r.history === undefined ? null : { name: `${r.label}-history.csv`, text: r.history },
      quantities: { name: `${r.label}-quantities.csv`, text: r.quantities },
    };
    const preview = await previewFiles(opened, row.id, files);
    await bringIn(
      opened,
      row.id,
      {
        ...files,
        label: r.label,
        code: "Lintel",
        build: { version: r.version, compiler: "made up", machine: "the house's own" },
        cells: r.cells,
        volume: `${LINTEL_TRUTH.volumeM3} m^3`,
        dimension: 3,
        roles: [...(preview.history?.roles ?? [])],
        rowRoles: [...(preview.quantities?.roles ?? [])],
      },
      r.at,
    );
  }
  await bringIn(opened, row.id, {
    history: null,
    quantities: { name: "P2 medium.csv", text: "name,value,unit\nreattachment length,431.2,mm\npressure drop,11.68,Pa\n" },
    label: "P2 medium",
    code: "Purlin",
    cells: 420_000,
    volume: `${LINTEL_TRUTH.volumeM3} m^3`,
    dimension: 3,
    roles: [],
    rowRoles: ["quantity:q1", "quantity:q2"],
  });
  const runs = await listRuns(opened.db, row.id);
  await traverse(opened, row.id, runs);
  const finest = runs.find((r) => r.label === "L3 fine");
  await createFinding(opened, row.id, {
    title: "Finest mesh loses mass",
    what: "The fine run stalls after two and a half orders, and 0.9 % of the air that enters does not leave.",
    cause: "The interface between the box and the louvre block does not match on the fine mesh.",
    causeKey: "interface",
    stage: "balance",
    change: "",
    shownBy: finest?.id ?? null,
    curedBy: null,
  });
}

/** The traverse behind the step as a yardstick, and curves of every run beside it. */
async function traverse(opened: Store, caseId: string, runs: readonly RunRow[]): Promise<void> {
  const plain = { coverage: 2 as const, own: "", shared: "", place: "" };
  await bringCurves(opened, caseId, {
    file: { name: "traverse-7.csv", text: traverseFile() },
    mapping: { ...plain, roles: ["station", "abscissa", "value", "uncertainty"], units: ["1", "mm", "m/s", "m/s"], shared: "0.8 %", place: "0.3 mm" },
    name: "Wind box traverse 7",
    kind: "measured",
    source: "Hollin Moss wind box, made up",
    validity: "Step of 50 mm, 1.5 to 2.5 m/s.",
    who: "E.M.",
    how: "hot wire on a traverse by hand",
    when: "14 April",
    conditions: { velocity: "2 m/s", length: "50 mm" },
    windowFrom: "",
    windowTo: "",
    targets: {},
    believed: {},
  });
  const { x, y } = paperCalibration();
  const picture = await readFile("demo/files/paper-figure.png");
  await bringFigure(opened, caseId, {
    picture: { hash: await opened.blobs.put(picture), name: "paper-figure.png" },
    calibration: { x: axisOf(x), y: axisOf(y) },
    x: { name: "y", unit: "mm" },
    y: { name: "u", unit: "m/s" },
    doubt: { reading: 0.7, calibration: 0.5 },
    coverage: 2,
    curves: PAPER_FIGURE.curves.map((c) => ({
      name: `u at x/H ${c.station}`,
      target: `u-at-x-h-${c.station}`,
      places: clicks(c.station, c.station).map((at) => ({ at: [...at] as [number, number] })),
    })),
    name: "Paper on louvres, figure 4",
    kind: "table",
    source: "A paper on louvres, made up, figure 4",
    validity: "Step of 50 mm, 2 m/s.",
    who: "",
    how: "",
    when: "",
    conditions: { velocity: "2 m/s" },
  });
  for (const r of runs) {
    const code = r.code === "Purlin" ? "Purlin" : "Lintel";
    const spacing = "spacingM" in r.settings.mesh ? r.settings.mesh.spacingM : 0.01;
    const file = { name: `${r.label}-curves.csv`, text: curvesFile(code, spacing) };
    await addCurves(opened, r.id, {
      file,
      mapping: { ...plain, roles: ["station", "abscissa", "value"], units: ["1", "mm", "m/s"] },
      targets: {},
      replace: false,
    });
  }
}

const axisOf = ({ at: [a, b], values, log }: Calibration["x"]) => ({
  at: [[...a], [...b]] as [[number, number], [number, number]],
  values: [...values] as [number, number],
  log,
});

/** Files of one history each, brought in as runs of a case. */
async function bringAll(
  opened: Store,
  caseId: string,
  runs: readonly { label: string; cells: number; history: string }[],
  size: { volume: string; dimension: 2 | 3 },
): Promise<void> {
  for (const r of runs) {
    const files = { history: { name: `${r.label}.csv`, text: r.history }, quantities: null };
    const preview = await previewFiles(opened, caseId, files);
    const roles = [...(preview.history?.roles ?? [])];
    await bringIn(opened, caseId, { ...files, label: r.label, code: "Lintel", cells: r.cells, ...size, roles, rowRoles: [] });
  }
}

async function curtain(opened: Store): Promise<void> {
  const row = await createCase(opened, {
    ...COLD_AIR,
    title: "Door curtain, half width",
    problemId: null,
    purpose: "The air curtain of the loading door sways. How much of the warm air does it hold back on average, and how sure is that?",
    parameters: { velocityMS: "8 m/s", lengthM: "60 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s" },
    quantityName: "sealing efficiency",
    quantityUnit: "1",
  });
  await createQuantity(opened, row.id, { name: "force of the jet", unit: "N", limit: "5 %" });
  const [sealing] = await listQuantities(opened.db, row.id);
  await createYardstick(opened, row.id, {
    name: "Tracer gas at the loading door",
    kind: "measured",
    source: "Hollin Moss loading door, tracer gas run 4, made up",
    validity: "Door 3 m wide, curtain at 8 m/s.",
    quantityKey: sealing.key,
    value: "0.62",
    uncertainty: "0.012",
  });
  await resave(opened, row.id, {
    physics: { time: "transient", model: "turbulence model", space: "plane", part: "half model", share: "0.5", compressible: false },
    stated: { schemeOrder: "2", dropOrders: "" },
    dropOrders: "4",
    facts: { factorInFile: "2", factorHere: "2" },
  });
  await bringAll(opened, row.id, curtainRuns(), { volume: `${CURTAIN_TRUTH.areaM2} m^2`, dimension: 2 });
}

async function fan(opened: Store): Promise<void> {
  const [first, ...others] = FAN_TRUTH.flowsM3S;
  const row = await createCase(opened, {
    ...COLD_AIR,
    title: "Evaporator fan, five flow rates",
    problemId: null,
    purpose: "Pressure rise of an evaporator fan at five flow rates. The runs wander and never quite settle: their means count.",
    parameters: { velocityMS: "12 m/s", lengthM: "300 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "1.74e-5 Pa s" },
    quantityName: fanQuantity(first),
    quantityUnit: "Pa",
  });
  for (const q of others) await createQuantity(opened, row.id, { name: fanQuantity(q), unit: "Pa", limit: "5 %" });
  const quantities = await listQuantities(opened.db, row.id);
  for (const [j, q] of quantities.entries())
    await createYardstick(opened, row.id, {
      name: `Fan rig, ${FAN_TRUTH.flowsM3S[j].toFixed(1)} m3/s`,
      kind: "measured",
      source: "Hollin Moss fan rig, made up",
      validity: "Fan at 930 turns a minute, air at 4 degrees C.",
      quantityKey: q.key,
      value: `${(FAN_TRUTH.risePa[j] * (j === 4 ? 1.04 : 0.99)).toFixed(1)} Pa`,
      uncertainty: "1.5 %",
    });
  await bringAll(opened, row.id, fanRuns(), { volume: `${FAN_TRUTH.volumeM3} m^3`, dimension: 3 });
  for (const r of await listRuns(opened.db, row.id)) await judgeRun(opened, r.id, { average: true });
  await operatingCurves(opened, row.id, quantities);
}

/** The rig's three curves over flow rate as a yardstick, with those of both codes beside them. */
async function operatingCurves(opened: Store, caseId: string, quantities: readonly { key: string }[]): Promise<void> {
  await bringIn(opened, caseId, {
    history: null,
    quantities: {
      name: "P1.csv",
      text: `name,value,unit\n${FAN_TRUTH.flowsM3S.map((q, j) => `${fanQuantity(q)},${(FAN_TRUTH.risePa[j] * 0.96).toFixed(2)},Pa`).join("\n")}\n`,
    },
    label: "P1",
    code: "Purlin",
    cells: 900_000,
    volume: `${FAN_TRUTH.volumeM3} m^3`,
    dimension: 3,
    roles: [],
    rowRoles: quantities.map((q) => `quantity:${q.key}` as const),
  });
  const plain = { coverage: 2 as const, own: "", shared: "", place: "" };
  const three = ["abscissa", "value", "value", "value"] as const;
  await bringCurves(opened, caseId, {
    file: { name: "rig.csv", text: rigFile() },
    mapping: {
      ...plain,
      roles: ["abscissa", "value", "uncertainty", "value", "uncertainty", "value", "uncertainty"],
      units: ["m^3/s", "Pa", "Pa", "W", "W", "1", "1"],
      shared: "0.5 %",
    },
    name: "Fan rig, five flow rates",
    kind: "measured",
    source: "Hollin Moss fan rig, made up",
    validity: "Fan at 930 turns a minute, air at 4 degrees C.",
    who: "R.T.",
    how: "orifice and torque flange",
    when: "2 May",
    conditions: {},
    windowFrom: "",
    windowTo: "",
    targets: {},
    believed: {},
  });
  for (const r of await listRuns(opened.db, caseId)) {
    const spacing = "spacingM" in r.settings.mesh ? r.settings.mesh.spacingM : 0.005;
    const file = { name: `${r.label}-curves.csv`, text: operatingFile(r.code === "Purlin" ? "Purlin" : "Lintel", spacing) };
    await addCurves(opened, r.id, { file, mapping: { ...plain, roles: [...three], units: ["m^3/s", "Pa", "W", "1"] }, targets: {}, replace: false });
  }
}

/** The door's leaf in space: forces that Lintel reported, and the surface they can be integrated from again. */
async function doorLeaf(opened: Store): Promise<void> {
  const row = await createCase(opened, {
    ...COLD_AIR,
    title: "Loading door leaf, ajar in the wind",
    problemId: null,
    purpose:
      "The leaf stands open by 25 degrees with the wind on the yard. What does the wind do to it, and is what Lintel reports what its own surface gives?",
    parameters: {
      velocityMS: `${LEAF.speedMS} m/s`,
      lengthM: `${LEAF.widthM} m`,
      densityKgM3: `${LEAF.densityKgM3} kg/m^3`,
      viscosityPaS: `${LEAF.viscosityPaS} Pa s`,
    },
    quantityName: "hinge moment",
    quantityUnit: "N m",
  });
  await createQuantity(opened, row.id, { name: "drag", unit: "N", limit: "5 %" });
  await createQuantity(opened, row.id, { name: "side force", unit: "N", limit: "5 %" });
  const quantities = await listQuantities(opened.db, row.id);
  const keyOf = (name: string) => quantities.find((x) => x.name === name)?.key ?? "";
  await createYardstick(opened, row.id, {
    name: "Load cell at the hinge",
    kind: "measured",
    source: "Hollin Moss yard, load cell 2, made up",
    validity: "Leaf open by 20 to 30 degrees, 7 to 9 m/s.",
    quantityKey: keyOf("hinge moment"),
    value: "81.5 N m",
    uncertainty: "2.5 N m",
  });
  await bringCurves(opened, row.id, {
    file: { name: "leaf-taps.csv", text: tapsFile() },
    mapping: {
      roles: ["station", "abscissa", "value", "value"],
      units: ["m", "m", "Pa", "Pa"],
      coverage: 2,
      own: `${2 * TAPS.readingPa} Pa`,
      shared: "",
      place: "2 mm",
    },
    name: "Pressure taps on the leaf",
    kind: "measured",
    source: "Hollin Moss yard, 39 taps a side, made up",
    validity: "Leaf open by 25 degrees, 8 m/s.",
    who: "E.M.",
    how: "taps and a scanner",
    when: "4 May",
    conditions: { velocity: "8 m/s" },
    windowFrom: "",
    windowTo: "",
    targets: {},
    believed: {},
  });
  for (const r of leafRuns()) {
    const run = await bringLintel(opened, row.id, r, { volume: `${LEAF.volumeM3} m^3`, dimension: 3 }, "2026-05-04T09:00:00Z");
    if (r.label.includes("coarse")) {
      const hash = await opened.blobs.put(new TextEncoder().encode(blockFile()));
      await keepQuality(opened, run.id, { hash, name: "before-the-leaf.vtu", length: "m", limits: {} });
      const arrays = [{ name: "U (m/s)", on: "cells" as const, role: "velocity" as const, unit: "m/s" }];
      await takeFields(opened, run.id, { hash, name: "before-the-leaf.vtu", length: "m", arrays, cut: { across: 2, at: 0.7 } });
    }
    if (!r.label.includes("fine")) continue;
    await leafSurface(opened, run.id, keyOf);
  }
}

/** The leaf's surface with its patches and what was reported of it, and curves at the heights of the taps. */
async function leafSurface(opened: Store, runId: string, keyOf: (name: string) => string): Promise<void> {
  const named = ["windward", "lee", "rims"] as const;
  const link = { patches: [...named], factor: 1 };
  await takeSurfaceOf(opened, runId, {
    hash: await opened.blobs.put(new TextEncoder().encode(leafFile())),
    name: "leaf-fine.vtp",
    length: "mm",
    arrays: [
      { name: "p (Pa)", on: "points", role: "pressure", unit: "Pa" },
      { name: "wall shear (Pa)", on: "cells", role: "shear", unit: "Pa" },
    ],
    division: { by: "array", array: "zone" },
    // The kick plate was forgotten.
    names: named.map((name) => ({ at: placeOn(name), name })),
    splits: [],
    normals: "out of the body",
    shearOn: "wall",
    reference: "0 Pa",
    aboutM: [0, 0, 0],
    links: [
      { ...link, quantityKey: keyOf("drag"), of: "force", direction: [0, 1, 0] },
      { ...link, quantityKey: keyOf("side force"), of: "force", direction: [1, 0, 0] },
      { ...link, quantityKey: keyOf("hinge moment"), of: "moment", direction: [0, 0, 1] },
    ],
  });
  await addStations(opened, runId, {
    across: 2,
    along: 0,
    stations: TAPS.heightsM.map((z) => 1000 * z),
    of: "pressure",
    abscissa: "axis",
    names: ["p lee", "p windward"],
  });
}

/** Where the cases of other codes stand in the programme, and the words they are found by. */
async function stand(opened: Store): Promise<void> {
  const marks: Record<string, { level?: "application"; tags: string[] }> = {
    "Louvre step in the wind box": { tags: ["wind box", "Lintel", "Purlin"] },
    "Door curtain, half width": { level: "application", tags: ["door", "Lintel"] },
    "Loading door leaf, ajar in the wind": { tags: ["door", "Lintel"] },
    "Evaporator fan, five flow rates": { tags: ["fan rig", "Lintel", "Purlin"] },
  };
  for (const { id, title, programmeId } of await listCases(opened.db)) {
    const mark = marks[title];
    if (mark) await placeInProgramme(opened, id, { programmeId, level: mark.level ?? null, tags: mark.tags });
  }
}

/** What stands in a data folder. */
const PARTS = ["database", "blobs"];

/** Fills a folder beside and moves what was made into its place: a seed that was interrupted leaves no half of a demo. */
async function seedFolder(folder: string, how: Seeding): Promise<void> {
  if (existsSync(path.join(folder, PARTS[0]))) return;
  const beside = `${folder}.seeding`;
  rmSync(beside, { recursive: true, force: true });
  await seedStore(beside, how);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  // The database last: it is what says that a folder is filled.
  for (const part of [...PARTS].reverse()) if (existsSync(path.join(beside, part))) renameSync(path.join(beside, part), path.join(folder, part));
  rmSync(beside, { recursive: true, force: true });
}

async function seedStore(folder: string, how: Seeding): Promise<void> {
  const opened = await openStore(folder);
  try {
    await seed(opened, how);
  } finally {
    await opened.close();
  }
}

const how: Seeding = { solve: process.argv.includes("--solve"), say: (text) => console.log(`Tin Ruler: ${text}`) };
try {
  // A database that several processes share is none of this folder's.
  await (process.env.DATABASE_URL ? seedStore : seedFolder)(dataFolder(), how);
} catch (error) {
  if (!(error instanceof FolderTrouble)) throw error;
  console.error(`Tin Ruler: ${error.message}`);
  process.exit(1);
}

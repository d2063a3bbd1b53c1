import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import ExcelJS from "exceljs";
import { readAssessment } from "../core/assessment/stored.ts";
import { acrossAxis, cutGrid, NoCut } from "../core/dataset/cutGrid.ts";
import { boxFaces, polygons } from "../core/dataset/made.ts";
import { NoDivision } from "../core/dataset/patches.ts";
import { stitch } from "../core/dataset/stitch.ts";
import { NoSurface } from "../core/dataset/surface.ts";
import { base, cgnsFile, coordinates, solution, zone } from "../core/formats/cgns/cgnsForTests.ts";
import { readProse } from "../core/formats/prose.ts";
import { readRecordJson } from "../core/formats/recordJson.ts";
import { readSheet } from "../core/formats/sheet.ts";
import { PIECES, SOUND_TABLES } from "../core/formats/spoiltForTests.ts";
import { readGridFile, readPlainGrid } from "../core/formats/surface/readAny.ts";
import { writeStl } from "../core/formats/surface/stl.ts";
import { readVtkGrid } from "../core/formats/vtk/readGrid.ts";
import { GridFileError } from "../core/formats/vtk/scan.ts";
import { everyKind, STYLES } from "../core/formats/vtk/vtkForTests.ts";
import { guessRoles } from "../core/intake/columnRoles.ts";
import { buildHistory } from "../core/intake/historyImport.ts";
import { NotPlane, planeGrid } from "../core/intake/planeGrid.ts";
import { lookAtSurface } from "../core/intake/surfaceLook.ts";
import { FormulaError, readFormula } from "../core/manufactured/formula.ts";
import { rectangleMesh } from "../core/mesh/rectangle.ts";
import { DerivedError, readDerived } from "../core/method/propagation/derived.ts";
import { randomFrom } from "../core/numeric/random.ts";
import { packCheckpoint, unpackCheckpoint } from "../core/solver/checkpointFile.ts";
import { packMesh, unpackMesh } from "../core/solver/meshFile.ts";
import { parseQuantity } from "../core/units/units.ts";
import { readMessage } from "../server/jobs/messageShape.ts";
import { intact } from "../server/pack/assessPack.ts";
import { MANIFEST } from "../server/pack/manifest.ts";
import { zipped } from "../server/pack/packFiles.ts";
import { readRecordFile } from "../server/reading/readFile.ts";
import { UseCaseError } from "../server/usecases/failure.ts";
import { type Attack, type Finding, median } from "./attack.ts";

const SEED = 20260404;
const UNIFORM = { kind: "uniform" } as const;

/** Spoils bytes in one to four places: something put in, taken out, doubled or turned. */
function spoilt(bytes: Uint8Array, random: () => number): Uint8Array {
  let out = Buffer.from(bytes);
  for (let k = 0; k < 1 + Math.floor(4 * random()); k++) {
    const at = Math.floor(out.length * random());
    const to = Math.min(out.length, at + 1 + Math.floor(20 * random()));
    const put = [Buffer.from(PIECES[Math.floor(PIECES.length * random())]), out.subarray(at, to), Buffer.from([Math.floor(256 * random())])];
    const [head, tail] = random() < 0.5 ? [out.subarray(0, at), out.subarray(to)] : [out.subarray(0, at), out.subarray(at)];
    out = Buffer.concat([head, put[Math.floor(3 * random())], tail]);
  }
  return new Uint8Array(out);
}

interface Kind {
  readonly what: string;
  readonly sound: readonly (string | Uint8Array)[];
  /** reads it; @returns whether it was accepted */
  readonly read: (bytes: Uint8Array) => boolean | Promise<boolean>;
  /** spoilt ones at most, where each wears out what a thread of the product is replaced for */
  readonly most?: number;
  /** errors that are an answer, not an accident */
  readonly foreseen?: (error: unknown) => boolean;
}

const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

function readTable(bytes: Uint8Array): boolean {
  const read = readSheet(text(bytes));
  if (!read.ok) return false;
  const quantities = [{ key: "q1", name: "drag", symbol: "F" }];
  return buildHistory(read.sheet, guessRoles(read.sheet, quantities), quantities).ok;
}

const facet = (z: number) => `facet normal 0 0 1 outer loop vertex 0 0 ${z} vertex 1 0 ${z} vertex 0 1 ${z} endloop endfacet\n`;
/** surfaces as text, the first of two named parts */
const SURFACE_TEXTS = {
  stl: `solid leaf\n${facet(0)}${facet(1)}endsolid leaf\nsolid rim\n${facet(2)}endsolid rim\n`,
  ply: "ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nproperty float p\nelement face 2\nproperty list uchar int vertex_indices\nproperty int zone\nend_header\n0 0 0 1\n1 0 0 2\n1 1 0 3\n0 1 1 4\n3 0 1 2 7\n3 0 2 3 8\n",
};

async function workbook(): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("run");
  sheet.addRow(["iteration", "drag (N)", "mass"]);
  for (let i = 1; i <= 20; i++) sheet.addRow([i, 2 + 0.5 ** i, 0.3 ** i]);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

const MESSAGES = [
  { type: "rows", from: 0, columns: [{ role: "iteration", key: "iteration" }], rows: [[1]], starts: { mass: 1 } },
  { type: "done", state: "done", iterations: 3, seconds: 1, result: { quantities: { drag: 1 }, profiles: [], errorNorms: [] }, fields: [] },
  { type: "climbing", cells: 64, left: 2 },
];

/** A block of eight cells with values on them. */
function cgnsBlock(): Promise<Uint8Array> {
  const places = Array.from({ length: 27 }, (_, k) => [k % 3, Math.floor(k / 3) % 3, Math.floor(k / 9)] as const);
  const Block = zone("Structured", [3, 3, 3, 2, 2, 2, 0, 0, 0], {
    GridCoordinates: coordinates(places, [3, 3, 3]),
    Centre: solution("CellCenter", { Pressure: [1, 2, 3, 4, 5, 6, 7, 8] }, [2, 2, 2]),
  });
  return cgnsFile({ Base: base({ Block }) });
}

async function gridsAndSurfaces(): Promise<Kind[]> {
  const box = stitch(polygons(boxFaces([0, 0, 0], [2, 1, 0.5], 2)));
  return [
    {
      what: "grids in VTK's XML format",
      sound: STYLES.map(([, style]) => everyKind(style)),
      read: (b) => {
        const grid = readVtkGrid(b);
        for (const use of [() => planeGrid(grid), () => planeGrid(cutGrid(grid, acrossAxis(2, 0.5))), () => lookAtSurface(stitch(grid))])
          try {
            use();
          } catch (error) {
            if (![NotPlane, NoCut, NoSurface, NoDivision].some((kind) => error instanceof kind)) throw error;
          }
        return true;
      },
      foreseen: (e) => e instanceof GridFileError,
    },
    {
      what: "grids in CGNS",
      sound: [await cgnsBlock()],
      read: async (b) => (await readGridFile(b)).kinds.length > 0,
      most: 1000,
      foreseen: (e) => e instanceof GridFileError,
    },
    {
      what: "surfaces (STL, PLY)",
      sound: [writeStl(box.surface, "box"), SURFACE_TEXTS.stl, SURFACE_TEXTS.ply],
      read: (b) => {
        lookAtSurface(stitch(readPlainGrid(b)));
        return true;
      },
      foreseen: (e) => [GridFileError, NoSurface, NoDivision].some((kind) => e instanceof kind),
    },
  ];
}

async function kinds(folder: string): Promise<Kind[]> {
  const place = path.join(folder, "spoilt.xlsx");
  const mesh = rectangleMesh({ lengthM: 1, heightM: 1, nx: 3, ny: 3, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: false });
  return [
    {
      what: "delimited tables",
      sound: SOUND_TABLES,
      read: readTable,
    },
    {
      what: "records as JSON",
      sound: [
        '{"format":"tin-ruler-record","version":1,"columns":[{"name":"iteration","values":[1,2,3]},{"name":"drag","unit":"N","values":[1,null,3]}]}',
      ],
      read: (b) => readRecordJson(text(b)).ok,
    },
    {
      what: "workbooks",
      sound: [await workbook()],
      read: async (b) => {
        await writeFile(place, b);
        return (await readRecordFile(place, "spoilt.xlsx", { stopped: () => false, progress: () => undefined })).ok;
      },
    },
    {
      what: "formulas of fields",
      sound: ["sin(pi*x)*cos(pi*y)*exp(-2*t)", "x^2*(1-x)^2", "sqrt(1+x*y)/(2+tanh(t))"],
      read: (b) => readFormula(text(b)) !== undefined,
      foreseen: (e) => e instanceof FormulaError,
    },
    {
      what: "formulas over quantities",
      sound: ["drag/(0.5*density*speed^2*area)", "abs(a-b)/max(a,b)", "(a+b)*pi"],
      read: (b) => readDerived(text(b), ["drag", "density", "speed", "area", "a", "b"]) !== undefined,
      foreseen: (e) => e instanceof DerivedError,
    },
    {
      what: "figures with units",
      sound: ["5 m/s", "4 °C", "1.274 kg/m^3", "0.0174 cP", "3,5 mm"],
      read: (b) => ["m/s", "K", "kg/m^3", "Pa s", "m", ""].some((unit) => parseQuantity(text(b), unit).ok),
    },
    {
      what: "what a node tells",
      sound: MESSAGES.map((m) => JSON.stringify(m)),
      read: (b) => {
        try {
          return readMessage(JSON.parse(text(b))) !== undefined;
        } catch (error) {
          if (error instanceof SyntaxError) return false;
          throw error;
        }
      },
      foreseen: (e) => e instanceof Error && e.name === "ZodError",
    },
    {
      what: "kept assessments",
      sound: ['{"caseId":"a","ladder":[],"stale":false,"stages":[]}'],
      read: (b) => {
        try {
          return readAssessment(JSON.parse(text(b))) !== undefined;
        } catch (error) {
          if (error instanceof SyntaxError || error instanceof RangeError || error instanceof DOMException) return false;
          throw error;
        }
      },
    },
    ...(await gridsAndSurfaces()),
    {
      what: "evidence packs",
      sound: [
        zipped(
          { "inputs.json": Buffer.from('{"format":"tin-ruler-evidence"}'), "report.json": Buffer.from("{}"), [MANIFEST]: Buffer.from("") },
          new Date("2026-01-01"),
        ),
      ],
      read: (b) => intact(b).changed.length === 0,
      foreseen: (e) => e instanceof UseCaseError,
    },
    {
      what: "words in Markdown",
      sound: ["# a\n\n**b** *c* `d` [e](https://f.org)\n\n- g\n  1. h\n\n> i\n\n```\nj\n```\n"],
      read: (b) => readProse(text(b)).length > 0,
    },
    {
      what: "checkpoints and meshes",
      sound: [
        packCheckpoint({ state: "running", history: Float64Array.of(1, 0.1, 0.01), best: new Float64Array(40), counters: [1, 2, 3] }),
        packMesh(mesh),
      ],
      read: (b) => {
        let read = 0;
        for (const reader of [unpackCheckpoint, unpackMesh])
          try {
            reader(b);
            read++;
          } catch (error) {
            if (!(error instanceof RangeError)) throw error;
          }
        return read > 0;
      },
    },
  ];
}

/** longer than any of these may take */
const SLOW_MS = 6000;

const bytesOf = (given: string | Uint8Array) => (typeof given === "string" ? new TextEncoder().encode(given) : given);

async function spoil(kind: Kind, count: number, timed: boolean): Promise<Finding> {
  const random = randomFrom(SEED);
  let [accepted, refused] = [0, 0];
  const accidents: string[] = [];
  const times: number[] = [];
  for (let k = 0; k < count; k++) {
    const bytes = spoilt(bytesOf(kind.sound[k % kind.sound.length]), random);
    const begun = performance.now();
    try {
      if (await kind.read(bytes)) accepted++;
      else refused++;
    } catch (error) {
      if (kind.foreseen?.(error)) refused++;
      else accidents.push(`${(error as Error).name}: ${(error as Error).message.slice(0, 80)}`);
    }
    times.push(performance.now() - begun);
  }
  const longest = Math.max(...times) / Math.max(1, median(times));
  const told = accidents.length ? `; ${accidents.length} exceptions, the first ${accidents[0]}` : ", no exception";
  return {
    attack: `spoilt ${kind.what}`,
    tried: `${count} seeded`,
    answered: `${accepted} read, ${refused} refused with a sentence${told}; the slowest took ${Math.max(...times).toFixed(0)} ms`,
    held: accidents.length === 0 && (!timed || Math.max(...times) < SLOW_MS || longest < 100),
  };
}

/** Spoilt inputs over every reader: each is read or refused, in a time that bears a relation to its size. */
export const spoiltInputs: Attack = async ({ inputs, timed }) => {
  const folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-attack-"));
  try {
    const found: Finding[] = [];
    for (const kind of await kinds(folder)) found.push(await spoil(kind, Math.min(inputs, kind.most ?? inputs), timed));
    return found;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

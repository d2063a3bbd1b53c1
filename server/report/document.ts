import { errorAgainstSpacing, orderChart, profileChart, residualChart, valueAgainstSpacing } from "../../core/drawing/caseCharts.ts";
import { bounds, cellsUnderPixels, paintCells, wholeMesh } from "../../core/drawing/cellRaster.ts";
import { fieldRange } from "../../core/drawing/fieldRaster.ts";
import { drawRule } from "../../core/drawing/ruleDrawing.ts";
import { encodePng } from "../../core/formats/png.ts";
import type { ReportDocument, ReportTable } from "../../core/formats/reportDocument.ts";
import { quantityText, sentenceCase } from "../../core/formatting/number.ts";
import { scaleText } from "../../core/formatting/scale.ts";
import type { QuantityRule } from "../../core/method/budget/rule.ts";
import { RESIDUAL_STATE_WORDS } from "../../core/method/iteration/residuals.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import { type CaseSetup, parameterSpecs } from "../../core/problems/describe/caseSetup.ts";
import type { Store } from "../db/store.ts";
import { findProgramme } from "../repositories/cases.ts";
import { listFields } from "../repositories/runs.ts";
import { type CaseBook, loadHistory } from "../usecases/evidence.ts";
import { runFields } from "../usecases/fields.ts";

type Cell = string | number | null;
const cell = (x: number | undefined | null): Cell => (x === undefined || x === null || !Number.isFinite(x) ? null : x);

/** Everything a report shows, taken from the case's assessment: no figure is worked out here. */
export async function buildReport(opened: Store, book: CaseBook, number: number, issuedBy: string, issuedAt: Date): Promise<ReportDocument> {
  const { assessment: a, evidence: e, row } = book;
  const name = (key: string) => e.quantities.find((q) => q.key === key)?.name ?? key;
  const finest = book.runs.find((r) => r.id === a.ladder[0]);
  const history = finest ? await loadHistory(opened, finest.id) : undefined;
  const drawings: ReportDocument["drawings"] = [];
  const draw = (key: string, title: string, svg: string | undefined): string[] => {
    if (!svg) return [];
    drawings.push({ key, title, svg });
    return [key];
  };
  const tables = makeTables(book, name);
  const has = (...keys: string[]) => keys.filter((k) => tables.some((t) => t.key === k));
  const leading = e.quantities[0];
  const rule = a.rules[0];
  const sections: ReportDocument["sections"] = [];
  const section = (stage: string, title: string, sentences: string[], tableKeys: string[], drawingKeys: string[] = []) =>
    sections.push({ stage, title, sentences: sentences.filter(Boolean).map(sentenceCase), tables: tableKeys, drawings: drawingKeys });

  section(
    "rule",
    "Every error on one rule",
    rule
      ? [
          `Error sources of ${leading.name} at about 95 %, as fractions of ${rule.scaleName ? `${rule.scaleName}, ` : ""}${quantityText(rule.scale, leading.unit)}.`,
        ]
      : [],
    has("sources"),
    rule ? draw("rule", `Error sources of ${leading.name}`, drawRule(rule, 720)) : [],
  );
  section(
    "question",
    "Question",
    [
      row.purpose,
      physicsSentence(book),
      ...a.setup.remarks.map((r) =>
        r.answered ? `${r.sentence} Accepted on ${r.answered.at.slice(0, 10)} because ${r.answered.reason}` : r.sentence,
      ),
      a.setup.remarks.length ? "" : "Every set-up rule that applies was checked; none had anything to say.",
    ],
    has("setup", "similarity"),
  );
  section(
    "yardsticks",
    "Yardsticks",
    e.yardsticks.map((y) => `${y.name}: ${y.source}. ${y.validity.sentence}`),
    has("yardsticks"),
  );
  section("runs", "Meshes and runs", [a.stale ? "The runs were made with an earlier set-up: the evidence is stale." : ""], has("runs"));
  section(
    "settling",
    "Settling",
    a.settling.length
      ? a.settling.flatMap((s) => (s.remarks.length ? s.remarks.map((r) => r.sentence) : [`${s.label} has settled: nothing speaks against it.`]))
      : ["No run has delivered results yet."],
    has("settling", "iteration"),
    history && finest ? draw("residuals", `Residuals of ${finest.label}`, residualChart(history, e.dropTarget)) : [],
  );
  section(
    "balance",
    "Balance",
    // Rules and second computations name their run themselves.
    a.balance.length
      ? a.balance.flatMap((b) =>
          b.remarks.length
            ? b.remarks.map((r) => (r.sentence.startsWith(`${b.label}: `) ? r.sentence : `${b.label}: ${r.sentence}`))
            : [`${b.label}: everything that was asked of it closes.`],
        )
      : [`Not measured: no flows through boundaries are known.${notesOf(a.rules, "balance")}`],
    has("balance", "boundaries", "laws", "second"),
  );
  const charts = e.quantities.slice(0, 2).flatMap((q) => {
    const r = a.refinement.find((x) => x.key === q.key);
    if (!r?.result) return [];
    const y = a.comparison.values[q.key]?.[0];
    return [
      ...draw(`value-${q.key}`, `${q.name} against spacing`, valueAgainstSpacing(r, q, y && { value: y.reference, name: y.yardstick })),
      ...draw(
        `error-${q.key}`,
        `Error of ${q.name} against spacing`,
        errorAgainstSpacing(r, q, a.rules.find((x) => x.quantityKey === q.key)?.scale ?? 1),
      ),
    ];
  });
  section(
    "refinement",
    "Refinement",
    a.refinement.flatMap((r) => [r.result ? `${name(r.key)}: ${r.headline}` : r.headline, ...r.remarks.map((m) => m.sentence)]),
    has("refinement", "ladder"),
    charts,
  );
  const curves = a.comparison.profiles.flatMap((p, i) => {
    const own = finest?.result?.profiles.find((x) => x.key === p.profileKey);
    return own ? draw(`profile-${i}`, `${p.name}, ${p.yardstick}`, profileChart(p, own)) : [];
  });
  const orders = a.comparison.orders ? draw("orders", "Error norms against spacing", orderChart(a.comparison.orders, e.formalOrder)) : [];
  section(
    "comparison",
    "Comparison",
    [
      ...e.quantities.flatMap((q) => (a.comparison.values[q.key] ?? []).map((c) => `${q.name} against ${c.yardstick}: ${c.sentence}`)),
      a.comparison.orders?.sentence ?? "",
      ...a.comparison.refused.map((p) => `${p.name} against ${p.yardstick} cannot be compared: ${p.sentence}`),
    ],
    has("comparison", "profiles", "orders"),
    [...curves, ...orders],
  );
  section(
    "findings",
    "Findings",
    book.findings.length
      ? book.findings.map(
          (f) =>
            `${f.title}: ${f.what}${f.cause ? ` Suspected cause: ${f.cause}` : ""}${f.change ? ` Changed: ${f.change}` : ""}${f.curedBy ? ` Cured by ${runLabel(book, f.curedBy)}.` : " Open."}`,
        )
      : ["None written."],
    [],
  );
  const pictures = finest ? await fieldPictures(opened, book, finest.id) : [];
  return {
    format: "tin-ruler-report",
    version: 1,
    number,
    issuedBy,
    issuedAt: issuedAt.toISOString(),
    caseId: row.id,
    title: row.title,
    purpose: row.purpose,
    programme: (await findProgramme(opened.db))?.name ?? "",
    evidenceHash: book.evidenceHash,
    verdicts: a.verdicts.map((v) => ({
      quantity: name(v.quantityKey),
      word: v.word,
      sentence: v.sentence,
      reasons: v.reasons.map((r) => r.sentence),
    })),
    sections,
    tables,
    drawings,
    pictures,
    runs: book.runs.map((r) => ({ label: r.label, code: r.code, settingsHash: r.settingsHash, settings: r.settings })),
  };
}

/** What persons said of a source, for a section that has nothing else to tell. */
function notesOf(rules: readonly QuantityRule[], key: string): string {
  const said = [...new Set(rules.flatMap((r) => r.sources.filter((x) => x.key === key && x.settled).map((x) => x.note)))];
  return said.length ? ` ${said.map(sentenceCase).join(" ")}` : "";
}

/** What was solved, in words. */
function physicsSentence({ row, evidence }: CaseBook): string {
  const p = row.setup.physics;
  if (row.setup.problemId === null)
    return p
      ? `Physics: ${p.time}, ${evidence.setup.compressible ? "compressible" : "incompressible"}, ${p.model}, ${p.space}; computed elsewhere and brought in.`
      : "";
  const w = benchProblem(row.setup.problemId).physicsWords;
  return `Physics: ${w.time}, ${w.compressible ? "compressible" : "incompressible"}, ${w.model}, ${w.space}; solved on the bench.`;
}

const runLabel = (book: CaseBook, id: string) => book.runs.find((r) => r.id === id)?.label ?? "a deleted run";

function makeTables(book: CaseBook, name: (key: string) => string): ReportTable[] {
  const { assessment: a, evidence: e, row } = book;
  const tables: ReportTable[] = [];
  const add = (key: string, title: string, columns: [string, string][], rows: Cell[][]) => {
    if (rows.length) tables.push({ key, title, columns: columns.map(([n, unit]) => ({ name: n, unit })), rows });
  };
  add(
    "sources",
    "Error sources",
    [
      ["quantity", ""],
      ["source", ""],
      ["fraction of scale, 95 %", "1"],
      ["how it was found", ""],
    ],
    a.rules.flatMap((r) => r.sources.map((s): Cell[] => [name(r.quantityKey), s.name, cell(s.relative), s.note])),
  );
  add(
    "setup",
    "Set-up",
    [
      ["input", ""],
      ["value", ""],
      ["unit", ""],
    ],
    [
      ...parameterSpecs(row.setup.problemId).map((s): Cell[] => [
        s.label,
        s.choices?.find((c) => c.value === row.setup.parameters[s.key])?.name ?? row.setup.parameters[s.key],
        s.unit,
      ]),
      ["Fluid", row.setup.fluid.name, ""],
      ...(row.setup.fluid.temperatureK === undefined ? [] : [["Temperature", row.setup.fluid.temperatureK, "K"]]),
      ...(row.setup.fluid.pressurePa === undefined ? [] : [["Pressure", row.setup.fluid.pressurePa, "Pa"]]),
      ...(e.inputs ?? []).map((i): Cell[] => [`${i.label}, uncertainty at 95 %`, i.uncertainty, i.unit]),
      ...Object.entries(e.precision ?? {}).map(([code, p]): Cell[] => [`Precision of ${code}`, p, ""]),
      ...(row.setup.problemId === null ? foreignNumerics(row.setup) : [["Convective scheme", row.setup.numerics.scheme, ""]]),
      ["Orders residuals are to fall", e.dropTarget, ""],
    ],
  );
  add(
    "similarity",
    "Similarity numbers",
    [
      ["number", ""],
      ["value", ""],
      ["unit", ""],
      ["from", ""],
    ],
    a.setup.similarity.map((s) => [s.name, cell(s.value), s.unit, s.formula]),
  );
  add(
    "yardsticks",
    "Yardstick values",
    [
      ["yardstick", ""],
      ["quantity", ""],
      ["value", ""],
      ["standard uncertainty", ""],
      ["unit", ""],
    ],
    e.yardsticks.flatMap((y) =>
      y.values.map((v): Cell[] => [
        y.name,
        name(v.quantityKey),
        v.value,
        cell(v.standardUncertainty),
        e.quantities.find((q) => q.key === v.quantityKey)?.unit ?? "1",
      ]),
    ),
  );
  add(
    "runs",
    "Runs",
    [
      ["run", ""],
      ["code", ""],
      ["cells", "1"],
      ["spacing", "m"],
      ["iterations", "1"],
      ["time", "s"],
      ["state", ""],
      ["settings hash", ""],
    ],
    book.runs.map((r) => {
      const m = book.meshes.find((x) => x.id === r.meshId);
      return [r.label, r.code, cell(m?.cells), cell(m?.spacing), r.iterations, cell(r.seconds), r.state, r.settingsHash.slice(0, 12)];
    }),
  );
  add(
    "settling",
    "Residuals",
    [
      ["run", ""],
      ["equation", ""],
      ["start", "1"],
      ["end", "1"],
      ["drop in orders", "1"],
      ["state", ""],
    ],
    a.settling.flatMap((s) => s.residuals.map((r) => [s.label, r.name, cell(r.start), cell(r.end), cell(r.drop), RESIDUAL_STATE_WORDS[r.state]])),
  );
  add(
    "iteration",
    "Iteration error left",
    [
      ["run", ""],
      ["quantity", ""],
      ["fraction of scale", "1"],
      ["to stay below", "1"],
      ["kind", ""],
    ],
    a.settling.flatMap((s) => s.quantities.map((q) => [s.label, name(q.key), cell(q.relative), q.threshold, q.kind])),
  );
  add(
    "balance",
    "Balance",
    [
      ["run", ""],
      ["what", ""],
      ["net over throughput", "1"],
      ["limit", "1"],
      ["state", ""],
    ],
    a.balance.flatMap((b) => b.lines.map((l) => [b.label, l.what, cell(l.relative), l.limit, l.state])),
  );
  const finest = book.runs.find((r) => r.id === a.ladder[0]);
  const per = finest?.origin === "bench" ? " per m" : "";
  const record = finest?.result?.balance;
  const carried = [...new Set((record?.boundaries ?? []).flatMap((b) => Object.keys(b.scalars ?? {})))];
  add(
    "boundaries",
    `Boundary fluxes of ${finest?.label ?? ""}, outward positive${record?.factor ? `, of the whole: times ${record.factor}` : ""}`,
    [
      ["boundary", ""],
      ["mass", `kg/s${per}`],
      ["x momentum", `N${per}`],
      ["y momentum", `N${per}`],
      ...carried.map((key): [string, string] => [key, key === "energy" ? `W${per}` : key === "species" ? `kg/s${per}` : ""]),
    ],
    [
      ...(record?.boundaries ?? []).map((b) => [
        b.name,
        cell(b.mass),
        cell(sum(b.momentumX)),
        cell(sum(b.momentumY)),
        ...carried.map((key) => cell(sum(b.scalars?.[key]))),
      ]),
      ...(record?.storage
        ? [
            [
              "stored",
              cell(record.storage.mass),
              cell(record.storage.momentum?.[0]),
              cell(record.storage.momentum?.[1]),
              ...carried.map((key) => cell(record.storage?.scalars?.[key])),
            ],
          ]
        : []),
    ],
  );
  add(
    "laws",
    "What symmetry and thermodynamics ask",
    [
      ["run", ""],
      ["rule", ""],
      ["off by, fraction", "1"],
      ["limit", "1"],
      ["state", ""],
    ],
    a.balance.flatMap((b) => b.laws.map((l) => [b.label, l.demands, l.share, l.limit, l.state])),
  );
  add(
    "second",
    "Worked out a second way",
    [
      ["run", ""],
      ["quantity", ""],
      ["unit", ""],
      ["by", ""],
      ["value", ""],
      ["and by", ""],
      ["value again", ""],
      ["apart, fraction", "1"],
      ["limit", "1"],
      ["state", ""],
    ],
    a.balance.flatMap((b) =>
      b.second.map((s) => [b.label, s.name, s.unit, s.firstBy, cell(s.first), s.secondBy, cell(s.second), s.relative, s.limit, s.state]),
    ),
  );
  add(
    "refinement",
    "Three-mesh procedure",
    [
      ["quantity", ""],
      ["unit", ""],
      ["class", ""],
      ["observed order", "1"],
      ["extrapolated", ""],
      ["uncertainty, fraction of scale, 95 %", "1"],
      ["limit", "1"],
      ["safety factor", "1"],
    ],
    a.refinement.flatMap((r): Cell[][] => {
      if (!r.result) return [];
      const m = r.result.kind === "monotone" ? r.result : undefined;
      return [
        [
          name(r.key),
          e.quantities.find((q) => q.key === r.key)?.unit ?? "1",
          r.result.kind === "degenerate" ? "no order" : r.result.kind,
          cell(m?.order),
          cell(m?.extrapolated),
          cell(r.relative),
          r.limit,
          cell(m?.safety),
        ],
      ];
    }),
  );
  add(
    "ladder",
    "Values on the ladder",
    [
      ["quantity", ""],
      ["mesh", ""],
      ["cells", "1"],
      ["spacing", "m"],
      ["value", ""],
      ["unit", ""],
      ["used", ""],
    ],
    a.refinement.flatMap((r) =>
      r.rungs.map((g): Cell[] => [
        name(r.key),
        g.label,
        g.cells,
        g.spacing,
        cell(g.value),
        e.quantities.find((q) => q.key === r.key)?.unit ?? "1",
        g.used ? "yes" : "no",
      ]),
    ),
  );
  add(
    "comparison",
    "Single values",
    [
      ["quantity", ""],
      ["yardstick", ""],
      ["simulated", ""],
      ["reference", ""],
      ["difference, fraction", "1"],
      ["u_val, fraction", "1"],
      ["limit", "1"],
      ["unit", ""],
    ],
    e.quantities.flatMap((q) =>
      (a.comparison.values[q.key] ?? []).map((c): Cell[] => [
        q.name,
        c.yardstick,
        c.simulated,
        c.reference,
        c.difference / c.scale,
        c.uVal === undefined || c.uVal === null ? null : c.uVal / c.scale,
        c.limit,
        q.unit,
      ]),
    ),
  );
  add(
    "profiles",
    "Profiles over the reference points",
    [
      ["profile", ""],
      ["yardstick", ""],
      ["points", "1"],
      ["mean size", ""],
      ["root mean square", ""],
      ["largest", ""],
      ["worst at", ""],
    ],
    a.comparison.profiles.map((p) => [p.name, p.yardstick, p.points.length, p.l1, p.l2, p.linf, cell(p.worst?.at)]),
  );
  const finestProfiles = finest?.result?.profiles ?? [];
  for (const p of finestProfiles)
    tables.push({
      key: `profile-${p.key}`,
      title: `${p.name}, ${finest?.label ?? ""}`,
      columns: [
        { name: p.abscissa.name, unit: p.abscissa.unit },
        { name: p.value.name, unit: p.value.unit },
      ],
      rows: p.abscissa.values.map((x, i) => [x, cell(p.value.values[i])]),
    });
  add(
    "orders",
    "Error against the exact field",
    [
      ["mesh", ""],
      ["spacing", "m"],
      ["L1", a.comparison.orders?.unit ?? ""],
      ["L2", a.comparison.orders?.unit ?? ""],
      ["largest", a.comparison.orders?.unit ?? ""],
      ["order to the next", "1"],
    ],
    (a.comparison.orders?.rows ?? []).map((r) => [r.label, r.spacing, r.l1, r.l2, r.linf, cell(r.order)]),
  );
  return tables;
}

/** What was stated of the other code's numerics. */
const foreignNumerics = (setup: CaseSetup): Cell[][] => [
  ["Order of the convective scheme", setup.stated?.schemeOrder ?? "not stated", ""],
  ["Orders its residuals were to fall", setup.stated?.dropOrders ?? "not stated", ""],
];

const sum = (parts: readonly number[] | undefined) => parts?.reduce((s, v) => s + v, 0);

/** Speed on the finest mesh, cell values as they are. */
async function fieldPictures(opened: Store, book: CaseBook, runId: string): Promise<ReportDocument["pictures"]> {
  const run = book.runs.find((r) => r.id === runId);
  if (!run?.settings.problemId || !("nx" in run.settings.mesh) || (await listFields(opened.db, runId)).length === 0) return [];
  const { mesh, fields } = await runFields(opened, runId);
  const speed = fields[0];
  const range = fieldRange(speed.values);
  const { low, high } = bounds(mesh.pointsM);
  const width = 480;
  const height = Math.max(40, Math.min(480, Math.round((width * (high[1] - low[1])) / (high[0] - low[0]))));
  const painted = paintCells(cellsUnderPixels(mesh, wholeMesh(mesh, width, height)), speed.values, range);
  const rgb = new Uint8Array(3 * width * height);
  for (let i = 0; i < width * height; i++) rgb.set(painted.subarray(4 * i, 4 * i + 3), 3 * i);
  return [
    {
      key: "speed",
      title: `Speed on ${run.label}, cell values, ${range.map(scaleText(range).whole).join(" to ")} m/s`,
      pngBase64: Buffer.from(encodePng(width, height, rgb)).toString("base64"),
    },
  ];
}

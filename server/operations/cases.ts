import { caseNames } from "../repositories/boardRows.ts";
import { markYardstick } from "../repositories/cases.ts";
import { currentProgramme } from "../repositories/programmes.ts";
import { acrossCases, boardView, linesOf } from "../usecases/board.ts";
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
import { openCase } from "../usecases/evidence.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { createFinding, deleteFinding, FindingInput, restoreFinding, saveFinding } from "../usecases/findings.ts";
import { PrecisionInput, SettlementInput, settleSource, statePrecision, withdrawSettlement } from "../usecases/sources.ts";
import { decideStudy, StudyInput, withdrawStudy } from "../usecases/studies.ts";
import { bringUpToDate, consequencesOf, dependenceIn } from "../usecases/upToDate.ts";
import { Done, Id, idOf, type Operation, operation, z } from "./operation.ts";

const Assessment = z.looseObject({
  caseId: z.string(),
  stale: z.boolean(),
  ladder: z.array(z.string()),
  verdicts: z.array(z.looseObject({ quantityKey: z.string(), state: z.string(), word: z.string(), sentence: z.string() })),
});

const Named = z.object({ id: z.string(), title: z.string() });
const Cell = z.object({ state: z.string(), figure: z.string() });

const BoardShape = z.object({
  rows: z.array(
    z.looseObject({
      ...Named.shape,
      kind: z.enum(["exact", "published", "measured"]),
      leading: z.string(),
      board: z.object({ settled: Cell, balanced: Cell, refined: Cell, compared: Cell }),
      verdicts: z.array(z.string()),
      openFindings: z.number(),
      damaged: z.boolean(),
    }),
  ),
  waiting: z.array(Named),
  broken: z.array(Named.extend({ sentence: z.string() })),
  stamp: z.string(),
});

type Titled = z.input<typeof Named>;

const OfProgramme = z.object({ programme: z.uuid().optional() });

const QuantityLineShape = z.looseObject({
  key: z.string(),
  name: z.string(),
  unit: z.string(),
  value: z.number().optional(),
  numerical: z.number(),
  open: z.array(z.string()),
  largest: z.string().optional(),
  limit: z.number(),
  state: z.string(),
  sentence: z.string(),
  next: z.object({ sentence: z.string(), go: z.string() }).optional(),
});

const AcrossShape = QuantityLineShape.extend({ caseId: z.string(), title: z.string() });

/** Cases and their set-ups. */
const cases: readonly Operation[] = [
  operation({
    method: "get",
    path: "/board",
    says: "What is known of every case of the open programme, or of the one named: states, error sources, findings; and which cases are still being worked out.",
    query: OfProgramme,
    output: BoardShape,
    run: async ({ opened, query }) =>
      (await boardView(opened, 0, query.programme ?? (await currentProgramme(opened.db))?.id)) as unknown as z.input<typeof BoardShape>,
  }),
  operation({
    method: "get",
    path: "/cases/{id}/lines",
    says: "Every quantity of a case as the board opens it: verdict, uncertainty, next step; empty while it is being worked out.",
    output: z.array(QuantityLineShape),
    run: async ({ opened, at }) => (await linesOf(opened, at.id)) as unknown as z.input<typeof QuantityLineShape>[],
  }),
  operation({
    method: "get",
    path: "/quantities",
    says: "Every quantity of every case of the open programme, or of the one named, with its numerical uncertainty and its error sources, so that one quantity is seen over all cases.",
    query: OfProgramme,
    output: z.object({ lines: z.array(AcrossShape), waiting: z.array(Named) }),
    run: async ({ opened, query }) =>
      (await acrossCases(opened, 0, query.programme ?? (await currentProgramme(opened.db))?.id)) as unknown as {
        lines: z.input<typeof AcrossShape>[];
        waiting: Titled[];
      },
  }),
  operation({
    method: "get",
    path: "/cases",
    says: "Names of all cases, in the order they were made.",
    output: z.array(Named),
    run: ({ opened }) => caseNames(opened.db),
  }),
  operation({
    method: "post",
    path: "/cases",
    says: "Makes a case of a template, or one whose results come from files.",
    input: NewCaseInput,
    output: Id,
    run: ({ opened, input }) => createCase(opened, input).then(idOf),
  }),
  operation({
    method: "put",
    path: "/cases/{id}",
    says: "Saves the question: title, purpose, conditions, limits. What was taken for granted is said.",
    input: QuestionInput,
    output: z.object({ said: z.array(z.string()) }),
    run: ({ opened, at, input }) => saveQuestion(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/consequences",
    quiet: true,
    says: "What would go stale if the question were saved as it stands, and who can make it anew; nothing is stored.",
    input: QuestionInput,
    output: z.object({
      changes: z.boolean(),
      list: z.array(z.object({ what: z.string(), names: z.array(z.string()), anew: z.string(), sentence: z.string() })),
    }),
    run: async ({ opened, at, input }) => {
      const { changes, list } = await consequencesOf(opened, at.id, input);
      return { changes, list: list.map((c) => ({ ...c, names: [...c.names] })) };
    },
  }),
  operation({
    method: "post",
    path: "/cases/{id}/up-to-date",
    says: "Queues what the bench can make again with the present set-up, and says what a person must do.",
    output: z.object({ runs: z.array(z.string()), byHand: z.array(z.string()) }),
    run: async ({ opened, at }) => {
      const { runs, byHand } = await bringUpToDate(opened, at.id);
      return { runs: runs.map((r) => r.id), byHand: [...byHand] };
    },
  }),
  operation({
    method: "get",
    path: "/cases/{id}/dependence",
    says: "What rests on what in a case, from its files over runs and yardsticks to verdicts and reports, and what of it is stale.",
    output: z.object({
      nodes: z.array(z.looseObject({ id: z.string(), column: z.string(), label: z.string(), fresh: z.boolean(), go: z.string() })),
      edges: z.array(z.array(z.string())),
    }),
    run: async ({ opened, at }) => {
      const { nodes, edges } = await dependenceIn(opened, at.id);
      return { nodes: nodes.map((n) => ({ ...n })), edges: edges.map((e) => [...e]) };
    },
  }),
  operation({
    method: "delete",
    path: "/cases/{id}",
    says: "Deletes a case; it can be restored.",
    output: Done,
    run: ({ opened, at }) => deleteCase(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/restore",
    says: "Takes the deletion of a case back.",
    output: Done,
    run: ({ opened, at }) => restoreCase(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/copy",
    says: "Makes a case like another one: set-up, quantities, typed yardsticks and mesh rule, no runs.",
    input: CopyCaseInput,
    output: Id,
    run: ({ opened, at, input }) => copyCase(opened, at.id, input).then(idOf),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/assessment",
    says: "Everything that is said of a case: the object that screen and report show.",
    output: Assessment,
    run: async ({ opened, at }) => {
      const { assessment } = await openCase(opened, at.id);
      return { ...assessment, ladder: [...assessment.ladder], verdicts: assessment.verdicts.map((v) => ({ ...v })) };
    },
  }),
  operation({
    method: "get",
    path: "/cases/{id}/settling/{run}",
    says: "How one run of a case settled: the part of the assessment that speaks of it.",
    output: z.looseObject({ runId: z.string(), label: z.string(), state: z.string() }),
    run: async ({ opened, at }) => {
      const found = (await openCase(opened, at.id)).assessment.settling.find((s) => s.runId === at.run);
      if (!found) throw new UseCaseError("not-found", "Nothing is known of how that run settled.");
      return { ...found };
    },
  }),
  operation({
    method: "get",
    path: "/cases/{id}/others",
    says: "Cases a set-up can be compared with.",
    output: z.array(z.object({ id: z.string(), title: z.string() })),
    run: ({ opened, at }) => otherCases(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/compare/{other}",
    says: "What differs between the set-ups of two cases.",
    output: z.array(z.object({ path: z.string(), left: z.string(), right: z.string() })),
    run: ({ opened, at }) => compareSetups(opened, at.id, at.other),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/answers",
    says: "Accepts a remark on the set-up, with a reason.",
    input: AnswerInput,
    output: Done,
    run: ({ opened, at, input }) => answerRemark(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/cases/{id}/answers/{rule}",
    says: "Takes the answer to a remark back.",
    output: Done,
    run: ({ opened, at }) => withdrawAnswer(opened, at.id, at.rule),
  }),
];

const yardsticks: readonly Operation[] = [
  operation({
    method: "post",
    path: "/cases/{id}/yardsticks",
    says: "Adds a typed yardstick.",
    input: YardstickInput,
    output: Done,
    run: ({ opened, at, input }) => createYardstick(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/yardsticks/{id}",
    says: "Deletes a typed yardstick; it can be restored.",
    output: Done,
    run: ({ opened, at }) => markYardstick(opened.db, at.id, new Date()),
  }),
  operation({
    method: "post",
    path: "/yardsticks/{id}/restore",
    says: "Takes the deletion of a yardstick back.",
    output: Done,
    run: ({ opened, at }) => markYardstick(opened.db, at.id, null),
  }),
];

/** What persons say: of error sources that no run shows, and of what they found. */
const said: readonly Operation[] = [
  operation({
    method: "post",
    path: "/cases/{id}/settlements",
    says: "Settles an error source by hand: estimated, bounded or not applicable, signed and with a reason.",
    input: SettlementInput,
    output: Done,
    run: ({ opened, at, input }) => settleSource(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/cases/{id}/settlements/{source}/{quantity}",
    says: "Takes back what was said of an error source.",
    output: Done,
    run: ({ opened, at }) => withdrawSettlement(opened, at.id, at.source, at.quantity),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/studies",
    says: "Takes a run off the ladders, adopts a procedure for a quantity, or declares that one does not converge, says how the error of the finest mesh lies (signed and with a reason), or holds a run against those of other codes.",
    input: StudyInput,
    output: Done,
    run: ({ opened, at, input }) => decideStudy(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/cases/{id}/studies/{kind}/{of}",
    says: "Takes back a decision about the ladders.",
    output: Done,
    run: ({ opened, at }) => withdrawStudy(opened, at.id, at.kind, at.of),
  }),
  operation({
    method: "put",
    path: "/settings/precision",
    says: "States the precision a code works in, for every case computed with it.",
    input: PrecisionInput,
    output: Done,
    run: ({ opened, input }) => statePrecision(opened, input),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/findings",
    says: "Writes a finding.",
    input: FindingInput,
    output: Id,
    run: ({ opened, at, input }) => createFinding(opened, at.id, input).then(idOf),
  }),
  operation({
    method: "put",
    path: "/findings/{id}",
    says: "Saves a finding.",
    input: FindingInput,
    output: Done,
    run: ({ opened, at, input }) => saveFinding(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/findings/{id}",
    says: "Deletes a finding; it can be restored.",
    output: Done,
    run: ({ opened, at }) => deleteFinding(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/findings/{id}/restore",
    says: "Takes the deletion of a finding back.",
    output: Done,
    run: ({ opened, at }) => restoreFinding(opened, at.id),
  }),
];

export const CASE_OPERATIONS: readonly Operation[] = [...cases, ...yardsticks, ...said];

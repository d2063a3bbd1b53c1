import { OWN_SEVERITIES, RELATIONS } from "../../core/records/ownRule.ts";
import { DECISION_RULES } from "../../core/records/programme.ts";
import { dropRule, makeRule, OwnRuleInput, ruleNames } from "../usecases/ownRules.ts";
import {
  createProgramme,
  deleteProgramme,
  NewProgrammeInput,
  openProgramme,
  PlaceInput,
  ProgrammeInput,
  placeInProgramme,
  programmeSummary,
  programmes,
  restoreProgramme,
  saveProgramme,
  takeLimitsOver,
} from "../usecases/programmes.ts";
import { Done, Id, idOf, type Operation, operation, z } from "./operation.ts";

const Programme = z.object({
  id: z.string(),
  name: z.string(),
  purpose: z.string(),
  people: z.array(z.object({ initials: z.string(), role: z.string() })),
  limits: z.array(z.object({ quantity: z.string(), limit: z.number() })),
  decision: z.enum(DECISION_RULES),
  stakes: z.object({ consequence: z.number(), influence: z.number() }).nullable(),
  rules: z.array(
    z.object({
      key: z.string(),
      name: z.string(),
      left: z.string(),
      relation: z.enum(RELATIONS),
      right: z.string(),
      severity: z.enum(OWN_SEVERITIES),
      reason: z.string(),
      by: z.string(),
      at: z.string(),
      findingId: z.string().optional(),
    }),
  ),
  cases: z.number(),
});

const Summary = z.object({
  points: z.array(z.object({ id: z.string(), title: z.string() })),
  applications: z.array(z.object({ id: z.string(), title: z.string(), coverage: z.looseObject({ inside: z.boolean(), sentence: z.string() }) })),
  wide: z.array(
    z.object({
      caseId: z.string(),
      title: z.string(),
      quantityKey: z.string(),
      quantity: z.string(),
      limit: z.number(),
      allowed: z.number(),
    }),
  ),
  waiting: z.number(),
});

/** Programmes: sets of cases with a purpose, people, limits and a rule of their own. */
export const PROGRAMME_OPERATIONS: readonly Operation[] = [
  operation({
    method: "get",
    path: "/programmes",
    says: "Every programme with how many cases it has, and which one is open.",
    output: z.object({ list: z.array(Programme), current: z.string().optional() }),
    run: async ({ opened }) => {
      const { list, current } = await programmes(opened);
      return { list: list.map((p) => ({ ...p, people: [...p.people], limits: [...p.limits], rules: p.rules.map((r) => ({ ...r })) })), current };
    },
  }),
  operation({
    method: "post",
    path: "/programmes",
    says: "Makes a programme and opens it.",
    input: NewProgrammeInput,
    output: Id,
    run: ({ opened, input }) => createProgramme(opened, input).then(idOf),
  }),
  operation({
    method: "put",
    path: "/programmes/{id}",
    says: "Saves what a programme is for, who works on it, what hangs on it, and by which limits and rule its cases are judged.",
    input: ProgrammeInput,
    output: Done,
    run: ({ opened, at, input }) => saveProgramme(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/programmes/{id}/open",
    says: "Opens a programme: the board shows it, and new cases belong to it.",
    output: Done,
    run: ({ opened, at }) => openProgramme(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/programmes/{id}/summary",
    says: "How far the applications of a programme are covered by its evidence, and which limits are wider than its own.",
    output: Summary,
    run: async ({ opened, at }) => (await programmeSummary(opened, at.id, 0)) as unknown as z.input<typeof Summary>,
  }),
  operation({
    method: "post",
    path: "/programmes/{id}/limits",
    says: "Takes the limits of a programme over to its cases where theirs are wider.",
    output: z.object({ changed: z.number() }),
    run: async ({ opened, at }) => ({ changed: await takeLimitsOver(opened, at.id) }),
  }),
  operation({
    method: "delete",
    path: "/programmes/{id}",
    says: "Deletes a programme without cases; it can be restored.",
    output: Done,
    run: ({ opened, at }) => deleteProgramme(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/programmes/{id}/restore",
    says: "Takes the deletion of a programme back.",
    output: Done,
    run: ({ opened, at }) => restoreProgramme(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/rule-names",
    says: "Names a set-up rule may use in a case, with their values in SI.",
    output: z.array(z.object({ name: z.string(), unit: z.string(), value: z.number() })),
    run: async ({ opened, at }) => (await ruleNames(opened, at.id)).map((v) => ({ ...v })),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/rules",
    says: "Makes a set-up rule of the programme's own, written at one of its cases; what it says of that case is told.",
    input: OwnRuleInput,
    output: z.object({ said: z.string() }),
    run: ({ opened, at, input }) => makeRule(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/programmes/{id}/rules/{rule}",
    says: "Takes a set-up rule of a programme away.",
    output: Done,
    run: ({ opened, at }) => dropRule(opened, at.id, at.rule),
  }),
  operation({
    method: "put",
    path: "/cases/{id}/place",
    says: "Says which programme a case belongs to, where it stands towards the application, and marks it with words.",
    input: PlaceInput,
    output: Done,
    run: ({ opened, at, input }) => placeInProgramme(opened, at.id, input),
  }),
];

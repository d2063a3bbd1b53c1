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
import { chooseTake, TakeInput } from "../usecases/records.ts";
import { Done, type Operation, operation, z } from "./operation.ts";

const Range = z.tuple([z.number(), z.number()]).readonly();

/** What is asked of a case: brought-in, watched and worked-out quantities. */
export const QUANTITY_OPERATIONS: readonly Operation[] = [
  operation({
    method: "post",
    path: "/cases/{id}/quantities",
    says: "Adds a quantity to a case whose results are brought in.",
    input: QuantityInput,
    output: Done,
    run: ({ opened, at, input }) => createQuantity(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/cases/{id}/quantities/{key}",
    says: "Takes an added quantity off a case; it can be restored.",
    output: Done,
    run: ({ opened, at }) => removeQuantity(opened, at.id, at.key, new Date()),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/quantities/{key}/restore",
    says: "Puts a quantity that was taken off back.",
    output: Done,
    run: ({ opened, at }) => removeQuantity(opened, at.id, at.key, null),
  }),
  operation({
    method: "put",
    path: "/cases/{id}/quantities/{key}/take",
    says: "Chooses which statistic of its record stands for a quantity.",
    input: TakeInput,
    output: Done,
    run: ({ opened, at, input }) => chooseTake(opened, at.id, at.key, input.take),
  }),
  operation({
    method: "put",
    path: "/cases/{id}/quantities/{key}/kind",
    says: "States what a quantity is, where rules ask for it.",
    input: KindInput,
    output: Done,
    run: ({ opened, at, input }) => chooseKind(opened, at.id, at.key, input.kind),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/monitors",
    says: "Fields, boundaries and extent that a watched quantity can ask for.",
    output: z.object({
      fields: z.array(z.object({ key: z.string(), name: z.string(), unit: z.string() })),
      carried: z.array(z.string()),
      boundaries: z.array(z.string()),
      extentM: z.tuple([Range, Range]).readonly(),
    }),
    run: ({ opened, at }) => monitorChoices(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/monitors",
    says: "Adds a quantity that later runs of the bench watch.",
    input: NewMonitorInput,
    output: Done,
    run: ({ opened, at, input }) => createMonitor(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/derived",
    says: "Adds a quantity worked out of others by a formula.",
    input: DerivedInput,
    output: Done,
    run: ({ opened, at, input }) => createDerived(opened, at.id, input),
  }),
];

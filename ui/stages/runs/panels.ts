"use client";

import nextDynamic from "next/dynamic";

// What opens at a press is fetched at the press: a page that only shows runs does without forms, readers and catalogues.
export const BringIn = nextDynamic(() => import("../bringIn/BringIn").then((m) => m.BringIn));
export const AddToRun = nextDynamic(() => import("../bringIn/AddToRun").then((m) => m.AddToRun));
export const ConditionForm = nextDynamic(() => import("./ConditionForm").then((m) => m.ConditionForm));
export const GridForm = nextDynamic(() => import("./GridForm").then((m) => m.GridForm));
export const SurfaceForm = nextDynamic(() => import("./surface/SurfaceForm").then((m) => m.SurfaceForm));
export const BuildForm = nextDynamic(() => import("./BuildForm").then((m) => m.BuildForm));
export const PlanSweep = nextDynamic(() => import("./PlanSweep").then((m) => m.PlanSweep));
export const AddCurves = nextDynamic(() => import("../../curves/AddCurves").then((m) => m.AddCurves));
export const CopyDialog = nextDynamic(() => import("./CopyDialog").then((m) => m.CopyDialog));
// What is there in some cases alone comes with those.
export const SweepTable = nextDynamic(() => import("./SweepTable").then((m) => m.SweepTable));
export const Differences = nextDynamic(() => import("./Differences").then((m) => m.Differences));

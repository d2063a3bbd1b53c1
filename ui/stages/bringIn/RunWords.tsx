import { entryOf } from "../../forms/entries";
import type { FlowWords } from "./Flows";

/** What is said of a brought-in run, as typed. */
export interface Words extends FlowWords {
  readonly label: string;
  readonly code: string;
  readonly cells: string;
  readonly volume: string;
  readonly recipe: string;
  readonly schemeOrder: string;
  readonly dropOrders: string;
  readonly timeStep: string;
  readonly domain: string;
  readonly note: string;
  readonly version: string;
  readonly options: string;
  readonly compiler: string;
  readonly machine: string;
}

export const noWords = (share: number): Words => ({
  label: "",
  code: "",
  cells: "",
  volume: "",
  recipe: "",
  signs: "outward",
  schemeOrder: "",
  dropOrders: "",
  timeStep: "",
  domain: "",
  note: "",
  version: "",
  options: "",
  compiler: "",
  machine: "",
  factor: String(Math.round(1 / share)),
});

/** Cells as a number, whatever stands between its digits; 0 where there is none, which the server refuses. */
export const cellsOf = (text: string): number => Number(text.replace(/[^\d.eE]/g, "")) || 0;

/** Settings of the run itself, of those that were typed. */
export const ownSettings = (w: Words) => ({
  ...(w.schemeOrder ? { schemeOrder: Number(w.schemeOrder) as 1 | 2 } : {}),
  ...(w.dropOrders.trim() ? { dropOrders: Number(w.dropOrders) } : {}),
  ...(w.timeStep.trim() ? { timeStepS: Number(w.timeStep) } : {}),
  ...(w.domain.trim() ? { domainM: Number(w.domain) } : {}),
  ...(w.note.trim() ? { note: w.note.trim() } : {}),
});

/** Build of the code, of what was typed. */
export function buildWords({ version, options, compiler, machine }: Words) {
  const typed = Object.entries({ version, options, compiler, machine }).filter(([, text]) => text.trim());
  return typed.length ? { build: Object.fromEntries(typed) } : {};
}

const ORDERS = [
  ["", "as the case says"],
  ["1", "first"],
  ["2", "second"],
] as const;

/** The size of a mesh, asked for by its dimension. */
export const SIZE_WORDS = {
  2: { label: "Area meshed", placeholder: "0.36 m^2" },
  3: { label: "Volume meshed", placeholder: "1.08 m^3" },
} as const;

const Entry = entryOf<Words>();

/** Name, code, cells and size of a run, and settings of its own. */
export function RunWords({ dimension }: { dimension: 2 | 3 }) {
  return (
    <>
      <div className="mt-3 grid grid-cols-[1.4fr_1fr_0.8fr_1fr_1fr] items-end gap-2">
        <Entry name="label" label="Name of the run" words />
        <Entry name="code" label="Code" words />
        <Entry name="version" label="Its version" words placeholder="not stated" />
        <Entry name="cells" label="Cells" />
        <Entry name="volume" {...SIZE_WORDS[dimension]} />
      </div>
      <details className="mt-2">
        <summary className="cursor-pointer text-[12px] text-ink-2">This run was made with settings of its own</summary>
        <div className="mt-1 grid max-w-[860px] grid-cols-5 gap-2">
          <Entry name="schemeOrder" label="Order of its scheme" choices={ORDERS} />
          <Entry name="dropOrders" label="Orders residuals fell" />
          <Entry name="timeStep" label="Time step, s" />
          <Entry name="domain" label="Extent of the domain, m" />
          <Entry name="note" label="Note" words />
          <Entry name="options" label="Options of the code" words />
          <Entry name="compiler" label="Compiler" words />
          <Entry name="machine" label="Machine" words />
        </div>
      </details>
    </>
  );
}

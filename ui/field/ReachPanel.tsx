"use client";

import { useState } from "react";
import { significant } from "@/core/formatting/number";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { HOLES, proposedLengths, type Reach, type ReachOfWay } from "@/core/monitors/reach";
import { ask } from "../engine/engine";
import { Field } from "../forms/Field";
import { typedNumber } from "../forms/typedNumber";
import { sentenceOf } from "../shell/notify";
import { CsvButton } from "../tables/CsvButton";
import { DataTable } from "../tables/DataTable";
import type { Stroke } from "./useFieldWork";

interface Props {
  readonly mesh: FaceMesh;
  readonly values: Float64Array;
  readonly name: string;
  readonly unit: string;
  /** the contour of the limit, to be drawn over the field; nothing where there is none */
  readonly show: (contour: Stroke | undefined) => void;
}

const CONTOUR = { color: "#B5412B", width: 1.6 };

/** How far the flow departs from the free stream around a body, by direction, and a domain that leaves room for it. */
export function ReachPanel({ mesh, values, name, unit, show }: Props) {
  const named = mesh.boundaries.length > 1;
  const [body, setBody] = useState(HOLES);
  const [free, setFree] = useState("");
  const [percent, setPercent] = useState("1");
  const [found, setFound] = useState<Reach>();
  const [mistake, setMistake] = useState("");
  const measure = async () => {
    const [far, share] = [typedNumber(free), typedNumber(percent)];
    show(undefined);
    setFound(undefined);
    if (!Number.isFinite(far)) return setMistake(`Far away: "${free}" is not a number.`);
    if (!(share > 0) || far === 0) return setMistake("The limit is a share of the value far away: both other than 0.");
    setMistake("");
    try {
      const { reach, contour } = await ask("reach", { mesh, values, free: far, limit: (Math.abs(far) * share) / 100, body });
      setFound(reach);
      show({ segments: contour, ...CONTOUR });
    } catch (error) {
      setMistake(sentenceOf(error));
    }
  };
  return (
    <section className="mt-2" aria-label="How far the disturbance reaches">
      <form
        className="no-print grid grid-cols-3 items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void measure();
        }}
      >
        <Field label={`${name} far away, ${unit}`} value={free} onChange={setFree} />
        <Field label="Departs by more than, %" value={percent} onChange={setPercent} />
        <Field
          label="The body is"
          words
          value={body}
          choices={[[HOLES, "what stands inside"], ...(named ? mesh.boundaries.map((b) => [b.name, b.name] as const) : [])]}
          onChange={setBody}
        />
        <button type="submit" className="btn quiet small justify-self-start">
          Measure it
        </button>
      </form>
      {mistake ? <p className="mistake">{mistake}</p> : null}
      {found ? <Found reach={found} unit={unit} /> : null}
    </section>
  );
}

function Found({ reach, unit }: { readonly reach: Reach; readonly unit: string }) {
  const lengths = (m: number) => significant(m / reach.bodyM, 3);
  const proposed = (w: ReachOfWay): string => {
    if (w.roomM === 0) return "–";
    const found = proposedLengths(w, reach.bodyM);
    if (found === undefined) return "not known";
    return `${w.cutOff ? "about " : ""}${found}`;
  };
  return (
    <>
      <DataTable
        className="mt-1"
        rows={reach.ways}
        rowKey={(w) => w.way}
        columns={[
          { header: "Way", words: true, cell: (w) => w.way },
          { header: "Reaches, m", cell: (w) => `${w.cutOff ? "> " : ""}${significant(w.extentM, 3)}` },
          { header: "lengths", cell: (w) => `${w.cutOff ? "> " : ""}${lengths(w.extentM)}` },
          { header: "Domain has", cell: (w) => (w.roomM ? lengths(w.roomM) : "nothing") },
          { header: "Should have", cell: proposed },
        ]}
      />
      <p className="text-[11.5px] text-ink-2">
        Lengths of the body, {significant(reach.bodyM, 3)} m; the limit is {significant(reach.limit, 3)} {unit}.{" "}
        {reach.ways.some((w) => w.cutOff)
          ? "Where the domain cuts the disturbance off, what it should have follows from how it falls on the outer half of the way: compute it again with more room. "
          : ""}
        A fifth is kept beyond it. {reach.elsewhere ? `${reach.elsewhere} cells depart elsewhere, apart from the body.` : ""}
      </p>
      <CsvButton
        name="reach"
        header={["way", "reaches, m", "cut off", "domain has, m", "body, m"]}
        rows={reach.ways.map((w) => [w.way, w.extentM, w.cutOff ? "yes" : "no", w.roomM, reach.bodyM])}
      />
    </>
  );
}

"use client";

import { useState } from "react";
import { axisText, significant, unitText } from "@/core/formatting/number";
import { HOLES, OFF_BOX } from "@/core/monitors/reach/around";
import { proposedLengths, type Reach, type ReachOfWay } from "@/core/monitors/reach/reach";
import { Field } from "../forms/Field";
import { typedNumber } from "../forms/typedNumber";
import { sentenceOf } from "../shell/notify";
import { CsvButton } from "../tables/CsvButton";
import { DataTable } from "../tables/DataTable";

interface Props {
  readonly name: string;
  readonly unit: string;
  /** boundaries that may be the body */
  readonly named: readonly string[];
  readonly className: string;
  /** beside a view: lengths of the body alone */
  readonly narrow?: boolean;
  /** @param limit departure that counts as none, in the field's unit */
  readonly measure: (free: number, limit: number, body: string) => Promise<Reach>;
  /** nothing holds any more of what was found before */
  readonly begun?: () => void;
}

/** How far the flow departs from the free stream around a body, by direction, and a domain that leaves room for it. */
export function ReachForm({ name, unit, named, className, narrow = false, measure, begun }: Props) {
  const [body, setBody] = useState(HOLES);
  const [free, setFree] = useState("");
  const [percent, setPercent] = useState("1");
  const [found, setFound] = useState<Reach>();
  const [mistake, setMistake] = useState("");
  const [busy, setBusy] = useState(false);
  const put = async () => {
    const [far, share] = [typedNumber(free), typedNumber(percent)];
    begun?.();
    setFound(undefined);
    if (!Number.isFinite(far)) return setMistake(`Far away: "${free}" is not a number.`);
    if (!(share > 0) || far === 0) return setMistake("The limit is a share of the value far away: both other than 0.");
    setMistake("");
    setBusy(true);
    try {
      setFound(await measure(far, (Math.abs(far) * share) / 100, body));
    } catch (error) {
      setMistake(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <form
        className={className}
        onSubmit={(e) => {
          e.preventDefault();
          void put();
        }}
      >
        <Field label={axisText({ name: `${name} far away`, unit })} value={free} onChange={setFree} />
        <Field label="Departs by more than, %" value={percent} onChange={setPercent} />
        <Field
          label="The body is"
          words
          value={body}
          choices={[[HOLES, "what stands inside"], [OFF_BOX, "what stands on the rim"], ...named.map((b) => [b, b] as const)]}
          onChange={setBody}
        />
        <button type="submit" className="btn quiet small justify-self-start" disabled={busy}>
          {busy ? "Measuring it" : "Measure it"}
        </button>
      </form>
      <div aria-live="polite">{mistake ? <p className="mistake">{mistake}</p> : null}</div>
      {found ? <Found reach={found} unit={unit} narrow={narrow} /> : null}
    </>
  );
}

function Found({ reach, unit, narrow }: { readonly reach: Reach; readonly unit: string; readonly narrow: boolean }) {
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
          ...(narrow ? [] : [{ header: "Reaches, m", cell: (w: ReachOfWay) => `${w.cutOff ? "> " : ""}${significant(w.extentM, 3)}` }]),
          { header: narrow ? "Reaches" : "lengths", cell: (w) => `${w.cutOff ? "> " : ""}${lengths(w.extentM)}` },
          { header: narrow ? "has" : "Domain has", cell: (w) => (w.roomM ? lengths(w.roomM) : "nothing") },
          { header: narrow ? "should have" : "Should have", cell: proposed },
        ]}
      />
      <p className="text-[11.5px] text-ink-2">
        {narrow ? "All in lengths" : "Lengths"} of the body, {significant(reach.bodyM, 3)} m; the limit is {significant(reach.limit, 3)}{" "}
        {unitText(unit)}.{" "}
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

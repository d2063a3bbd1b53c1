"use client";

import { useState } from "react";
import { FormProvider } from "react-hook-form";
import { uploaded } from "../api/upload";
import { filled, type KnownCurve } from "../curves/targets";
import { NO_WORDS, WordEntries, type YardstickWords } from "../curves/WordEntries";
import { entryOf, useEntries } from "../forms/entries";
import type { CaseView } from "../view";
import { CalibrationForm, CurveForm, ModeChoice } from "./FigureForms";
import { type OpenPicture, openPicture } from "./openPicture";
import { PicturePane } from "./PicturePane";
import { calibrationOf, useFigure } from "./useFigure";

interface Words extends YardstickWords {
  readonly xName: string;
  readonly xUnit: string;
  readonly yName: string;
  readonly yUnit: string;
}

const Entry = entryOf<Words>();
const EMPTY: Words = { ...NO_WORDS, kind: "table", xName: "", xUnit: "", yName: "", yUnit: "" };

/** Curves read off a picture: calibrated, clicked or traced, and taken as a yardstick with the picture kept. */
export function ReadFigure({ view, known, done }: { view: CaseView; known: readonly KnownCurve[]; done: () => void }) {
  const figure = useFigure();
  const { form, save, busy } = useEntries<Words>(EMPTY);
  const [file, setFile] = useState<File>();
  const [mistake, setMistake] = useState("");
  const [sending, setSending] = useState(false);
  const { open, state } = figure;
  const read = async (next: File, page: number) => {
    setMistake("");
    try {
      await figure.begin(await openPicture(next, page));
    } catch (error) {
      setMistake(error instanceof Error ? error.message : String(error));
    }
  };
  const found = state && calibrationOf(state);
  const curves = state?.curves.filter((c) => c.places.length >= 2) ?? [];
  const ready = open && state && found && "calibration" in found && curves.length ? found.calibration : undefined;
  const take = form.handleSubmit(async (typed) => {
    if (!ready || !open || !state) return;
    setSending(true);
    try {
      const hash = await sendPicture(open);
      const { xName, xUnit, yName, yUnit, conditions, ...words } = typed;
      const input = {
        ...words,
        conditions: filled(conditions),
        picture: { hash, name: open.name, sourceHash: open.sourceHash },
        calibration: ready as never,
        x: { name: xName, unit: xUnit },
        y: { name: yName, unit: yUnit },
        doubt: { reading: state.reading, calibration: state.calibrating },
        coverage: state.coverage,
        curves: curves.map(({ name, target, places }) => ({ name, target, places: places as never })),
      };
      if (
        await save(
          "POST /cases/{id}/figures",
          { at: { id: view.id }, input },
          `${curves.length === 1 ? "A curve" : `${curves.length} curves`} read off ${open.name}.`,
        )
      )
        done();
    } catch (error) {
      setMistake(error instanceof Error ? error.message : String(error));
    } finally {
      setSending(false);
    }
  });
  return (
    <FormProvider {...form}>
      <form className="mb-5 border border-line bg-margin p-3" onSubmit={take} aria-label="Read a figure">
        <div className="flex items-end gap-4">
          <div>
            <label htmlFor="figure-file">A picture of the figure: PNG, JPEG or PDF</label>
            <input
              id="figure-file"
              type="file"
              accept=".png,.jpg,.jpeg,.pdf"
              className="block text-[12px]"
              onChange={(e) => {
                const next = e.target.files?.[0];
                setFile(next);
                if (next) void read(next, 1);
              }}
            />
          </div>
          {open?.pages && open.pages > 1 && file ? <PageChoice pages={open.pages} choose={(page) => void read(file, page)} /> : null}
        </div>
        {mistake ? <p className="mistake mt-1">{mistake}</p> : null}
        {open && state ? (
          <>
            <div className="my-2">
              <ModeChoice figure={figure} />
            </div>
            <PicturePane key={open.name} figure={figure} open={open} state={state} />
            <CalibrationForm figure={figure} state={state} />
            <CurveForm figure={figure} state={state} known={known} />
            <div className="mt-3 grid grid-cols-4 gap-2">
              <Entry name="xName" label="x is" words placeholder="y/H" />
              <Entry name="xUnit" mistake="xUnit" label="Unit of x" placeholder="empty for none" />
              <Entry name="yName" label="y is" words placeholder="u/U" />
              <Entry name="yUnit" mistake="yUnit" label="Unit of y" placeholder="empty for none" />
            </div>
            <WordEntries />
            <div className="mt-3 flex items-center justify-end gap-3">
              {ready ? null : <span className="text-[12px] text-ink-3">Needs calibrated axes and a curve of two points.</span>}
              <button type="submit" className="btn" disabled={busy || sending || !ready}>
                Take as yardstick
              </button>
            </div>
          </>
        ) : null}
      </form>
    </FormProvider>
  );
}

function PageChoice({ pages, choose }: { pages: number; choose: (page: number) => void }) {
  const [page, setPage] = useState("1");
  return (
    <div className="flex items-end gap-1">
      <div>
        <label htmlFor="figure-page">Page of {pages}</label>
        <input id="figure-page" className="field w-16!" value={page} onChange={(e) => setPage(e.target.value)} />
      </div>
      <button type="button" className="btn quiet small" onClick={() => choose(Number(page))}>
        Show it
      </button>
    </div>
  );
}

/** The picture as it was read, kept as PNG. @throws {Error} It did not arrive. */
async function sendPicture({ canvas }: OpenPicture): Promise<string> {
  const png = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/png"));
  if (!png) throw new Error("The picture could not be written as PNG.");
  return uploaded(png);
}

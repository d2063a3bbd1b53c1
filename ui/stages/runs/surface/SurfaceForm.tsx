"use client";

import { useEffect, useState } from "react";
import type { Division, PatchRecipe } from "@/core/dataset/patches";
import type { SurfaceLook } from "@/core/intake/surfaceLook";
import { uploaded } from "../../../api/upload";
import { ConfirmButton } from "../../../forms/ConfirmButton";
import { FormEnd } from "../../../forms/FormEnd";
import { useFocusOnOpen } from "../../../forms/useFocusOnOpen";
import { useSave } from "../../../forms/useSave";
import { notify, sentenceOf } from "../../../shell/notify";
import { askSpace } from "../../../space/askSpace";
import { bytesAt } from "../../../space/bytesAt";
import { SpaceView } from "../../../space/SpaceView";
import type { RunsView, RunView } from "../../../view";
import { Arrays } from "./Arrays";
import { Faults } from "./Faults";
import { Links } from "./Links";
import { Pieces } from "./Pieces";
import { Splits } from "./Splits";
import { firstTyped, inputOf, linkable, patchNames, recipeOf, type TypedSurface } from "./said";

interface Props {
  readonly view: RunsView;
  readonly run: RunView;
  readonly done: () => void;
}

interface Opened {
  readonly look: SurfaceLook;
  readonly name: string;
  /** where it lies, once it was sent */
  readonly hash: string | undefined;
  readonly file: Blob | undefined;
}

/** The surface of a brought-in run: looked at in this page first, named, and held against what was reported. */
export function SurfaceForm({ view, run, done }: Props) {
  const [opened, setOpened] = useState<Opened>();
  const [busy, setBusy] = useState("");
  const [mistake, setMistake] = useState("");
  const own = useFocusOnOpen<HTMLElement>();
  const open = async (name: string, bytes: () => Promise<Uint8Array>, more: Pick<Opened, "hash" | "file">, recipe?: PatchRecipe) => {
    setMistake("");
    setBusy(`Reading ${name}`);
    try {
      const look = await askSpace("load", {
        bytes: await bytes(),
        ...(recipe ? { division: recipe.division, names: recipe.names } : {}),
      });
      setOpened({ look, name, ...more });
    } catch (error) {
      setOpened(undefined);
      setMistake(sentenceOf(error));
    } finally {
      setBusy("");
    }
  };
  const kept = run.surface;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the surface that is kept is opened once, when the form is
  useEffect(() => {
    if (!kept) return;
    const fetched = () => bytesAt(`/api/runs/${run.id}/surface/file`, "surface");
    void open(kept.file.name, fetched, { hash: kept.file.hash, file: undefined }, kept.said.recipe);
  }, []);
  return (
    <section ref={own} className="mb-3 border border-line bg-margin p-3" aria-label={`Surface of ${run.label}`}>
      <h3>Surface of {run.label}</h3>
      <label htmlFor="surface-file" className="block">
        {kept ? "Another file in its place" : "The surface the flow acts on"} (vtp, vtu, vts, vti, vtr, cgns, stl, ply), with pressure and stress
        along the wall
      </label>
      <input
        id="surface-file"
        type="file"
        accept=".vtp,.vtu,.vts,.vti,.vtr,.cgns,.stl,.ply"
        className="block text-[12px]"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void open(file.name, async () => new Uint8Array(await file.arrayBuffer()), { hash: undefined, file });
        }}
      />
      <p className="min-h-5 text-[12px] text-ink-2" aria-live="polite">
        {busy}
      </p>
      {mistake ? <p className="mistake">{mistake}</p> : null}
      {opened ? (
        <Said key={`${opened.name} ${opened.hash}`} view={view} run={run} opened={opened} done={done} />
      ) : (
        <button type="button" className="btn quiet mt-1" onClick={done}>
          Leave it
        </button>
      )}
    </section>
  );
}

function Said({ view, run, opened, done }: Props & { readonly opened: Opened }) {
  const [look, setLook] = useState(opened.look);
  const quantities = linkable(view.evidence.quantities);
  const [typed, setTyped] = useState<TypedSurface>(() =>
    firstTyped(opened.look, quantities, run.settings.parameters, opened.hash === undefined ? null : (run.surface ?? null)),
  );
  const [mistake, setMistake] = useState("");
  const { save, busy, mistakes } = useSave();
  const set = (change: Partial<TypedSurface>) => setTyped((t) => ({ ...t, ...change }));
  const divide = async (division: Division) => {
    try {
      const found = await askSpace("divide", { division });
      setLook(found);
      set({ division: found.division, names: found.pieces.map((p) => p.called ?? "") });
      setMistake("");
    } catch (error) {
      setMistake(sentenceOf(error));
    }
  };
  const recipe = recipeOf(typed, look.pieces);
  const take = async () => {
    try {
      const hash = opened.hash ?? (await uploaded(opened.file as Blob));
      const input = inputOf(typed, look, quantities, { hash, name: opened.name });
      const told = await save(
        "POST /runs/{id}/surface",
        { at: { id: run.id }, input },
        `${run.label} has its surface; what it gives stands at Balance.`,
      );
      if (!told) return;
      for (const note of told.notes) notify(note);
      done();
    } catch (error) {
      setMistake(sentenceOf(error));
    }
  };
  const focusName = (piece: number) => document.getElementById(`piece-name-${piece}`)?.focus();
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void take();
      }}
    >
      <Faults look={look} unit={typed.length} />
      <div className="mt-2 grid grid-cols-[minmax(0,1fr)_420px] gap-4">
        <Pieces look={look} typed={typed} set={set} divide={(d) => void divide(d)} />
        <SpaceView
          look={look}
          recipe={recipe}
          first="pieces"
          unit={typed.length}
          title={`Surface of ${run.label}`}
          picked={(f) => focusName(f.piece)}
          width={420}
          height={330}
        />
      </div>
      <Splits named={patchNames(recipe)} splits={typed.splits} set={(splits) => set({ splits })} />
      <Arrays look={look} typed={typed} set={set} mistakes={mistakes} />
      <Links quantities={quantities} typed={typed} named={patchNames(recipe)} set={(links) => set({ links })} />
      {mistake ? <p className="mistake">{mistake}</p> : null}
      <span className="mt-3 flex gap-2">
        <FormEnd leave={done} off={busy}>
          {busy ? "Integrating" : "Integrate over it"}
        </FormEnd>
        {run.surface ? <Drop run={run} done={done} /> : null}
      </span>
    </form>
  );
}

function Drop({ run, done }: { readonly run: RunView; readonly done: () => void }) {
  const { save } = useSave();
  return (
    <ConfirmButton
      className="link ml-auto text-[12px] text-ink-3"
      label={`Take the surface of ${run.label} away`}
      question={`Take the surface of ${run.label} away?`}
      text="Its patches, their names and what was held against them go with it. The file can be brought in again."
      action="Take it away"
      onConfirm={() => void save("DELETE /runs/{id}/surface", { at: { id: run.id } }, `${run.label} has no surface any more.`).then(done)}
    >
      Take the surface away
    </ConfirmButton>
  );
}

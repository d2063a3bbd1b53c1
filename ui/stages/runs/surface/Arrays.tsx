import type { SurfaceArray, SurfaceLook } from "@/core/intake/surfaceLook";
import { SURFACE_UNITS } from "@/core/intake/surfaceUnits";
import { SURFACE_ROLES, type SurfaceRole } from "@/core/records/surfaces";
import { asChoices, Field } from "../../../forms/Field";
import { arrayColumns, arrayKey, type SaidArray } from "../../../tables/arrayColumns";
import { DataTable } from "../../../tables/DataTable";
import type { TypedSurface } from "./said";
import { Typed3Field } from "./Typed3Field";

const ROLE_WORDS: Readonly<Record<SurfaceRole, string>> = {
  ignore: "left out",
  pressure: "pressure, or pressure over density",
  shear: "stress along the wall",
  "shear-x": "stress along the wall, x",
  "shear-y": "stress along the wall, y",
  "shear-z": "stress along the wall, z",
  velocity: "velocity",
  "velocity-x": "velocity along x",
  "velocity-y": "velocity along y",
  "velocity-z": "velocity along z",
  density: "density",
  temperature: "temperature",
};

const ROLE_CHOICES = SURFACE_ROLES.map((r) => [r, ROLE_WORDS[r]] as const);

interface Props {
  readonly look: SurfaceLook;
  readonly typed: TypedSurface;
  readonly set: (change: Partial<TypedSurface>) => void;
  readonly mistakes: Readonly<Record<string, string>>;
}

/** What the arrays are, in which units, and how forces are made of them. */
export function Arrays({ look, typed, set, mistakes }: Props) {
  const change = (a: SurfaceArray, to: Partial<SaidArray<SurfaceRole>>) => {
    const key = arrayKey(a);
    const next = { ...typed.roles[key], ...to };
    set({ roles: { ...typed.roles, [key]: { ...next, unit: to.role && to.role !== "ignore" && !to.unit ? SURFACE_UNITS[to.role] : next.unit } } });
  };
  return (
    <>
      <h3 className="mt-3">Forces and flows</h3>
      {look.arrays.length ? (
        <DataTable
          className="max-w-[760px]"
          rows={look.arrays}
          rowKey={arrayKey}
          columns={arrayColumns({ said: typed.roles, choices: ROLE_CHOICES, ignored: "ignore", set: change, mistakes })}
        />
      ) : (
        <p className="text-[12.5px] text-ink-2">The file has no arrays: its shape is taken, and nothing is integrated.</p>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <div className="w-36">
          <Field label="Unit of length of the file" value={typed.length} onChange={(length) => set({ length })} mistake={mistakes.length} />
        </div>
        <div className="w-56">
          <Field
            label="The faces' normals point"
            words
            value={typed.normals}
            choices={asChoices(["out of the body", "into the body"] as const)}
            onChange={(normals) => set({ normals })}
            help={`It is so because ${look.why}.`}
          />
        </div>
        <div className="w-56">
          <Field
            label="The stress is that of"
            words
            value={typed.shearOn}
            choices={[
              ["wall", "the fluid on the wall"],
              ["fluid", "the wall on the fluid"],
            ]}
            onChange={(shearOn) => set({ shearOn })}
          />
        </div>
        <div className="w-36">
          <Field
            label="Pressure taken off"
            value={typed.reference}
            onChange={(reference) => set({ reference })}
            mistake={mistakes["reference pressure"]}
          />
        </div>
        <Typed3Field label="Moments about, m" value={typed.about} set={(about) => set({ about })} />
      </div>
      <p className="mt-1 text-[11.5px] text-ink-3">Normals: {look.why}. Area vectors come from the corners, not from stored normals.</p>
    </>
  );
}

import type { SurfaceArray, SurfaceLook } from "@/core/intake/surfaceLook";
import { SURFACE_UNITS } from "@/core/intake/surfaceUnits";
import { SURFACE_ROLES, type SurfaceRole } from "@/core/records/surfaces";
import { asChoices, Field } from "../../../forms/Field";
import { type Column, DataTable } from "../../../tables/DataTable";
import { arrayKey, type TypedSurface } from "./said";
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

interface Props {
  readonly look: SurfaceLook;
  readonly typed: TypedSurface;
  readonly set: (change: Partial<TypedSurface>) => void;
  readonly mistakes: Readonly<Record<string, string>>;
}

/** What the arrays are, in which units, and how forces are made of them. */
export function Arrays({ look, typed, set, mistakes }: Props) {
  const change = (a: SurfaceArray, to: Partial<{ role: SurfaceRole; unit: string }>) => {
    const key = arrayKey(a);
    const next = { ...typed.roles[key], ...to };
    set({ roles: { ...typed.roles, [key]: { ...next, unit: to.role && to.role !== "ignore" && !to.unit ? SURFACE_UNITS[to.role] : next.unit } } });
  };
  return (
    <>
      <h3 className="mt-3">Forces and flows</h3>
      {look.arrays.length ? (
        <DataTable className="max-w-[760px]" rows={look.arrays} rowKey={arrayKey} columns={columnsOf(typed.roles, change, mistakes)} />
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

const columnsOf = (
  roles: TypedSurface["roles"],
  change: (a: SurfaceArray, to: Partial<{ role: SurfaceRole; unit: string }>) => void,
  mistakes: Readonly<Record<string, string>>,
): Column<SurfaceArray>[] => [
  { header: "Array", words: true, headClassName: "text-left", cell: (a) => a.name },
  { header: "On", words: true, headClassName: "text-left w-16", cell: (a) => a.on },
  { header: "Components", headClassName: "w-24", cell: (a) => a.components },
  {
    header: "It is",
    words: true,
    headClassName: "text-left w-64",
    cell: (a) => (
      <Field
        unseenLabel
        label={`What ${a.name} on ${a.on} is`}
        value={roles[arrayKey(a)].role}
        onChange={(role) => change(a, { role })}
        choices={SURFACE_ROLES.map((r) => [r, ROLE_WORDS[r]] as const)}
      />
    ),
  },
  {
    header: "Unit",
    words: true,
    headClassName: "text-left w-32",
    cell: (a) =>
      roles[arrayKey(a)].role === "ignore" ? null : (
        <Field
          unseenLabel
          label={`Unit of ${a.name} on ${a.on}`}
          value={roles[arrayKey(a)].unit}
          onChange={(unit) => change(a, { unit })}
          mistake={mistakes[a.name]}
        />
      ),
  },
];

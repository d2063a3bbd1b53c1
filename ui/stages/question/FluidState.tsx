import { QuestionEntry } from "./entries";

/** The fluid, its state, and what of it was typed instead of looked up. */
export function FluidState() {
  return (
    <section aria-label="Fluid">
      <h2 className="mb-1">Fluid and state</h2>
      <div className="grid grid-cols-2 gap-2">
        <QuestionEntry name="fluidName" label="Fluid" words />
        <QuestionEntry name="temperature" label="Temperature" placeholder="4 °C" />
        <QuestionEntry name="pressure" label="Pressure" placeholder="101325 Pa" />
        <QuestionEntry name="kinematicViscosity" label="Kinematic viscosity, if typed" placeholder="m^2/s" />
        <QuestionEntry name="reynolds" label="Reynolds number, if typed" />
      </div>
    </section>
  );
}

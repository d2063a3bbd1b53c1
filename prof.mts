import { liddedBox, liddedBoxPhysics } from "/tmp/base/core/problems/build/liddedBox.ts";
import { presetParameters } from "/tmp/base/core/problems/describe/catalogue.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "/tmp/base/core/solver/incompressible/steadyFlow.ts";

const graded = { kind: "both-ends", strength: 1.5 } as const;
const n = Number(process.argv[2] ?? 256);
const presets = presetParameters(liddedBox);
const t = () => {
  const c = process.cpuUsage();
  return (c.user + c.system) / 1e6;
};
const t0 = t();
const mesh = liddedBox.mesh(presets, { nx: n, ny: n, gradingX: graded, gradingY: graded });
const t1 = t();
const flow = new SteadyFlow(mesh, liddedBoxPhysics(presets), { ...DEFAULT_STEADY_OPTIONS, dropOrders: 6 });
const t2 = t();
while (flow.state === "climbing") flow.advance();
const t3 = t();
while (flow.state === "running") flow.advance();
const t4 = t();
console.log({ mesh: t1 - t0, setup: t2 - t1, climb: t3 - t2, run: t4 - t3, iters: flow.history.length, bytesPerCell: flow.memoryBytes / n / n });

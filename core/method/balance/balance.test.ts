import { describe, expect, test } from "vitest";
import type { BalanceRecord, BoundaryFlux } from "../../records/balance.ts";
import { assessBalance } from "./balance.ts";

const record = (boundaries: readonly BoundaryFlux[], more: Partial<BalanceRecord> = {}): BalanceRecord => ({ boundaries, ...more });
const masses = (...values: number[]) => values.map((mass, i): BoundaryFlux => ({ name: `b${i}`, mass }));
const line = (r: BalanceRecord, what: string, mesh?: number) => assessBalance(r, mesh).lines.find((l) => l.what === what);
const rules = (r: BalanceRecord) => assessBalance(r).remarks.map((x) => [x.rule, x.severity]);

describe("limits, just inside and just outside", () => {
  const heat = (net: number) =>
    record([
      { name: "in", scalars: { energy: [-1, 0] } },
      { name: "out", scalars: { energy: [1 - net, 0] } },
    ]);
  const push = (net: number) =>
    record([
      { name: "in", momentumX: [-1, 0, 0] },
      { name: "out", momentumX: [1 - net, 0, 0] },
    ]);
  const leak = (net: number) => record(masses(-1, 1 - net));
  test.each([
    ["mass", leak, 0.001],
    ["x momentum", push, 0.005],
    ["energy", heat, 0.005],
  ] as const)("%s: a tenth of its limit is quiet, the limit itself is kept", (what, make, limit) => {
    expect(line(make(0.099 * limit), what)?.state).toBe("holds");
    expect(line(make(0.101 * limit), what)?.state).toBe("remark");
    expect(line(make(0.999 * limit), what)?.state).toBe("remark");
    expect(line(make(1.001 * limit), what)?.state).toBe("fails");
    expect(line(make(0), what)?.limit).toBe(limit);
    expect(line(make(1.001 * limit), what)?.relative).toBeCloseTo(1.001 * limit, 12);
  });
  test("a mesh uncertainty below the preset is the limit; a larger one, or one that is nothing, is not", () => {
    expect(line(leak(0), "mass", 0.0004)?.limit).toBe(0.0004);
    expect(line(leak(0), "mass", 0.4)?.limit).toBe(0.001);
    expect(line(leak(0), "mass", 2e-12)?.limit).toBe(0.001);
    expect(line(leak(0), "mass", 0.9e-9)?.limit).toBe(0.001);
    expect(line(leak(0), "mass", 2e-9)?.limit).toBe(2e-9);
  });
  test("remarks name figure and limit; what fails stops, what is close is a doubt", () => {
    expect(assessBalance(leak(0.002)).remarks).toEqual([
      { rule: "balance-limit", severity: "stop", sentence: "Net mass is 0.20\u00a0% of throughput, over its limit of 0.10\u00a0%." },
    ]);
    expect(assessBalance(push(0.002)).remarks).toEqual([
      {
        rule: "balance-limit",
        severity: "doubt",
        sentence: "Net x momentum is 0.20\u00a0% of the largest single term: within 0.50\u00a0%, but close.",
      },
    ]);
    expect(assessBalance(leak(0)).remarks).toEqual([]);
  });
});

describe("mass", () => {
  test("boundaries whose mass was not delivered are passed over; where none was there is no line of it", () => {
    const silent: BoundaryFlux = { name: "lid", momentumX: [0, 2, -2] };
    expect(line(record([...masses(-2, 1), silent]), "mass")).toMatchObject({ net: -1, throughput: 2 });
    expect(line(record([silent], { massReference: 3, storage: { mass: 1 } }), "mass")).toBeUndefined();
  });
  test("the throughput is the larger of what goes in and out", () => {
    expect(line(record(masses(-3, 1, 1)), "mass")).toMatchObject({ throughput: 3, net: -1, relative: 1 / 3 });
    expect(line(record(masses(-1, 2, 1)), "mass")).toMatchObject({ throughput: 3, net: 2, relative: 2 / 3 });
  });
  test("what the volume stores and makes is counted with its sign", () => {
    const stored = record(masses(-1, 0.4), { storage: { mass: 0.5 }, sources: { mass: -0.1 } });
    expect(line(stored, "mass")?.net).toBeCloseTo(0, 15);
    expect(line(record(masses(-1, 0.4), { storage: { mass: 0.5 } }), "mass")?.net).toBeCloseTo(-0.1, 15);
    expect(line(record(masses(-1, 1.2), { sources: { mass: 0.2 } }), "mass")?.net).toBeCloseTo(0, 15);
  });
  test("where nothing flows through, the swirl inside is what a defect is small against; without one nothing is measured", () => {
    expect(line(record(masses(0, 0), { massReference: 2 }), "mass")).toMatchObject({ throughput: 2, relative: 0 });
    expect(assessBalance(record(masses(0, 0)))).toEqual({ lines: [], remarks: [], state: "none" });
    expect(assessBalance(record([{ name: "w" }])).state).toBe("none");
  });
});

describe("signs", () => {
  test.each([
    [[1, 2], "out"],
    [[-1, -2, -3], "in"],
  ])("flows all one way are a file without signs: %j", (values, way) => {
    const [first] = assessBalance(record(masses(...values))).remarks;
    expect(first).toMatchObject({ rule: "balance-sign", severity: "stop" });
    expect(first.sentence).toContain(`All ${values.length} boundaries let mass ${way}`);
  });
  test("one flow that would close it when turned is named", () => {
    const [first] = assessBalance(record(masses(-1, 0.6, -0.4))).remarks;
    expect(first.rule).toBe("balance-sign");
    expect(first.sentence).toContain("with the sign of b2 turned it would close");
    expect(first.sentence).toContain("Net mass is 80");
  });
  test("no flow closes it: it is a leak, not a sign", () => expect(rules(record(masses(-1, 0.5, -0.1)))).toEqual([["balance-limit", "stop"]]));
  test("a defect below a fifth of the largest flow is not laid to a sign", () => {
    expect(rules(record(masses(-1, 1.09, 0.09)))).toEqual([["balance-limit", "stop"]]);
    expect(rules(record(masses(-1, 0.89, -0.11)))[0][0]).toBe("balance-sign");
    // Turned, it would close to just over or just under the limit of mass.
    expect(rules(record(masses(-1, 0.799, -0.2001)))[0][0]).toBe("balance-sign");
    expect(rules(record(masses(-1, 0.79, -0.2)))[0][0]).toBe("balance-limit");
  });
  test("a single flow, or a volume that stores mass, is not asked", () => {
    expect(rules(record(masses(1), { massReference: 1 }))).toEqual([["balance-limit", "stop"]]);
    expect(rules(record(masses(-1, -1), { storage: { mass: 2 } }))).toEqual([]);
    expect(rules(record([...masses(1), { name: "wall", mass: 0 }]))).toEqual([["balance-limit", "stop"]]);
  });
});

describe("momentum", () => {
  test("the three parts of all boundaries less the body force and what is stored", () => {
    const r = record(
      [
        { name: "a", momentumX: [-4, 1, 0.5], momentumY: [0, 2, 0] },
        { name: "b", momentumX: [3, 0, 0] },
      ],
      {
        bodyForce: [0.25, 1],
        storage: { momentum: [-0.25, -1] },
      },
    );
    expect(line(r, "x momentum")).toMatchObject({ net: 0, throughput: 4 });
    expect(line(r, "y momentum")).toMatchObject({ net: 0, throughput: 4 });
  });
  test("a body force may be the largest term; with its sign it closes the balance", () => {
    const r = record([{ name: "wall", momentumX: [0, 0, -7] }], { bodyForce: [-7, 0] });
    expect(line(r, "x momentum")).toMatchObject({ net: 0, throughput: 7, state: "holds" });
    expect(line(record([{ name: "wall", momentumX: [0, 0, 1] }], { bodyForce: [9, 0] }), "x momentum")).toMatchObject({ net: -8, throughput: 9 });
  });
  test("what vanishes by symmetry is counted against a tenth of all forces face by face", () => {
    const r = record([{ name: "wall", momentumX: [0.01, 0, 0] }], { momentumReference: 10 });
    expect(line(r, "x momentum")).toMatchObject({ throughput: 1, relative: 0.01 });
  });
  test("a component no boundary tells of has no line", () =>
    expect(assessBalance(record([{ name: "a", momentumX: [1, -1, 0] }])).lines.map((l) => l.what)).toEqual(["x momentum"]));
});

describe("transported quantities", () => {
  test("carried and diffused parts, sources and storage", () => {
    const r = record(
      [
        { name: "in", scalars: { smoke: [-2, -1] } },
        { name: "out", scalars: { smoke: [5, 0] } },
      ],
      { sources: { smoke: 3 }, storage: { scalars: { smoke: 1 } } },
    );
    expect(line(r, "smoke")).toMatchObject({ net: 0, throughput: 5 });
    expect(line({ ...r, storage: undefined }, "smoke")?.net).toBe(-1);
    expect(line({ ...r, sources: { smoke: 9 }, storage: undefined }, "smoke")?.throughput).toBe(9);
  });
  test("a sum that vanishes is counted against a tenth of all its terms", () => {
    const r = record([{ name: "a", scalars: { smoke: [0.01, 0] } }], { scalarReference: { smoke: 10 } });
    expect(line(r, "smoke")).toMatchObject({ throughput: 1, relative: 0.01 });
  });
  const stream = (more: Partial<BoundaryFlux>[], key = "energy") =>
    line(
      record([
        { name: "in", mass: -1, scalars: { [key]: [-1000, 0] } },
        { name: "out", mass: 1, scalars: { [key]: [1000, 0] } },
        ...more.map((m, i) => ({ name: `w${i}`, ...m })),
      ]),
      key,
    );
  test("heat through boundaries that let nothing else pass is what counts: the larger of both ways", () => {
    const walls = [
      { mass: 0, scalars: { energy: [0, 30] as const } },
      { scalars: { energy: [0, -20] as const } },
      { closed: true, scalars: { energy: [0, -5] as const } },
    ];
    expect(stream(walls)).toMatchObject({ over: "the heat exchanged", throughput: 30, net: 5 });
    expect(stream([{ closed: true, scalars: { energy: [0, -40] } }])?.throughput).toBe(40);
    expect(stream([{ closed: true, scalars: { temperature: [0, -40] } }], "temperature")?.over).toBe("the heat exchanged");
  });
  test("a boundary said to be open is no wall; a heat too small to be meant, or of another quantity, is none", () => {
    expect(stream([{ closed: false, scalars: { energy: [0, 30] } }])?.over).toBeUndefined();
    expect(stream([{ closed: true, scalars: { energy: [0, 5e-4] } }])?.over).toBeUndefined();
    expect(stream([{ closed: true, scalars: { energy: [0, 2e-3] } }])?.over).toBe("the heat exchanged");
    expect(stream([{ closed: true, scalars: { smoke: [0, 30] } }], "smoke")?.over).toBeUndefined();
  });
  test("where nothing passes at all, walls alone are no stream that hides them", () => {
    const r = record([
      { name: "hot", closed: true, scalars: { energy: [0, -10] } },
      { name: "cold", closed: true, scalars: { energy: [0, 10] } },
    ]);
    expect(line(r, "energy")).toMatchObject({ throughput: 10, net: 0 });
    expect(line(r, "energy")?.over).toBeUndefined();
    const unsaid = record([
      { name: "hot", scalars: { energy: [0, -10] } },
      { name: "cold", scalars: { energy: [0, 11] } },
    ]);
    expect(line(unsaid, "energy")?.over).toBeUndefined();
  });
});

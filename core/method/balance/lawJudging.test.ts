import { describe, expect, test } from "vitest";
import { LAWS, type Law, type SecondReading } from "../../records/laws.ts";
import { wallFlow } from "../../solver/readings/flowLaws.ts";
import { assessLaws } from "./laws.ts";

const judge = (law: Law, share: number) => assessLaws("R1", [{ law, share }], [], {});

describe("shares let pass, as method 4 has them: a doubt above the first, a stop above the second", () => {
  const limits: readonly (readonly [Law, number, number])[] = [
    ["wall-flow", 1e-9, 1e-6],
    ["total-pressure", 0.01, 0.05],
    ["entropy", 0.005, 0.05],
    ["total-enthalpy", 0.005, 0.05],
    ["mirror", 1e-4, 1e-2],
    ["no-lift", 0.005, 0.05],
  ];
  test.each(limits)("%s: %d and %d", (law, doubt, stop) => {
    expect(judge(law, 0.999 * doubt)).toMatchObject({ state: "holds", remarks: [], laws: [{ law, state: "holds", limit: doubt }] });
    expect(judge(law, doubt).state).toBe("holds");
    expect(judge(law, 1.001 * doubt)).toMatchObject({ state: "remark", remarks: [{ rule: law, severity: "doubt" }] });
    expect(judge(law, stop).state).toBe("remark");
    expect(judge(law, 1.001 * stop)).toMatchObject({ state: "fails", remarks: [{ rule: law, severity: "stop" }] });
    expect(judge(law, 2 * stop).remarks[0].sentence).toMatch(/^R1: .*: off by .* of .* is let pass\.$/);
  });
  test("an efficiency above one is impossible however little it is", () => {
    expect(judge("efficiency-below-one", 0).state).toBe("holds");
    expect(judge("efficiency-below-one", 1e-12).state).toBe("fails");
  });
  test("every law was tried", () => expect([...limits.map(([l]) => l), "efficiency-below-one"].sort()).toEqual([...LAWS].sort()));
  test("nothing asked is no state; the worst of several counts", () => {
    expect(assessLaws("R1", [], [], {}).state).toBe("none");
    const both = assessLaws(
      "R1",
      [
        { law: "mirror", share: 1e-3 },
        { law: "entropy", share: 1 },
      ],
      [],
      {},
    );
    expect(both.state).toBe("fails");
    expect(both.remarks.map((r) => r.rule)).toEqual(["mirror", "entropy"]);
  });
});

describe("quantities worked out twice", () => {
  const twice = (second: number, mesh?: number, accepted?: number, first = 10) => {
    const reading: SecondReading = { quantityKey: "q", name: "drag", unit: "N", first, firstBy: "the surface", second, secondBy: "a box" };
    return assessLaws("R1", [], [reading], { q: mesh }, accepted === undefined ? {} : { q: accepted });
  };
  test("without a mesh uncertainty one per cent is let pass", () => {
    expect(twice(10.099).second[0]).toMatchObject({ state: "holds", limit: 0.01, against: "1 %" });
    expect(twice(10.101).second[0].state).toBe("remark");
    expect(twice(9.899).second[0].state).toBe("remark");
    expect(twice(10.2).remarks[0].sentence).toContain("more than the 1.0\u00a0% let pass");
    // A mesh uncertainty of next to nothing is none.
    expect(twice(10.099, 1e-10).second[0].against).toBe("1 %");
    expect(twice(10.099, 1e-9).second[0].against).toBe("1 %");
    expect(twice(10, 1.5e-9).second[0].against).toBe("mesh uncertainty");
  });
  test("a reading of no quantity of the case takes no quantity's uncertainty or limit", () => {
    const reading: SecondReading = { name: "heat", unit: "W", first: 10, firstBy: "a", second: 10.2, secondBy: "b" };
    const { second } = assessLaws("R1", [], [reading], { undefined: 0.5, q: 0.5 }, { undefined: 9, q: 9 });
    expect(second[0]).toMatchObject({ state: "remark", limit: 0.01, against: "1 %" });
  });
  test("both carry the mesh's error: the root of two times it", () => {
    const limit = Math.SQRT2 * 0.02;
    expect(twice(10 * (1 + 0.999 * limit), 0.02).second[0]).toMatchObject({ state: "holds", against: "mesh uncertainty" });
    expect(twice(10 * (1 + 0.999 * limit), 0.02).second[0].limit).toBeCloseTo(limit, 12);
    const off = twice(10 * (1 + 1.001 * limit), 0.02);
    expect(off.second[0].state).toBe("remark");
    expect(off.remarks[0]).toMatchObject({ rule: "second-computation", severity: "doubt" });
    expect(off.remarks[0].sentence).toContain("its mesh uncertainty explains");
    expect(off.state).toBe("remark");
  });
  test("a tenth of the accepted error passes in any case", () => {
    const c = twice(10.019, 0.001, 0.02).second[0];
    expect(c).toMatchObject({ state: "holds", against: "a tenth of its limit", limit: 0.002 });
    const off = twice(10.021, 0.001, 0.02);
    expect(off.second[0].state).toBe("remark");
    expect(off.remarks[0].sentence).toContain("that are a tenth of its limit");
    expect(twice(10.1, 0.001, undefined).second[0].state).toBe("remark");
  });
  test("a reading of no quantity is held to one per cent; against zero nothing agrees but zero", () => {
    const free: SecondReading = { name: "flow", unit: "kg/s", first: 1, firstBy: "a", second: 1.005, secondBy: "b" };
    expect(assessLaws("R1", [], [free], {}).second[0]).toMatchObject({ state: "holds", against: "1 %" });
    expect(twice(1e-9, undefined, undefined, 0).second[0].state).toBe("remark");
    expect(twice(0, undefined, undefined, 0).second[0]).toMatchObject({ state: "holds", relative: 0 });
  });
});

describe("flow through walls", () => {
  const flow = (wall: number, through: number, reference?: number) =>
    wallFlow({
      boundaries: [
        { name: "in", mass: -through },
        { name: "out", mass: through },
        { name: "wall", closed: true, mass: wall },
        { name: "line", closed: true, mass: -wall },
      ],
      ...(reference === undefined ? {} : { massReference: reference }),
    });
  test("sizes of all walls over what passes, or over the swirl where that is larger", () => {
    expect(flow(0.01, 2)[0]).toMatchObject({ law: "wall-flow", share: 0.01 });
    expect(flow(0.01, 2, 4)[0].share).toBeCloseTo(0.005, 15);
    expect(flow(0.01, 2, 1)[0].share).toBeCloseTo(0.01, 15);
  });
  test("without walls, or without any flow, nothing is said", () => {
    expect(wallFlow({ boundaries: [{ name: "in", mass: -1 }] })).toEqual([]);
    expect(wallFlow({ boundaries: [{ name: "w", closed: true }] })).toEqual([]);
    expect(flow(0.01, 0)).toEqual([]);
  });
});

import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Remark, type State, stateOf, withAnswers, worst } from "./remark.ts";

const remark = (rule: string, severity: Remark["severity"], sentence = rule): Remark => ({ rule, severity, sentence });

describe("states", () => {
  test("what fails outweighs what is stale, missing, doubtful; nothing at all is none", () => {
    const order: readonly State[] = ["fails", "stale", "none", "remark", "holds"];
    for (const [i, a] of order.entries()) for (const [j, b] of order.entries()) expect(worst([a, b])).toBe(order[Math.min(i, j)]);
    expect(worst([])).toBe("none");
  });
  test("the worst does not depend on the order, and is one of them", () =>
    fc.assert(
      fc.property(fc.array(fc.constantFrom<State>("fails", "stale", "none", "remark", "holds"), { minLength: 1 }), (states) => {
        expect(worst([...states].reverse())).toBe(worst(states));
        expect(states).toContain(worst(states));
      }),
    ));
  test("a stop fails, a doubt is a remark, a note is nothing", () => {
    expect(stateOf([])).toBe("holds");
    expect(stateOf([remark("a", "note")])).toBe("holds");
    expect(stateOf([remark("a", "note"), remark("b", "doubt")])).toBe("remark");
    expect(stateOf([remark("a", "doubt"), remark("b", "stop")])).toBe("fails");
  });
});

describe("answers", () => {
  const answer = (rule: string, sentence: string, reason = "r") => ({ rule, sentence, reason, at: "2026-04-02T09:00:00Z" });
  test("answer exactly these words of this rule, and the newest stands", () => {
    const [hit] = withAnswers([remark("a", "stop", "x")], [answer("a", "x", "old"), answer("a", "x", "new")]);
    expect(hit).toEqual({ ...remark("a", "note", "x"), answered: { reason: "new", at: "2026-04-02T09:00:00Z" } });
    expect(withAnswers([remark("a", "stop", "x")], [answer("a", "y"), answer("b", "x")])).toEqual([remark("a", "stop", "x")]);
  });
});

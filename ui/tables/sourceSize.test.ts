import { expect, test } from "vitest";
import { sourceSize } from "./sourceSize";

const settled = (kind: "measured" | "estimated" | "bounded" | "not-applicable") => ({ settled: { kind } as never, relative: 0.012 });

test("a size bears the sign of how it was settled; one nobody knows is open, one that does not apply says so", () => {
  const plain = (s: string) => s.replace("\u00a0", " ");
  expect(plain(sourceSize({ relative: 0.012 }))).toBe("1.2 %");
  expect(["measured", "estimated", "bounded"].map((k) => plain(sourceSize(settled(k as never))))).toEqual(["1.2 %", "≈ 1.2 %", "≤ 1.2 %"]);
  expect(sourceSize(settled("not-applicable"))).toBe("does not apply");
  expect(sourceSize(settled("not-applicable"), "n/a")).toBe("n/a");
  expect(sourceSize({ relative: undefined })).toBe("open");
});

import fc from "fast-check";
import { expect, test } from "vitest";
import { type ProseBlock, readProse } from "./prose.ts";

const textOf = (b: ProseBlock): string => ("runs" in b ? b.runs.map((r) => r.text).join("") : b.kind === "code" ? b.text : "");

test("every kind of block and of stretch is what CommonMark says it is", () => {
  const found = readProse(
    "# Why\n\nUse **both *and* one** `x < 1`,\nsee [the paper](https://example.org/a?b=c).\n\n3. third\n4. fourth\n   - inside\n\n> said\n\n```\na  b\n```\n\n---\n",
  );
  expect(found).toEqual([
    { kind: "heading", level: 1, runs: [{ text: "Why" }] },
    {
      kind: "paragraph",
      runs: [
        { text: "Use " },
        { text: "both ", bold: true },
        { text: "and", bold: true, italic: true },
        { text: " one", bold: true },
        { text: " " },
        { text: "x < 1", code: true },
        { text: ",\nsee " },
        { text: "the paper", href: "https://example.org/a?b=c" },
        { text: "." },
      ],
    },
    { kind: "item", depth: 0, mark: "3.", runs: [{ text: "third" }] },
    { kind: "item", depth: 0, mark: "4.", runs: [{ text: "fourth" }] },
    { kind: "item", depth: 1, mark: "•", runs: [{ text: "inside" }] },
    { kind: "quote", runs: [{ text: "said" }] },
    { kind: "code", text: "a  b" },
    { kind: "line" },
  ]);
});

test("HTML is text, links that run code or lead inside lead nowhere, pictures are their words", () => {
  expect(readProse("<script>x</script>")).toEqual([{ kind: "paragraph", runs: [{ text: "<script>x</script>" }] }]);
  expect(readProse("a <b>c</b>").map(textOf)).toEqual(["a <b>c</b>"]);
  for (const url of ["javascript:alert(1)", "JavaScript:x", "data:text/html,x", "/cases", "file:///etc/passwd"])
    expect(readProse(`[go](${url})`)).toEqual([{ kind: "paragraph", runs: [{ text: "go" }] }]);
  expect(readProse("![the box](http://example.org/x.png)")).toEqual([{ kind: "paragraph", runs: [{ text: "the box" }] }]);
});

test("words without a sign of Markdown come back as they are; whatever is typed is read", () => {
  fc.assert(
    fc.property(fc.array(fc.stringMatching(/^[a-zA-Zäöü]{1,9}$/), { minLength: 1 }), (words) => {
      expect(readProse(words.join(" ")).map(textOf)).toEqual([words.join(" ")]);
    }),
  );
  fc.assert(
    fc.property(fc.string(), (s) => {
      expect(readProse(s).every((b) => b.kind !== "paragraph" || b.runs.length >= 0)).toBe(true);
    }),
  );
});

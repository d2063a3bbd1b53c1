import { createElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, test } from "vitest";
import { type Column, DataTable } from "./DataTable";

interface Run {
  readonly id: string;
  readonly cells: number;
}

const RUNS: readonly Run[] = [
  { id: "fine", cells: 1024 },
  { id: "coarse", cells: 64 },
];
const COLUMNS: readonly Column<Run>[] = [
  { header: "Run", words: true, cell: (r) => r.id, title: (r) => `mesh ${r.id}` },
  { header: "Cells", className: "whitespace-nowrap", headClassName: "w-8", cell: (r, i) => `${i + 1}: ${r.cells}` },
];
type Props = Parameters<typeof DataTable<Run>>[0];
const html = (props: Partial<Props>) =>
  renderToStaticMarkup(createElement(DataTable<Run>, { columns: COLUMNS, rowKey: (r: Run) => r.id, rows: RUNS, ...props } as Props));
const texts = (markup: string, tag: string) => [...markup.matchAll(new RegExp(`<${tag}\\b[^>]*>([^<]*)</${tag}>`, "g"))].map((m) => m[1]);

describe("a table of figures", () => {
  test("heads, then a row for each in the order given; words, figures and classes by their column", () => {
    const markup = html({});
    expect(texts(markup, "th")).toEqual(["Run", "Cells"]);
    expect(texts(markup, "td")).toEqual(["fine", "1: 1024", "coarse", "2: 64"]);
    expect(markup).toContain('<th class="w">Run</th><th class="w-8">Cells</th>');
    expect(markup).toContain('<td class="w" title="mesh fine">fine</td><td class="whitespace-nowrap">');
  });
  test("rows are marked one by one; what stands below comes last", () => {
    const markup = html({
      rowClass: (r) => (r.id === "coarse" ? "bg-margin" : ""),
      rowTestId: (r) => `run-${r.id}`,
      after: createElement("tr", null, createElement("td", null, "limit")),
    });
    expect([...markup.matchAll(/<tr[^>]*data-testid[^>]*>/g)].map((m) => m[0])).toEqual([
      '<tr data-testid="run-fine">',
      '<tr class="bg-margin" data-testid="run-coarse">',
    ]);
    expect(texts(markup, "td").at(-1)).toBe("limit");
  });
  test("columns without titles have no heads", () => {
    expect(html({ columns: COLUMNS.map((c) => ({ ...c, header: "" })) })).not.toContain("<thead>");
  });
  test("groups are bodies of their own, each below its heading", () => {
    const markup = html({
      rows: undefined,
      groups: [
        { title: "Exact", rows: [RUNS[1]] },
        { title: "Measured", rows: [RUNS[0]] },
      ],
    } as Partial<Props>);
    const bodies = [...markup.matchAll(/<tbody>(.*?)<\/tbody>/g)].map((m) => [texts(m[1], "th"), texts(m[1], "td")]);
    expect(bodies).toEqual([
      [["Exact"], ["coarse", "1: 64"]],
      [["Measured"], ["fine", "2: 1024"]],
    ]);
    expect(markup).toContain('scope="rowgroup"');
  });
});

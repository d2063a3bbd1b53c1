import { fromMarkdown } from "mdast-util-from-markdown";

/** A stretch of text that is set alike. */
export interface ProseRun {
  readonly text: string;
  readonly bold?: true;
  readonly italic?: true;
  readonly code?: true;
  /** where it leads, http, https or mailto */
  readonly href?: string;
}

/** A piece of prose, in the order it is read. */
export type ProseBlock =
  | { readonly kind: "paragraph" | "quote"; readonly runs: readonly ProseRun[] }
  | { readonly kind: "heading"; readonly level: 1 | 2 | 3; readonly runs: readonly ProseRun[] }
  | { readonly kind: "item"; readonly depth: number; readonly mark: string; readonly runs: readonly ProseRun[] }
  | { readonly kind: "code"; readonly text: string }
  | { readonly kind: "line" };

type Node = {
  readonly type: string;
  readonly value?: string;
  readonly url?: string;
  readonly alt?: string | null;
  readonly depth?: number;
  readonly ordered?: boolean | null;
  readonly start?: number | null;
  readonly children?: readonly Node[];
};

type Style = Omit<ProseRun, "text">;

/**
 * Markdown (CommonMark) as plain blocks that any page can set. HTML in it is text like any other, pictures are their words, and what leads
 * neither to the web nor to a person leads nowhere.
 * @example
 * readProse("Use **both**.") // [{ kind: "paragraph", runs: [{ text: "Use " }, { text: "both", bold: true }, { text: "." }] }]
 */
export const readProse = (markdown: string): ProseBlock[] => blocksOf((fromMarkdown(markdown) as Node).children ?? [], 0);

function blocksOf(nodes: readonly Node[], depth: number): ProseBlock[] {
  return nodes.flatMap((n): ProseBlock[] => {
    switch (n.type) {
      case "heading":
        return [{ kind: "heading", level: Math.min(n.depth ?? 1, 3) as 1 | 2 | 3, runs: runsOf(n.children ?? [], {}) }];
      case "list":
        return (n.children ?? []).flatMap((item, k) => itemOf(item, n.ordered ? `${(n.start ?? 1) + k}.` : "•", depth));
      case "blockquote":
        return blocksOf(n.children ?? [], depth).map((b) => (b.kind === "paragraph" ? { ...b, kind: "quote" } : b));
      case "code":
        return [{ kind: "code", text: n.value ?? "" }];
      case "thematicBreak":
        return [{ kind: "line" }];
      case "definition":
        return [];
      default:
        return [{ kind: "paragraph", runs: runsOf(n.children ?? [n], {}) }];
    }
  });
}

/** The first paragraph of an item stands beside its mark; what follows in it is deeper. */
function itemOf(item: Node, mark: string, depth: number): ProseBlock[] {
  const [first, ...rest] = item.children ?? [];
  const lead = first?.type === "paragraph" ? runsOf(first.children ?? [], {}) : [];
  return [{ kind: "item", depth, mark, runs: lead }, ...blocksOf(first?.type === "paragraph" || !first ? rest : [first, ...rest], depth + 1)];
}

function runsOf(nodes: readonly Node[], style: Style): ProseRun[] {
  return joined(nodes.flatMap((n) => inlineOf(n, style)));
}

function inlineOf(n: Node, style: Style): ProseRun[] {
  switch (n.type) {
    case "strong":
      return runsOf(n.children ?? [], { ...style, bold: true });
    case "emphasis":
      return runsOf(n.children ?? [], { ...style, italic: true });
    case "inlineCode":
      return [{ text: n.value ?? "", ...style, code: true }];
    case "link":
      return runsOf(n.children ?? [], leadsOut(n.url) ? { ...style, href: n.url as string } : style);
    case "break":
      return [{ text: "\n", ...style }];
    case "image":
      return [{ text: n.alt ?? "", ...style }];
    default:
      return n.children ? runsOf(n.children, style) : [{ text: n.value ?? "", ...style }];
  }
}

const leadsOut = (url: string | undefined): boolean => /^(https?:|mailto:)/i.test(url ?? "");

/** Neighbours set alike are one. */
function joined(runs: readonly ProseRun[]): ProseRun[] {
  const out: ProseRun[] = [];
  for (const r of runs) {
    const last = out.at(-1);
    if (!r.text) continue;
    if (last && last.bold === r.bold && last.italic === r.italic && last.code === r.code && last.href === r.href)
      out[out.length - 1] = { ...last, text: last.text + r.text };
    else out.push(r);
  }
  return out;
}

import { type ProseBlock, type ProseRun, readProse } from "@/core/formats/prose";

/** Words of one's own, in Markdown, as they are read. */
export function Prose({ markdown }: { markdown: string }) {
  return (
    <div className="text-[12.5px]">
      {readProse(markdown).map((b, k) => (
        <Block key={k} b={b} />
      ))}
    </div>
  );
}

function Block({ b }: { b: ProseBlock }) {
  switch (b.kind) {
    case "heading":
      return (
        <h3 className="mt-3">
          <Runs runs={b.runs} />
        </h3>
      );
    case "item":
      return (
        <p className="mt-1 flex gap-2" style={{ marginLeft: `${1.2 * b.depth}em` }}>
          <span className="min-w-4 text-right">{b.mark}</span>
          <span>
            <Runs runs={b.runs} />
          </span>
        </p>
      );
    case "quote":
      return (
        <blockquote className="mt-1 border-l-2 border-tin pl-3 text-ink-2">
          <Runs runs={b.runs} />
        </blockquote>
      );
    case "code":
      return <pre className="mt-1 overflow-x-auto font-mono text-[11.5px]">{b.text}</pre>;
    case "line":
      return <hr className="my-2 border-tin" />;
    default:
      return (
        <p className="mt-1">
          <Runs runs={b.runs} />
        </p>
      );
  }
}

function Runs({ runs }: { runs: readonly ProseRun[] }) {
  return runs.map((r, k) => {
    const set = `${r.bold ? "font-semibold" : ""} ${r.italic ? "italic" : ""} ${r.code ? "font-mono text-[11.5px]" : ""}`;
    return r.href ? (
      <a key={k} className={`link ${set}`} href={r.href} rel="noreferrer" target="_blank">
        {r.text}
      </a>
    ) : (
      <span key={k} className={set}>
        {r.text}
      </span>
    );
  });
}

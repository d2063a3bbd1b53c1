"use client";

import { createColumnHelper, tableFeatures, useTable } from "@tanstack/react-table";
import { Fragment, type ReactNode, useMemo } from "react";

export interface Column<Row> {
  readonly header: ReactNode;
  readonly cell: (row: Row, index: number) => ReactNode;
  /** words start at the left in the face of the text; figures stand at the right in the mono face */
  readonly words?: boolean;
  /** classes of the cells */
  readonly className?: string;
  readonly headClassName?: string;
  /** what resting on a cell says */
  readonly title?: (row: Row) => string | undefined;
}

interface Group<Row> {
  readonly title: string;
  readonly rows: readonly Row[];
  /** present where the group can be folded: how many rows it has, and what a press does */
  readonly fold?: { readonly closed: boolean; readonly count: number; readonly toggle: () => void };
}

interface DataTableProps<Row> {
  readonly columns: readonly Column<Row>[];
  readonly rowKey: (row: Row) => string;
  readonly rowClass?: (row: Row) => string;
  readonly rowTestId?: (row: Row) => string;
  readonly className?: string;
  /** what stands below a row, across all columns */
  readonly detail?: (row: Row) => ReactNode;
  /** rows that stand below, such as a limit or a sum */
  readonly after?: ReactNode;
}

/** Rows on end, or in groups with a heading each. */
type Content<Row> =
  | { readonly rows: readonly Row[]; readonly groups?: undefined }
  | { readonly groups: readonly Group<Row>[]; readonly rows?: undefined };

const features = tableFeatures({});
const joined = (...classes: readonly (string | false | undefined)[]) => classes.filter(Boolean).join(" ") || undefined;

/** A column's title for those who do not see that its cells hold buttons. */
export const Unseen = ({ children }: { children: string }) => <span className="sr-only">{children}</span>;

/**
 * Figures in rows and columns: what a column is called, shows and says stands in one place. Cells are put in as they are, not as components
 * of their own: a column made anew would take the place of the old one's entries and dialogs, and what is typed in them.
 */
export function DataTable<Row extends object>(p: DataTableProps<Row> & Content<Row>) {
  const { groups, rows } = p;
  const data = useMemo(() => (groups ? groups.flatMap((g) => g.rows) : [...rows]), [groups, rows]);
  const { length: count } = p.columns;
  const columns = useMemo(() => {
    const helper = createColumnHelper<typeof features, Row>();
    return helper.columns(Array.from({ length: count }, (_, k) => helper.display({ id: String(k) })));
  }, [count]);
  const table = useTable({ features, columns, data, getRowId: p.rowKey });
  const of = (id: string) => p.columns[Number(id)];
  const { rows: shown } = table.getRowModel();
  const bodies = groups?.map((g, k) => ({
    title: g.title,
    fold: g.fold,
    from: groups.slice(0, k).reduce((n, x) => n + x.rows.length, 0),
    count: g.rows.length,
  }));
  return (
    <table className={p.className ?? "mt-1"}>
      {p.columns.some((c) => c.header) ? (
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id}>
              {group.headers.map((h) => (
                <th key={h.id} className={joined(of(h.column.id).words && "w", of(h.column.id).headClassName)}>
                  {of(h.column.id).header}
                </th>
              ))}
            </tr>
          ))}
        </thead>
      ) : null}
      {(bodies ?? [{ title: undefined, fold: undefined, from: 0, count: shown.length }]).map(({ title, fold, from, count: rowCount }) => (
        <tbody key={title ?? ""}>
          <Heading title={title} across={columns.length} fold={fold} />
          {shown.slice(from, from + rowCount).map((row) => (
            <Fragment key={row.id}>
              <tr className={p.rowClass?.(row.original) || undefined} data-testid={p.rowTestId?.(row.original)}>
                {row.getAllCells().map((cell) => {
                  const c = of(cell.column.id);
                  return (
                    <td key={cell.id} className={joined(c.words && "w", c.className)} title={c.title?.(row.original)}>
                      {c.cell(row.original, row.index)}
                    </td>
                  );
                })}
              </tr>
              <Detail across={columns.length}>{p.detail?.(row.original)}</Detail>
            </Fragment>
          ))}
          {p.after}
        </tbody>
      ))}
    </table>
  );
}

/** The heading of a group. */
function Heading({ title, across, fold }: { title: string | undefined; across: number; fold: Group<object>["fold"] }) {
  if (title === undefined) return null;
  return (
    <tr>
      <th colSpan={across} scope="rowgroup" className="pt-3.5 text-left text-[12px] font-semibold text-ink-2">
        {fold ? (
          <button type="button" aria-expanded={!fold.closed} onClick={fold.toggle} className="font-semibold">
            <span aria-hidden="true" className="mr-1.5 inline-block w-2.5 font-mono text-ink-3">
              {fold.closed ? "+" : "−"}
            </span>
            {title} <span className="font-normal text-ink-3">{fold.count}</span>
          </button>
        ) : (
          title
        )}
      </th>
    </tr>
  );
}

/** What stands below a row, where anything does. */
function Detail({ across, children }: { across: number; children: ReactNode }) {
  if (!children) return null;
  return (
    <tr>
      <td colSpan={across} className="w bg-margin p-0 text-left">
        {children}
      </td>
    </tr>
  );
}

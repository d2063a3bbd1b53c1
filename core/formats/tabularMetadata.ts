/** A column of a table that goes out as comma-separated text. */
export interface TabularColumn {
  readonly name: string;
  /** as in the header of the file */
  readonly title: string;
  /** SI unit, 1 for pure numbers; absent for words */
  readonly unit?: string;
  /** what it is, where its title does not say so */
  readonly description?: string;
}

/**
 * Metadata of a table after the W3C's model for tabular data on the web: what each column is called, counts in and is.
 * @source W3C Recommendation "Metadata Vocabulary for Tabular Data", 2015
 */
export function tabularMetadata(url: string, title: string, columns: readonly TabularColumn[]): object {
  return {
    "@context": ["http://www.w3.org/ns/csvw", { "@language": "en" }],
    url,
    "dc:title": title,
    dialect: { header: true, encoding: "utf-8", lineTerminators: ["\n"] },
    tableSchema: {
      columns: columns.map((c) => ({
        name: c.name,
        titles: c.title,
        datatype: c.unit === undefined ? "string" : "double",
        ...(c.unit === undefined ? {} : { "schema:unitText": c.unit }),
        ...(c.description ? { "dc:description": c.description } : {}),
      })),
    },
  };
}

/** Names of columns as the metadata wants them: letters, digits and underscores, none twice. */
export function columnNames(titles: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return titles.map((title) => {
    const plain = title.replace(/[^A-Za-z0-9]+/g, "_").replace(/^_+|_+$/g, "") || "column";
    const count = (seen.get(plain) ?? 0) + 1;
    seen.set(plain, count);
    return count > 1 ? `${plain}_${count}` : plain;
  });
}

import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { hashBytes } from "../hash.ts";
import type { Files } from "./manifest.ts";

export const CRATE = "ro-crate-metadata.json";

const FORMATS: Readonly<Record<string, string>> = {
  csv: "text/csv",
  json: "application/json",
  pdf: "application/pdf",
  html: "text/html",
  svg: "image/svg+xml",
  png: "image/png",
  vtu: "application/vnd.vtk.unstructured-grid+xml",
  txt: "text/plain",
};

/** What the files of each folder are, in a sentence. */
const FOLDERS: readonly (readonly [RegExp, string])[] = [
  [/^report\.(json|pdf|html)$/, "The report as it was issued."],
  [/^inputs\.json$/, "Everything stored that the report was made from: cases, quantities, yardsticks, meshes, runs with their settings, findings."],
  [/schema\.json$/, "JSON Schema of the file of the same name."],
  [/assessment\.json$/, "Every figure that was worked out of a case, with all digits."],
  [/csv-metadata\.json$/, "Metadata of a table after the W3C's model for tabular data: columns with their units."],
  [/^tables\//, "A table of the report."],
  [/^drawings\//, "A drawing of the report."],
  [/^pictures\//, "A picture of the report."],
  [/^(\d+-)?records\//, "Record of a run as it is stored; columns after the stored ones were worked out by formula."],
  [/^(\d+-)?profiles\//, "A curve of a run."],
  [/^(\d+-)?fields\//, "Mesh and fields of the finest run, as an unstructured grid."],
  [/^blobs\//, "Fields as little-endian doubles, and meshes, under their own hash; inputs.json names them."],
  [/^files\//, "A file that was brought in."],
  [/^time-line\.json$/, "Who did what when: entries of the time line, chained by their hashes."],
];

const meaning = (path: string): string => FOLDERS.find(([p]) => p.test(path))?.[1] ?? "";

/** What the pack is, for whoever reads research objects: RO-Crate 1.1, in JSON-LD. */
export function crateOf(d: ReportDocument, files: Files, product: { readonly version: string; readonly method: string }): object {
  const paths = Object.keys(files).sort();
  return {
    "@context": "https://w3id.org/ro/crate/1.1/context",
    "@graph": [
      {
        "@id": CRATE,
        "@type": "CreativeWork",
        conformsTo: { "@id": "https://w3id.org/ro/crate/1.1" },
        about: { "@id": "./" },
      },
      {
        "@id": "./",
        "@type": "Dataset",
        name: `${d.title}, report ${d.number}`,
        description: d.purpose || `Evidence of report ${d.number} on ${d.title}.`,
        datePublished: d.issuedAt,
        author: { "@id": "#issuer" },
        hasPart: paths.map((path) => ({ "@id": encodeURI(path) })),
        mainEntity: { "@id": "report.pdf" },
        license: "As agreed with whoever issued it.",
      },
      { "@id": "#issuer", "@type": "Person", name: d.issuedBy },
      { "@id": "#tin-ruler", "@type": "SoftwareApplication", name: "Tin Ruler", softwareVersion: product.version, identifier: product.method },
      {
        "@id": "#assessment",
        "@type": "CreateAction",
        name: "Assessment",
        instrument: { "@id": "#tin-ruler" },
        object: { "@id": "inputs.json" },
        result: { "@id": "report.json" },
        endTime: d.issuedAt,
      },
      ...paths.map((path) => ({
        "@id": encodeURI(path),
        "@type": "File",
        name: path.split("/").at(-1),
        ...(meaning(path) ? { description: meaning(path) } : {}),
        encodingFormat: FORMATS[path.split(".").at(-1) ?? ""] ?? "application/octet-stream",
        contentSize: String(files[path].byteLength),
        sha256: hashBytes(files[path]),
      })),
    ],
  };
}

/** Text that is safe inside an XML attribute. */
const attribute = (text: string) => text.replace(/[<>&"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** An array of VTK's XML format with its values as they are written. */
export const dataElement = (type: string, name: string, components: number, body: string): string =>
  `<DataArray type="${type}" Name="${attribute(name)}" NumberOfComponents="${components}" format="ascii">\n${body}\n</DataArray>`;

/** Values as an array of the format, readable, a row an entry. */
export function dataArray(type: string, name: string, components: number, values: ArrayLike<number>): string {
  const rows: string[] = [];
  for (let k = 0; k < values.length; k += components) rows.push(Array.from({ length: components }, (_, d) => values[k + d]).join(" "));
  return dataElement(type, name, components, rows.join("\n"));
}

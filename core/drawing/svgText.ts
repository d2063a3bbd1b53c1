// Without what lays out a chart: every page has a drawing, few have charts.

/** The face of every drawing's words. */
export const FONT = "'Archivo Variable', 'DejaVu Sans', sans-serif";
export const MONO = "'IBM Plex Mono', 'DejaVu Sans Mono', monospace";

/** Text that stands for itself inside a drawing, whatever signs it has. */
export const escapeXml = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
/** A length or place in a drawing, to a hundredth of a pixel. */
export const n = (x: number): string => (Math.round(x * 100) / 100).toString();

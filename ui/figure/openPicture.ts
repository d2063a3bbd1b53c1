import type { Picture } from "@/core/figure/trace";

/** A picture as it is read: its pixels, and a canvas to draw it from. */
export interface OpenPicture {
  readonly name: string;
  readonly picture: Picture;
  readonly canvas: HTMLCanvasElement;
  /** SHA-256 of the file it came from */
  readonly sourceHash: string;
  /** pages of the document, where it came from one */
  readonly pages?: number;
}

/** larger pictures are refused: four bytes a pixel, several times over */
const MOST_PIXELS = 60e6;
/** pixels an inch a page of a document is drawn with */
const DPI = 200;

/** Reads a PNG, a JPEG or a page of a PDF. @throws {Error} in a sentence, where it is none of these or too large */
export async function openPicture(file: File, page = 1): Promise<OpenPicture> {
  const bytes = await file.arrayBuffer();
  const sourceHash = [...new Uint8Array(await crypto.subtle.digest("SHA-256", bytes))].map((b) => b.toString(16).padStart(2, "0")).join("");
  const isPdf = new TextDecoder("latin1").decode(bytes.slice(0, 5)) === "%PDF-";
  const drawn = isPdf ? await drawPage(bytes, page) : { canvas: await drawImage(file), pages: undefined };
  const { canvas, pages } = drawn;
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (!context) throw new Error("This browser lends no canvas to read the picture with.");
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  return {
    name: pages === undefined ? file.name : `${file.name}, page ${page}`,
    picture: { width: canvas.width, height: canvas.height, rgba: data },
    canvas,
    sourceHash,
    ...(pages === undefined ? {} : { pages }),
  };
}

function canvasOf(width: number, height: number): HTMLCanvasElement {
  if (!(width > 0 && height > 0)) throw new Error("The picture is empty.");
  if (width * height > MOST_PIXELS)
    throw new Error(`The picture has ${Math.round((width * height) / 1e6)} million pixels; at most ${MOST_PIXELS / 1e6} are read.`);
  const canvas = document.createElement("canvas");
  canvas.width = width;
  canvas.height = height;
  return canvas;
}

async function drawImage(file: File): Promise<HTMLCanvasElement> {
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name} is neither a PNG, a JPEG nor a PDF that can be read.`);
  });
  const canvas = canvasOf(bitmap.width, bitmap.height);
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0);
  return canvas;
}

async function drawPage(bytes: ArrayBuffer, page: number): Promise<{ canvas: HTMLCanvasElement; pages: number }> {
  const pdf = await import("pdfjs-dist");
  // One worker a document: it is ended with the document.
  const port = new Worker(new URL("pdfjs-dist/build/pdf.worker.min.mjs", import.meta.url), { type: "module" });
  pdf.GlobalWorkerOptions.workerPort = port;
  // Glyphs are drawn as outlines: no font of a stranger's document is handed to the page.
  const task = pdf.getDocument({ data: bytes, isEvalSupported: false, disableFontFace: true, useSystemFonts: false });
  try {
    const document = await task.promise;
    if (!(page >= 1 && page <= document.numPages)) throw new Error(`The document has ${document.numPages} pages; there is no page ${page}.`);
    const found = await document.getPage(page);
    const viewport = found.getViewport({ scale: DPI / 72 });
    const canvas = canvasOf(Math.round(viewport.width), Math.round(viewport.height));
    const canvasContext = canvas.getContext("2d");
    if (!canvasContext) throw new Error("This browser lends no canvas to read the page with.");
    await found.render({ canvasContext, viewport }).promise;
    return { canvas, pages: document.numPages };
  } finally {
    await task.destroy().catch(() => undefined);
    port.terminate();
  }
}

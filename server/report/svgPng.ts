import { readFile } from "node:fs/promises";
import path from "node:path";
import { initWasm, Resvg } from "@resvg/resvg-wasm";
import { applicationFolder } from "../config.ts";

const within = (...parts: string[]) => path.join(applicationFolder(), "node_modules", ...parts);

const FONTS = ["DejaVuSans.ttf", "DejaVuSans-Bold.ttf", "DejaVuSansMono.ttf"];

let ready: Promise<Uint8Array[]> | undefined;

/** Loads what draws and the letters it draws with, once. */
async function prepared(): Promise<Uint8Array[]> {
  ready ??= (async () => {
    await initWasm(await readFile(within("@resvg", "resvg-wasm", "index_bg.wasm")));
    return Promise.all(FONTS.map((f) => readFile(within("dejavu-fonts-ttf", "ttf", f))));
  })();
  return ready;
}

/** A drawing as dots: as a PNG, and each dot's red, green, blue and cover. @param width in dots */
export async function svgDots(svg: string, width: number): Promise<{ readonly png: Uint8Array; readonly rgba: Uint8Array }> {
  const fontBuffers = await prepared();
  const drawn = new Resvg(svg, {
    fitTo: { mode: "width", value: width },
    background: "#ffffff",
    font: { fontBuffers, defaultFontFamily: "DejaVu Sans", sansSerifFamily: "DejaVu Sans", monospaceFamily: "DejaVu Sans Mono" },
  }).render();
  const made = { png: drawn.asPng(), rgba: Uint8Array.from(drawn.pixels) };
  drawn.free();
  return made;
}

import { csvOf } from "../../ui/csv";
import { scaleUnit } from "../../ui/format";
import type { Scale } from "@winter-bead/core";
import type { LabRun } from "./lab-run";
import { VARIANT_WORDS } from "./variants";

/** A run as CSV: one row a step of the chart, one block a variant. */
export function labCsv(runs: readonly LabRun[], scale: Scale): string {
  const rows = runs.flatMap((run) =>
    Array.from(run.litres, (litres, i) => ({
      variant: VARIANT_WORDS[run.variant].name,
      "litres, L": Number(litres.toFixed(3)),
      [`product, ${scaleUnit(scale)}`]: Number(run.ppm[i]!.toPrecision(6)),
      pH: Number(run.ph[i]!.toFixed(3)),
      "silica, mg/L as SiO2": Number(run.silica[i]!.toPrecision(6)),
      "ammonia, mg/L as NH4": Number(run.ammonia[i]!.toPrecision(6)),
    })),
  );
  return csvOf(rows);
}

const FONT = "Atkinson Hyperlegible Next";
const GAP = 20;

async function fontAsData(): Promise<string> {
  const blob = await (await fetch("/fonts/atkinson-hyperlegible-next.woff2")).blob();
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error("the font could not be read"));
    reader.readAsDataURL(blob);
  });
}

/** Drawings of the page one below the other as one SVG that needs nothing else; `paper` is its ground. */
export async function picture(drawings: readonly SVGSVGElement[], paper: string): Promise<string> {
  const font = await fontAsData();
  let y = GAP;
  let widest = 0;
  const parts = drawings.map((drawing) => {
    const { width, height } = drawing.getBoundingClientRect();
    const copy = drawing.cloneNode(true) as SVGSVGElement;
    copy.setAttribute("x", String(GAP));
    copy.setAttribute("y", String(y));
    copy.setAttribute("width", String(width));
    copy.setAttribute("height", String(height));
    y += height + GAP;
    widest = Math.max(widest, width);
    return new XMLSerializer().serializeToString(copy);
  });
  const [width, height] = [Math.ceil(widest + 2 * GAP), Math.ceil(y)];
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><style>@font-face{font-family:"${FONT}";src:url(${font}) format("woff2");font-weight:200 800}text{font-family:"${FONT}",sans-serif}</style><rect width="100%" height="100%" fill="${paper}"/>${parts.join("")}</svg>`;
}

const SHARPNESS = 2;

/** The same as PNG, twice as fine as the screen. */
export async function asPng(svg: string): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = SHARPNESS * image.width;
  canvas.height = SHARPNESS * image.height;
  const context = canvas.getContext("2d")!;
  context.scale(SHARPNESS, SHARPNESS);
  context.drawImage(image, 0, 0);
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error("the picture could not be drawn"))), "image/png"),
  );
}

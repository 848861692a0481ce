import { createCanvas } from '@napi-rs/canvas';
import { halveImage } from '../../core/imaging/raster/halveImage';
import type { DrawnPage } from '../artist/drawPage';
import { PX_PER_MM } from '../artist/sheet';
import { DESK_MM, type DeskTexture } from './deskTexture';
import type { Lens } from './lens';
import type { LightMap } from './lightMap';
import type { SheetSurface } from './sheetSurface';
import { pagePoint, type PagePoint } from './pagePoint';

/** Linear light, three floats a pixel; 1 is white paper in full light. */
export interface Exposure {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

export const LINEAR = Float32Array.from({ length: 256 }, (_, v) => {
  const s = v / 255;
  return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
});

/** Fills the picture with the desk where nothing covers it, with the page's contact shadow on it. */
export function paintDesk(
  out: Exposure,
  covered: Uint8Array | null,
  lens: Lens,
  desk: DeskTexture,
  light: LightMap,
  outline: readonly { xMm: number; yMm: number; zMm: number }[],
): void {
  const shadow = contactShadow(outline, light);
  const { size, texelsPerMm, data } = desk;
  const { width, height, data: pixels } = out;
  const { colour } = light;
  const linear = LINEAR;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (covered?.[y * width + x] === 1) continue;
      const place = lens.deskAt(x + 0.5, y + 0.5);
      if (place === null) continue; // above the horizon: dark
      const { xMm, yMm } = place;
      const at = (y * width + x) * 3;
      const tx = mirror((xMm + DESK_MM / 2) * texelsPerMm, size);
      const ty = mirror((yMm + DESK_MM / 2) * texelsPerMm, size);
      const xi = tx | 0;
      const yi = ty | 0;
      const fx = tx - xi;
      const fy = ty - yi;
      const xNext = Math.min(size - 1, xi + 1);
      const yNext = Math.min(size - 1, yi + 1);
      const i00 = desk.at(xi, yi);
      const i10 = desk.at(xNext, yi);
      const i01 = desk.at(xi, yNext);
      const i11 = desk.at(xNext, yNext);
      const lit = light.at(xMm, yMm) * shadow(xMm, yMm);
      for (let c = 0; c < 3; c++) {
        const v =
          (data[i00 + c]! * (1 - fx) + data[i10 + c]! * fx) * (1 - fy) +
          (data[i01 + c]! * (1 - fx) + data[i11 + c]! * fx) * fy;
        pixels[at + c] = linear[v | 0]! * lit * colour[c]!;
      }
    }
  }
}

function mirror(value: number, size: number): number {
  // a remainder of fractions is slow, and nearly all of what is seen lies on the texture
  if (value >= 0 && value < size - 1) return value;
  const period = 2 * size - 2;
  const m = ((value % period) + period) % period;
  return m < size - 1 ? m : period - m;
}

/** So far do the blurred shadows reach beyond what casts them, px of the shadow's picture. */
const SHADOW_REACH_PX = 30;

/** Share of light left on the desk beside the sheet: its own shadow, wider where the sheet lifts. */
function contactShadow(
  outline: readonly { xMm: number; yMm: number; zMm: number }[],
  light: LightMap,
): (xMm: number, yMm: number) => number {
  if (outline.length === 0) return () => 1;
  const scale = 1.2;
  const cast = (share: number): [number, number][] =>
    outline.map(({ xMm, yMm, zMm }) => [
      (xMm - (light.lamp[0] / light.lamp[2]) * zMm * share + DESK_MM / 2) * scale,
      (yMm - (light.lamp[1] / light.lamp[2]) * zMm * share + DESK_MM / 2) * scale,
    ]);
  const [near, far] = [cast(1), cast(1.3)];
  // only as much of the desk as the shadow may reach
  const span = (axis: 0 | 1): [number, number] => {
    const all = [...near, ...far].map((at) => at[axis]);
    const low = Math.max(0, Math.floor(Math.min(...all)) - SHADOW_REACH_PX);
    return [low, Math.min(Math.round(DESK_MM * scale), Math.ceil(Math.max(...all)) + SHADOW_REACH_PX) - low];
  };
  const [[left, width], [top, height]] = [span(0), span(1)];
  const ctx = createCanvas(width, height).getContext('2d');
  ctx.fillStyle = '#fff';
  ctx.fillRect(0, 0, width, height);
  ctx.translate(-left, -top);
  const draw = (ring: [number, number][], blurMm: number, alpha: number): void => {
    ctx.filter = `blur(${blurMm * scale}px)`;
    ctx.fillStyle = `rgba(0,0,0,${alpha})`;
    ctx.beginPath();
    for (const [x, y] of ring) ctx.lineTo(x, y);
    ctx.closePath();
    ctx.fill();
  };
  draw(near, 1.6, 0.34);
  draw(far, 6, 0.28);
  const rgba = ctx.getImageData(0, 0, width, height).data;
  return (xMm, yMm) => {
    const x = Math.round((xMm + DESK_MM / 2) * scale) - left;
    const y = Math.round((yMm + DESK_MM / 2) * scale) - top;
    if (x < 0 || y < 0 || x >= width || y >= height) return 1;
    return rgba[(y * width + x) * 4]! / 255;
  };
}

const CELL_MM = 3.5;

/**
 * Draws the sheet as a fine mesh over what is there.
 * @returns a byte a pixel: 1 where the sheet is
 */
export function paintPage(
  out: Exposure,
  lens: Lens,
  page: DrawnPage,
  surface: SheetSurface,
  light: LightMap,
): Uint8Array {
  const covered = new Uint8Array(out.width * out.height);
  const columns = Math.ceil(page.widthMm / CELL_MM);
  const rows = Math.ceil(page.heightMm / CELL_MM);
  const place = { widthMm: page.widthMm, heightMm: page.heightMm, surface, lens, light };
  const vertices: PagePoint[] = [];
  for (let j = 0; j <= rows; j++) {
    for (let i = 0; i <= columns; i++)
      vertices.push(pagePoint(place, (page.widthMm * i) / columns, (page.heightMm * j) / rows));
  }
  const middle = lens.project(surface(page.widthMm / 2, page.heightMm / 2));
  const beside = lens.project(surface(page.widthMm / 2 + 10, page.heightMm / 2));
  const photoPxPerMm = Math.hypot(beside.x - middle.x, beside.y - middle.y) / 10;
  const halves = Math.max(0, Math.round(Math.log2(PX_PER_MM / photoPxPerMm)));
  let texture = page.image;
  for (let k = 0; k < halves; k++) texture = halveImage(texture);
  const texelsPerMm = texture.width / page.widthMm;
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++) {
      const a = vertices[j * (columns + 1) + i]!;
      const b = vertices[j * (columns + 1) + i + 1]!;
      const c = vertices[(j + 1) * (columns + 1) + i + 1]!;
      const d = vertices[(j + 1) * (columns + 1) + i]!;
      fillTriangle(a, b, c);
      fillTriangle(a, c, d);
    }
  }
  return covered;

  function fillTriangle(a: PagePoint, b: PagePoint, c: PagePoint): void {
    const area = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
    if (area <= 0) return;
    const x0 = Math.max(0, Math.floor(Math.min(a.x, b.x, c.x)));
    const x1 = Math.min(out.width - 1, Math.ceil(Math.max(a.x, b.x, c.x)));
    const y0 = Math.max(0, Math.floor(Math.min(a.y, b.y, c.y)));
    const y1 = Math.min(out.height - 1, Math.ceil(Math.max(a.y, b.y, c.y)));
    const { width: tw, height: th, data: texels } = texture;
    for (let y = y0; y <= y1; y++) {
      for (let x = x0; x <= x1; x++) {
        const px = x + 0.5;
        const py = y + 0.5;
        const wa = ((b.x - px) * (c.y - py) - (b.y - py) * (c.x - px)) / area;
        const wb = ((c.x - px) * (a.y - py) - (c.y - py) * (a.x - px)) / area;
        const wc = 1 - wa - wb;
        if (wa < 0 || wb < 0 || wc < 0) continue;
        const tx = Math.min(tw - 1.001, Math.max(0, (a.u * wa + b.u * wb + c.u * wc) * texelsPerMm - 0.5));
        const ty = Math.min(th - 1.001, Math.max(0, (a.v * wa + b.v * wb + c.v * wc) * texelsPerMm - 0.5));
        const xi = tx | 0;
        const yi = ty | 0;
        const fx = tx - xi;
        const fy = ty - yi;
        const shade = a.shade * wa + b.shade * wb + c.shade * wc;
        const gloss = a.gloss * wa + b.gloss * wb + c.gloss * wc;
        const i00 = (yi * tw + xi) * 3;
        const i01 = i00 + tw * 3;
        covered[y * out.width + x] = 1;
        const at = (y * out.width + x) * 3;
        for (let k = 0; k < 3; k++) {
          const top = LINEAR[texels[i00 + k]!]! * (1 - fx) + LINEAR[texels[i00 + 3 + k]!]! * fx;
          const bottom = LINEAR[texels[i01 + k]!]! * (1 - fx) + LINEAR[texels[i01 + 3 + k]!]! * fx;
          out.data[at + k] = (top * (1 - fy) + bottom * fy) * shade * light.colour[k]! + gloss;
        }
      }
    }
  }
}

import { polygonArea, type Quad } from '../../core/imaging/geometry/quad';
import type { Point } from '../../core/imaging/geometry/point';
import type { PixelImage } from '../../core/imaging/raster/pixelImage';
import { drawPage, type DrawnPage } from '../artist/drawPage';
import { drawDesk } from './deskTexture';
import { createLens, type Lens } from './lens';
import { createLightMap } from './lightMap';
import { paintDesk, paintPage, type Exposure } from './paintScene';
import { createSheetSurface, type SheetSurface } from './sheetSurface';
import type { Scene } from './scene';
import { develop } from './sensor';
import { paintThumb } from './thumb';

/** A simulated photo with all that is true about it. Points are in pixels of the picture as it is seen. */
export interface Photograph {
  readonly scene: Scene;
  readonly image: PixelImage;
  readonly page: DrawnPage;
  readonly corners: Quad;
  /** The sheet's outline clockwise from its top-left corner, as read. */
  readonly boundary: readonly Point[];
}

const darkExposure = ({ camera: { widthPx, heightPx } }: Scene): Exposure => ({
  width: widthPx,
  height: heightPx,
  data: new Float32Array(widthPx * heightPx * 3),
});

/** The same desk, light and camera with no page on it. */
export function photographDesk(scene: Scene): PixelImage {
  const { widthMm, heightMm } = drawPage(scene.page.kind, scene.page.size, scene.page.seed);
  const radiance = darkExposure(scene);
  const lens = createLens(scene, widthMm, heightMm);
  paintDesk(radiance, null, lens, drawDesk(scene, widthMm, heightMm, lens), createLightMap(scene), []);
  return develop(radiance, scene);
}

/** Takes the photo: page on its surface, desk, light, lens, thumb, sensor. */
export function photograph(scene: Scene): Photograph {
  const page = drawPage(scene.page.kind, scene.page.size, scene.page.seed);
  const { widthMm, heightMm } = page;
  const surface = createSheetSurface(scene, widthMm, heightMm);
  const lens = createLens(scene, widthMm, heightMm);
  const light = createLightMap(scene);
  const radiance = darkExposure(scene);
  const boundary = traceBoundary(surface, lens, widthMm, heightMm);
  const covered = paintPage(radiance, lens, page, surface, light);
  const desk = drawDesk(scene, widthMm, heightMm, lens);
  paintDesk(radiance, covered, lens, desk, light, footprint(surface, widthMm, heightMm));
  const corner = (u: number, v: number): Point => lens.project(surface(u, v));
  const corners: Quad = [corner(0, 0), corner(widthMm, 0), corner(widthMm, heightMm), corner(0, heightMm)];
  if (scene.thumb)
    paintThumb(radiance, scene, boundary, Math.sqrt(Math.abs(polygonArea(corners)) / (widthMm * heightMm)));
  return { scene, image: develop(radiance, scene), page, corners, boundary };
}

function traceBoundary(surface: SheetSurface, lens: Lens, w: number, h: number): Point[] {
  const steps = 40;
  const side = (from: readonly [number, number], to: readonly [number, number]): Point[] =>
    Array.from({ length: steps }, (_, i) =>
      lens.project(surface(from[0] + ((to[0] - from[0]) * i) / steps, from[1] + ((to[1] - from[1]) * i) / steps)),
    );
  return [...side([0, 0], [w, 0]), ...side([w, 0], [w, h]), ...side([w, h], [0, h]), ...side([0, h], [0, 0])];
}

/** The sheet's outline on the desk, for its contact shadow. */
function footprint(surface: SheetSurface, w: number, h: number): readonly { xMm: number; yMm: number; zMm: number }[] {
  const at = (u: number, v: number): { xMm: number; yMm: number; zMm: number } => {
    const [xMm, yMm, zMm] = surface(u, v);
    return { xMm, yMm, zMm };
  };
  const ring: { xMm: number; yMm: number; zMm: number }[] = [];
  const n = 12;
  for (let i = 0; i < n; i++) ring.push(at((w * i) / n, 0));
  for (let i = 0; i < n; i++) ring.push(at(w, (h * i) / n));
  for (let i = 0; i < n; i++) ring.push(at(w * (1 - i / n), h));
  for (let i = 0; i < n; i++) ring.push(at(0, h * (1 - i / n)));
  return ring;
}

import { polygonArea } from '../core/imaging/geometry/quad';
import { inspectShot } from '../core/imaging/quality/inspectShot';
import { SHOT_FINDINGS, type ShotFinding } from '../core/imaging/quality/shotFindings';
import { startRecipes } from '../core/work/intake/startRecipe';
import { createLens } from '../demo/camera/lens';
import { createLightMap } from '../demo/camera/lightMap';
import { pagePoint } from '../demo/camera/pagePoint';
import type { PhotoTruth } from '../demo/camera/savePhotograph';
import { createSheetSurface } from '../demo/camera/sheetSurface';
import { loadScoredPhotos } from './scoredPhotos';
import { percent } from './statistics';

/** What is wrong with a photo, and what is neither right nor wrong: a photo a little blurred. */
interface Wrong {
  readonly wrong: boolean;
  readonly unsure: boolean;
}

/** A stroke is half a millimetre: a blur that is as wide (standard deviation × 2.35) runs strokes together, one of three quarters may. */
const BLUR_MM = { unsure: 0.18, wrong: 0.25 } as const;
/** The same for a hand that moves by so much while the shutter is open. */
const SLIP_MM = { unsure: 0.3, wrong: 0.45 } as const;
/** Light that the lamp's reflection adds, as a share of white paper's: a quarter takes as much from what ink stands out by. */
const GLOSS = 0.25;
/** Share of the page that it covers. */
const GLARE_SHARE = { unsure: 0.004, wrong: 0.012 } as const;
/** Dots an inch: 2 either way are the outline's. */
const DPI = { unsure: 92, wrong: 88 } as const;

/** Prints how often each finding of the ready check is right, and how often what is wrong is found. */
export async function benchVerdicts(folder: string): Promise<void> {
  const counts = new Map(SHOT_FINDINGS.map((finding) => [finding, { right: 0, alarms: [], missed: [] }]));
  let photos = 0;
  for await (const { name, image, truth } of loadScoredPhotos(folder)) {
    photos++;
    const { outline, reading } = startRecipes(image, {
      finish: 'daylight',
      kind: 'sheet',
      focalRatio: truth.scene.camera.focalShare,
    })[0];
    const { findings } = inspectShot(image, outline.corners, {
      longSideMm: Math.max(truth.pageWidthMm, truth.pageHeightMm),
      motionBlur: reading.motionBlur,
    });
    const wrong = wrongWith(truth);
    for (const finding of SHOT_FINDINGS) count(counts.get(finding)!, wrong[finding], findings.includes(finding), name);
  }
  console.log(`\nVerdicts on ${photos} photos`);
  console.table(
    [...counts].map(([finding, { right, alarms, missed }]) => ({
      finding,
      right,
      false: alarms.length,
      missed: missed.length,
      precision: percent(right / (right + alarms.length)),
      recall: percent(right / (right + missed.length)),
    })),
  );
  for (const [finding, { alarms, missed }] of counts)
    console.log(`${finding}: false ${alarms.join(' ') || 'none'}; missed ${missed.join(' ') || 'none'}`);
}

interface Counts {
  right: number;
  readonly alarms: string[];
  readonly missed: string[];
}

function count(counts: Counts, { wrong, unsure }: Wrong, said: boolean, name: string): void {
  if (wrong && said) counts.right++;
  else if (wrong) counts.missed.push(name);
  else if (said && !unsure) counts.alarms.push(name);
}

function wrongWith(truth: PhotoTruth): Readonly<Record<ShotFinding, Wrong>> {
  const { scene, width, height, corners, boundary, pageWidthMm, pageHeightMm } = truth;
  const pxPerMm = Math.sqrt(Math.abs(polygonArea(corners)) / (pageWidthMm * pageHeightMm));
  const [blurMm, slipMm] = [scene.camera.blurPx / pxPerMm, scene.camera.motionPx / pxPerMm];
  const glare = glareShareOf(truth);
  const out = boundary.filter(({ x, y }) => x < 0 || y < 0 || x > width || y > height).length;
  const dpi = pxPerMm * 25.4;
  return {
    // the simulator's photos are whole
    incomplete: { wrong: false, unsure: false },
    blurred: {
      wrong: blurMm >= BLUR_MM.wrong || slipMm >= SLIP_MM.wrong,
      unsure: blurMm >= BLUR_MM.unsure || slipMm >= SLIP_MM.unsure,
    },
    // two of the 160 points of an outline are two millimetres of its side at most
    cut: { wrong: out > 2, unsure: out > 0 },
    glare: { wrong: glare >= GLARE_SHARE.wrong, unsure: glare >= GLARE_SHARE.unsure },
    thumb: { wrong: scene.thumb, unsure: scene.thumb },
    lowDetail: { wrong: dpi < DPI.wrong, unsure: dpi < DPI.unsure },
    dark: { wrong: scene.light === 'dim', unsure: false },
  };
}

/** Places looked at across a page, and down. */
const PLACES = 50;

/** Share of what is seen of the page over which the lamp's reflection lies. */
function glareShareOf({ scene, width, height, pageWidthMm: widthMm, pageHeightMm: heightMm }: PhotoTruth): number {
  const place = {
    widthMm,
    heightMm,
    surface: createSheetSurface(scene, widthMm, heightMm),
    lens: createLens(scene, widthMm, heightMm),
    light: createLightMap(scene),
  };
  const points = Array.from({ length: PLACES * PLACES }, (_, k) =>
    pagePoint(place, ((k % PLACES) + 0.5) * (widthMm / PLACES), (Math.floor(k / PLACES) + 0.5) * (heightMm / PLACES)),
  ).filter(({ x, y }) => x >= 0 && y >= 0 && x < width && y < height);
  return points.filter(({ gloss }) => gloss >= GLOSS).length / Math.max(1, points.length);
}

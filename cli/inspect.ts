import { SIDES } from '../core/imaging/quality/missingPart';
import type { PageCrew } from '../platform/node/pageCrew';
import { eachAnswer } from './eachAnswer';
import { readInputs } from './inputs';
import type { Given } from './readArguments';

const named = (sides: readonly boolean[]): string[] => SIDES.filter((_, k) => sides[k]);
const tenths = (value: number | null): number | null => (value === null ? null : Math.round(value * 10) / 10);

/** What the ready check sees on each page. */
export const inspect = async (given: Given, crew: PageCrew): Promise<number> =>
  eachAnswer(
    await readInputs(given),
    given.has('quiet'),
    (file) => crew.inspect({ task: 'inspect', file }),
    ({ width, height, confidence, upright, tilt, verdict }) => {
      const {
        findings,
        missing,
        edgeWidthMm,
        slipped,
        effectiveDpi,
        glareAt,
        cutSides,
        thumbSides,
        paperLightness,
        pixelNoise,
      } = verdict;
      return {
        width,
        height,
        findings,
        missing: missing === null ? null : { side: missing.side, share: Math.round(missing.share * 1000) / 1000 },
        sharpness: { edgeWidthMm: edgeWidthMm === null ? null : Math.round(edgeWidthMm * 1000) / 1000, slipped },
        glare: glareAt === null ? null : [tenths(glareAt.x), tenths(glareAt.y)],
        cutEdges: named(cutSides),
        thumb: named(thumbSides),
        tilt: tenths(tilt),
        effectiveDpi: Math.round(effectiveDpi),
        paperLightness: Math.round(paperLightness),
        pixelNoise: tenths(pixelNoise),
        confidence: Math.round(confidence * 1000) / 1000,
        upright,
      };
    },
  );

import type { PageCrew } from '../platform/node/pageCrew';
import { eachAnswer } from './eachAnswer';
import { readInputs } from './inputs';
import type { Given } from './readArguments';

const rounded = ({ x, y }: { x: number; y: number }): [number, number] => [
  Math.round(x * 10) / 10,
  Math.round(y * 10) / 10,
];

/** Where the page is in each photo. */
export const detect = async (given: Given, crew: PageCrew): Promise<number> =>
  eachAnswer(
    await readInputs(given),
    given.has('quiet'),
    (file) => crew.detect({ task: 'detect', file }),
    ({ width, height, quad, boundary, confidence, upright, ms }) => ({
      width,
      height,
      quad: quad?.map(rounded) ?? null,
      boundary: boundary?.map(rounded) ?? null,
      confidence: Math.round(confidence * 1000) / 1000,
      upright,
      ms,
    }),
  );

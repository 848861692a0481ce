import { readFileSync } from 'node:fs';
import { CONFIDENCE_WEIGHTS, SCORER_WEIGHTS } from '../core/imaging/detect/scorerWeights';
import { LIVE_CONFIDENCE_WEIGHTS, LIVE_SCORER_WEIGHTS } from '../core/imaging/live/liveWeights';
import { weightsFile } from './weightsFile';

it.each([
  ['core/imaging/detect/scorerWeights.ts', '', SCORER_WEIGHTS, CONFIDENCE_WEIGHTS],
  ['core/imaging/live/liveWeights.ts', 'LIVE_', LIVE_SCORER_WEIGHTS, LIVE_CONFIDENCE_WEIGHTS],
] as const)('training that learns nothing new leaves %s as it is', (file, prefix, ranker, confidence) => {
  expect(weightsFile(prefix, ranker, confidence).replace(/\s+/g, '')).toBe(
    readFileSync(file, 'utf8')
      .replace(/\/\*\*[\s\S]*?\*\//g, '')
      .replace(/\s+/g, ''),
  );
});

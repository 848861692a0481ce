// Written by bench/trainScorer.ts; do not edit by hand.
export const LIVE_CONFIDENCE_WEIGHTS: readonly number[] = [-3.5449, 2.2918, 1.2357, 0.1463, -1.0662, -0.5333, 0.8484, -0.4399, -1.3959, -0.6612];

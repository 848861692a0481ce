// Written by bench/trainScorer.ts; do not edit by hand.
export const LIVE_CONFIDENCE_WEIGHTS: readonly number[] = [-3.4423, 2.4325, 1.4607, 0.0438, -1.0992, -0.3389, 0.6676, 0.0177, -1.4749, -1.2186];

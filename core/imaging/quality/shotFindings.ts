/** What can be wrong with a shot, worst first. */
export const SHOT_FINDINGS = ['incomplete', 'blurred', 'cut', 'glare', 'thumb', 'lowDetail', 'dark'] as const;
export type ShotFinding = (typeof SHOT_FINDINGS)[number];

import { readFileSync } from 'node:fs';

/** Seeds of simulated photos, both ends among them; null where the end was not recorded. */
export interface SeedRange {
  readonly from: number;
  readonly to: number | null;
}

/** What the weights that ship were trained on, and what is scored: bench/train/manifest.json. */
export interface TrainingManifest {
  readonly scored: readonly {
    readonly set: string;
    readonly firstSeed: number;
    readonly lastSeed: number;
    readonly sizeShare: number;
  }[];
  readonly trained: readonly {
    readonly weights: string;
    /** SHA-256 of the file, or null where it holds several trainings' weights. */
    readonly sha256: string | null;
    readonly seeds: readonly SeedRange[];
  }[];
}

export const manifest = JSON.parse(readFileSync('bench/train/manifest.json', 'utf8')) as TrainingManifest;

/**
 * Refuses photos that are scored, by the seeds in their files' names.
 * @throws Error that names the first of them
 */
export function checkSeeds(fileNames: readonly string[]): void {
  for (const name of fileNames) {
    const seed = Number.parseInt(name, 10);
    const scored = manifest.scored.find(({ firstSeed, lastSeed }) => seed >= firstSeed && seed <= lastSeed);
    if (scored !== undefined)
      throw new Error(`“${name}” belongs to the scored set ${scored.set}: seed ${seed} must not be trained on.`);
  }
}

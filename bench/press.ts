import sharp from 'sharp';
import { encodeJbig2 } from '../core/imaging/jbig2/jbig2';
import { applyFinish } from '../core/imaging/finish/applyFinish';
import { PLAIN_LIGHT } from '../core/imaging/finish/finishSettings';
import { toFinish } from '../core/imaging/finish/pageLight';
import { loadScoredPhotos } from './scoredPhotos';
import { mean, quantile } from './statistics';
import { truePage } from './truePage';

/** Pages measured: sizes differ little from photo to photo. */
const PHOTOS = 16;

/** Bytes of Press pages as JBIG2, beside CCITT G4 of the same bitmap. */
export async function benchPress(photoFolder: string): Promise<void> {
  const seen: { kind: string; jbig2: number; g4: number; ms: number; megapixels: number }[] = [];
  for await (const photo of loadScoredPhotos(photoFolder)) {
    if (seen.length === PHOTOS) break;
    const { truth } = photo;
    const page = applyFinish(toFinish(truePage(photo)), 'press', PLAIN_LIGHT);
    const started = performance.now();
    const jbig2 = encodeJbig2(page).length;
    const ms = performance.now() - started;
    const g4 = (
      await sharp(page.data, { raw: { width: page.width, height: page.height, channels: 1 } })
        .toColourspace('b-w')
        .tiff({ compression: 'ccittfax4', bitdepth: 1 })
        .toBuffer()
    ).length;
    seen.push({ kind: truth.scene.page.kind, jbig2, g4, ms, megapixels: (page.width * page.height) / 1e6 });
  }
  const kinds = ['all', ...new Set(seen.map(({ kind }) => kind))];
  console.table(
    kinds.map((kind) => {
      const part = seen.filter((each) => kind === 'all' || each.kind === kind);
      return {
        page: kind,
        pages: part.length,
        'JBIG2 KB': (mean(part.map((p) => p.jbig2)) / 1000).toFixed(1),
        'G4 KB': (mean(part.map((p) => p.g4)) / 1000).toFixed(1),
        'JBIG2 / G4': (mean(part.map((p) => p.jbig2)) / mean(part.map((p) => p.g4))).toFixed(3),
        'ms a megapixel': quantile(
          part.map((p) => p.ms / p.megapixels),
          0.5,
        ).toFixed(1),
      };
    }),
  );
}

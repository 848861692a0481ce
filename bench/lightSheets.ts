import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { applyFinish } from '../core/imaging/finish/applyFinish';
import { FINISHES, PLAIN_LIGHT } from '../core/imaging/finish/finishSettings';
import { toFinish, type PageToFinish } from '../core/imaging/finish/pageLight';
import { LIGHTS, type Light } from '../demo/camera/scene';
import { loadScoredPhotos } from './scoredPhotos';
import { truePage } from './truePage';

const PAGES_A_LIGHT = 2;
const PAGE_LONG_SIDE_PX = 1600;
const CELL = { width: 360, height: 460 } as const;

/** Draws contact sheets, one a finish: pages laid flat by the simulator's own geometry, a row for each class of light. */
export async function drawLightSheets(photoFolder: string, outFolder: string): Promise<void> {
  const pages = new Map<Light, PageToFinish[]>(LIGHTS.map((light) => [light, []]));
  for await (const photo of loadScoredPhotos(photoFolder)) {
    const { truth } = photo;
    const found = pages.get(truth.scene.light)!;
    const inFrame = truth.corners.every((p) => p.x > 0 && p.y > 0 && p.x < truth.width && p.y < truth.height);
    if (found.length === PAGES_A_LIGHT || !inFrame || truth.scene.thumb) continue;
    found.push(toFinish(truePage(photo, PAGE_LONG_SIDE_PX)));
  }
  rmSync(outFolder, { recursive: true, force: true });
  mkdirSync(outFolder, { recursive: true });
  for (const finish of FINISHES) {
    const cells = await Promise.all(
      LIGHTS.flatMap((light, column) =>
        pages.get(light)!.map(async (page, row) => {
          const { width, height, channels, data } = applyFinish(page, finish, PLAIN_LIGHT);
          const input = await sharp(data, { raw: { width, height, channels } })
            .resize({ ...CELL, fit: 'inside' })
            .png()
            .toBuffer();
          return { input, left: column * (CELL.width + 10), top: row * (CELL.height + 10) };
        }),
      ),
    );
    const file = path.join(outFolder, `${finish}.png`);
    await sharp({
      create: {
        width: LIGHTS.length * (CELL.width + 10),
        height: PAGES_A_LIGHT * (CELL.height + 10),
        channels: 3,
        background: '#777',
      },
    })
      .composite(cells)
      .png()
      .toFile(file);
    console.log(`${file}: ${LIGHTS.join(', ')} from the left`);
  }
}

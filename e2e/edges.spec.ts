import { expect, test, type Locator, type Page } from '@playwright/test';
import sharp from 'sharp';
import { photograph, type Photograph } from '../demo/camera/photograph';
import { encodePhotograph } from '../demo/camera/savePhotograph';
import { createScene } from '../demo/camera/scene';
import { meanDisplacementMm } from './flatness';
import { addPhotos, startHandIn, tiles } from './steps';

const CAMERA = {
  widthPx: 1200,
  heightPx: 1600,
  radial: 0,
  blurPx: 0.6,
  motionPx: 0,
  tiltRad: 0.35,
  azimuthRad: Math.PI / 2,
  fill: 0.8,
  focalShare: 0.74,
} as const;
const PLAIN = {
  desk: 'wood',
  light: 'even',
  headingRad: 0.02,
  thumb: false,
  underSheet: false,
  offCentre: { x: 0, y: 0 },
  exifOrientation: 1,
} as const;

const cleanPage = (photo: Photograph): Promise<Buffer> =>
  sharp(photo.page.image.data, { raw: { width: photo.page.image.width, height: photo.page.image.height, channels: 3 } })
    .png()
    .toBuffer();

async function openEdges(page: Page, photo: Photograph): Promise<void> {
  await startHandIn(page);
  await addPhotos(page, { name: 'sheet.jpg', mimeType: 'image/jpeg', buffer: await encodePhotograph(photo) });
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await expect(page.getByText(/^Finding the paper/)).toHaveCount(0, { timeout: 60_000 });
  await tiles(page).click();
  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  await expect(page.getByRole('img', { name: 'The photo as it was taken' })).toBeVisible({ timeout: 60_000 });
}

const centreOf = async (place: Locator): Promise<{ x: number; y: number }> => {
  const box = (await place.boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

/** Drags a handle to a place of the photo, in steps as a hand does, and gives back how far it had to go on the screen. */
async function dragTo(
  page: Page,
  handle: Locator,
  photo: Photograph,
  to: { x: number; y: number },
  meanwhile?: () => Promise<void>,
): Promise<void> {
  const group = (await page.getByRole('group', { name: 'Photo with the page’s edges' }).boundingBox())!;
  const scale = group.width / photo.image.width;
  const from = await centreOf(handle);
  const target = { x: group.x + to.x * scale, y: group.y + to.y * scale };
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  for (let k = 1; k <= 6; k++)
    await page.mouse.move(from.x + ((target.x - from.x) * k) / 6, from.y + ((target.y - from.y) * k) / 6);
  await meanwhile?.();
  await page.mouse.up();
}

/** The page as it is shown once the edges are used. */
async function renderedPage(page: Page): Promise<Buffer> {
  await expect(page.getByRole('img', { name: 'Page 1', exact: true })).toBeVisible({ timeout: 60_000 });
  const url = (await page.locator('img[alt="Page 1"]').getAttribute('src'))!;
  const bytes = await page.evaluate(
    async (from) => Array.from(new Uint8Array(await (await fetch(from)).arrayBuffer())),
    url,
  );
  return Buffer.from(bytes);
}

const CORNERS = ['top left', 'top right', 'bottom right', 'bottom left'];

test('corners dragged under the loupe and bent sides lay a bowed sheet flat, as the clean page is', async ({
  page,
}) => {
  const photo = photograph(
    createScene(9501, {
      ...PLAIN,
      page: { kind: 'calculation', size: 'a4', seed: 5 },
      shape: { kind: 'bowed', amount: 0.9 },
      camera: CAMERA,
    }),
  );
  await openEdges(page, photo);
  await page.getByRole('button', { name: 'Full photo' }).click();
  await page.getByRole('button', { name: 'Snap to found edges' }).click();
  for (const [i, name] of CORNERS.entries()) {
    await dragTo(page, page.getByRole('slider', { name: `Corner ${name}` }), photo, photo.corners[i]!, async () => {
      await expect(page.getByTestId('loupe')).toBeVisible();
      // it keeps away from the finger
      const loupe = await centreOf(page.getByTestId('loupe'));
      const finger = await centreOf(page.getByRole('slider', { name: `Corner ${name}` }));
      expect(Math.hypot(loupe.x - finger.x, loupe.y - finger.y)).toBeGreaterThan(100);
    });
  }
  await expect(page.getByTestId('loupe')).toHaveCount(0);
  await page.getByRole('button', { name: 'Use these edges' }).click();
  const clean = await cleanPage(photo);
  const straight = await meanDisplacementMm(await renderedPage(page), clean, photo.page.widthMm);

  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  await page.getByRole('button', { name: 'Bend sides' }).click();
  const quarter = photo.boundary.length / 4;
  for (const [s, name] of [
    [0, 'top'],
    [2, 'bottom'],
  ] as const) {
    await dragTo(
      page,
      page.getByRole('slider', { name: `Bend of the ${name} side` }),
      photo,
      photo.boundary[Math.round(quarter * (s + 0.5))]!,
    );
  }
  await page.getByRole('button', { name: 'Flat: see the page as it will be' }).click();
  await expect(page.getByRole('img', { name: 'The page laid flat by these edges' })).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Use these edges' }).click();
  await expect(page.getByRole('button', { name: 'Undo the edges' })).toBeEnabled();
  await expect
    .poll(async () => meanDisplacementMm(await renderedPage(page), clean, photo.page.widthMm), { timeout: 60_000 })
    .toBeLessThan(Math.min(1.8, straight * 0.7));
});

test('a side moves with its neighbours, sticks to the found edge unless held off, and steps go back and forth', async ({
  page,
}) => {
  const photo = photograph(
    createScene(9502, {
      ...PLAIN,
      page: { kind: 'printed', size: 'a4', seed: 3 },
      shape: { kind: 'flat' },
      camera: { ...CAMERA, tiltRad: 0.15 },
    }),
  );
  await openEdges(page, photo);
  const side = page.getByRole('slider', { name: 'Side right' });
  const corner = page.getByRole('slider', { name: 'Corner top right' });
  const other = page.getByRole('slider', { name: 'Corner top left' });
  const read = async (handle: Locator): Promise<number[]> =>
    (await handle.getAttribute('aria-valuetext'))!.match(/-?\d+/g)!.map(Number);
  const found = { corner: await read(corner), other: await read(other) };
  const middle = { x: (photo.corners[1].x + photo.corners[2].x) / 2, y: (photo.corners[1].y + photo.corners[2].y) / 2 };

  // there is something to snap to once the photo has been looked through
  await expect(page.getByRole('button', { name: 'Snap to found edges' })).toBeEnabled({ timeout: 60_000 });
  await dragTo(page, side, photo, { x: middle.x - 200, y: middle.y });
  const inwards = await read(corner);
  expect(inwards[0]!).toBeLessThan(found.corner[0]! - 150);
  expect(await read(other)).toEqual(found.other);
  // back to within a few pixels of the paper's edge: it sticks to it
  await dragTo(page, side, photo, { x: middle.x - 12, y: middle.y });
  const stuck = await read(corner);
  expect(Math.hypot(stuck[0]! - photo.corners[1].x, stuck[1]! - photo.corners[1].y)).toBeLessThan(7);
  await page.getByRole('button', { name: 'Snap to found edges' }).click();
  await dragTo(page, side, photo, { x: middle.x - 12, y: middle.y });
  expect(Math.abs((await read(side))[0]! - (middle.x - 12))).toBeLessThan(6);

  // keys move by one pixel of the photo
  await side.focus();
  const before = await read(side);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await read(side))[0]).toBe(before[0]! + 2);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await read(side))[0]).toBe(before[0]! + 1);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(async () => (await read(side))[0]).toBe(before[0]! + 2);
  const back = page.getByRole('button', { name: 'Undo the last change of the edges' });
  while (await back.isEnabled()) await back.click();
  expect(await read(corner)).toEqual(found.corner);

  await page.getByRole('button', { name: 'Use these edges' }).click();
  expect(await meanDisplacementMm(await renderedPage(page), await cleanPage(photo), photo.page.widthMm)).toBeLessThan(
    1,
  );
});

test('with the photo zoomed a corner that gets the focus comes into view, and is moved by what the eye sees', async ({
  page,
}) => {
  const photo = photograph(
    createScene(9502, { ...PLAIN, page: { kind: 'calculation', size: 'a4', seed: 6 }, camera: CAMERA }),
  );
  await openEdges(page, photo);
  const picture = page.getByRole('img', { name: 'The photo as it was taken' });
  const before = (await picture.boundingBox())!.width;
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Zoom in' }).click();
  await expect.poll(async () => (await picture.boundingBox())!.width / before).toBeGreaterThan(3.9);
  const corner = page.getByRole('slider', { name: 'Corner bottom right' });
  await corner.focus();
  await page.keyboard.press('ArrowLeft');
  const main = (await page.getByRole('main').boundingBox())!;
  await expect.poll(async () => (await centreOf(corner)).x).toBeLessThan(main.x + main.width);
  const numbers = async (): Promise<number[]> =>
    (await corner.getAttribute('aria-valuetext'))!.match(/\d+/g)!.map(Number);
  await page.getByRole('button', { name: 'Snap to found edges' }).click();
  const [x] = await numbers();
  const from = await centreOf(corner);
  const pixels = (await picture.boundingBox())!.width / photo.image.width;
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x - 40, from.y, { steps: 5 });
  await page.mouse.up();
  expect(Math.abs((await numbers())[0]! - (x! - 40 / pixels))).toBeLessThan(3);
});

test('a grid shows how the page lies, lines on the page straighten it, and one tap goes back to straight sides', async ({
  page,
}) => {
  const scene = createScene(9502, {
    shape: { kind: 'bowed', amount: 0.9 },
    page: { kind: 'printed', size: 'a4' },
    ...PLAIN,
    camera: CAMERA,
  });
  await openEdges(page, photograph(scene));
  const straightened = page.getByText(/^Straightened by \d+ lines on the page\./);
  const straightSides = page.getByRole('button', { name: /^Straight sides/ });
  const grid = page.getByTestId('page-grid');
  await expect(straightened).toBeVisible();
  await expect(grid).toHaveCount(0);
  await page.getByRole('button', { name: /^Grid/ }).click();
  await expect(grid).toBeVisible({ timeout: 30_000 });
  const bent = await grid.getAttribute('d');

  await straightSides.click();
  await expect(straightened).toHaveCount(0);
  await expect(straightSides).toBeDisabled();
  await expect(grid).toBeVisible({ timeout: 30_000 });
  expect(await grid.getAttribute('d')).not.toBe(bent);

  await page.getByRole('button', { name: 'Undo the last change of the edges' }).click();
  await expect(straightened).toBeVisible();
  await page.getByRole('button', { name: 'Use these edges' }).click();
  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  await expect(straightened).toBeVisible();
});

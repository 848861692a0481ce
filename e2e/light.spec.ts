import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { tiles } from './steps';

/** Mean lightness of what is on the screen in a part of an element, 0 to 255. */
async function lightnessOf(
  page: Page,
  name: string,
  part: { x: number; y: number; width: number; height: number },
): Promise<number> {
  // a picture that is just being changed for a newer one has no box for a moment
  let box = null;
  while (box === null) box = await page.getByRole('img', { name, exact: true }).last().boundingBox();
  const shot = await page.screenshot({
    clip: {
      x: box.x + part.x * box.width,
      y: box.y + part.y * box.height,
      width: part.width * box.width,
      height: part.height * box.height,
    },
  });
  const { channels } = await sharp(shot).removeAlpha().stats();
  return channels.reduce((sum, channel) => sum + channel.mean, 0) / channels.length;
}

const MIDDLE = { x: 0.1, y: 0.2, width: 0.6, height: 0.5 };

async function openLight(page: Page, number: number): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: /Set 4/ }).click();
  await tiles(page)
    .nth(number - 1)
    .click();
  await expect(page.getByRole('img', { name: `Page ${number}`, exact: true })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Light', exact: true }).click();
}

test('a finish is chosen, set while the page follows the slider, used on every page, and taken back', async ({
  page,
}) => {
  await openLight(page, 1);
  await page.getByRole('radio', { name: /^As shot:/ }).click();
  await expect.poll(() => lightnessOf(page, 'Page 1', MIDDLE), { timeout: 30_000 }).toBeLessThan(225);
  await page.getByRole('radio', { name: /^Daylight:/ }).click();
  await expect.poll(() => lightnessOf(page, 'Page 1', MIDDLE), { timeout: 30_000 }).toBeGreaterThan(235);

  // the page follows while the slider is still held
  const before = await lightnessOf(page, 'Page 1', MIDDLE);
  await page.getByRole('radio', { name: 'Contrast' }).click();
  await page.getByRole('radio', { name: 'Brightness' }).click();
  const slider = page.getByRole('slider', { name: 'Brightness' });
  const box = (await slider.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.1, box.y + box.height / 2, { steps: 6 });
  await expect.poll(() => lightnessOf(page, 'Page 1', MIDDLE), { timeout: 30_000 }).toBeLessThan(before - 1);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo the light' })).toBeVisible();
  await page.getByRole('button', { name: 'Reset the light' }).click();
  await expect(page.getByRole('button', { name: 'Reset the light' })).toBeDisabled();

  await page.getByRole('radio', { name: /^Press:/ }).click();
  await expect(page.getByRole('radio', { name: /^Press:/ })).toBeChecked();
  await page.getByRole('button', { name: 'Use on other pages' }).click();
  await page.getByRole('button', { name: 'Page 2', exact: true }).click();
  await page.getByRole('button', { name: 'This page: use this light' }).click();
  await page.getByRole('button', { name: 'Use on other pages' }).click();
  await page.getByRole('button', { name: 'Every page: use this light' }).click();
  for (const number of [2, 3]) {
    await page.getByRole('button', { name: 'Next page' }).click();
    await page.getByRole('button', { name: 'Light', exact: true }).click();
    await expect(page.getByRole('radio', { name: /^Press:/ })).toBeChecked();
    await expect(page.getByText(`Page ${number} of 3`)).toBeVisible();
  }
  await page.getByRole('button', { name: /^Undo the light on/ }).click();
  await expect(page.getByRole('radio', { name: /^Daylight:/ })).toBeChecked();
});

test('photo and page are compared with a line that answers to the keys, and by holding the paper', async ({ page }) => {
  await openLight(page, 1);
  await expect.poll(() => lightnessOf(page, 'Page 1', MIDDLE), { timeout: 30_000 }).toBeGreaterThan(235);
  await page.getByRole('button', { name: /^Compare photo and page/ }).click();
  const line = page.getByRole('slider', { name: 'Line between photo and page' });
  const left = { ...MIDDLE, width: 0.2 };
  await expect.poll(() => lightnessOf(page, 'Page 1', left), { timeout: 30_000 }).toBeLessThan(225);
  await line.focus();
  await page.keyboard.press('Home');
  await expect.poll(() => lightnessOf(page, 'Page 1', left)).toBeGreaterThan(235);
  await page.getByRole('button', { name: /^Compare photo and page/ }).click();
  const box = (await page.getByRole('img', { name: 'Page 1', exact: true }).boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await expect.poll(() => lightnessOf(page, 'Page 1', MIDDLE)).toBeLessThan(225);
  await page.mouse.up();
  await expect.poll(() => lightnessOf(page, 'Page 1', MIDDLE)).toBeGreaterThan(235);
});

test('a thumb is offered, taken away, brought back, and a stroke of one’s own is painted and kept', async ({
  page,
}) => {
  await openLight(page, 2);
  await page.getByRole('button', { name: 'Mend: paint away thumbs, holes and stains' }).click();
  const thumb = { x: 0.18, y: 0.0, width: 0.16, height: 0.06 };
  const picture = 'The page as it will be';
  await expect(page.getByRole('img', { name: picture })).toBeVisible({ timeout: 60_000 });
  const dark = await lightnessOf(page, picture, thumb);
  await page.getByRole('button', { name: /^Take away the finger at the top/ }).click({ timeout: 60_000 });
  await expect.poll(() => lightnessOf(page, picture, thumb), { timeout: 30_000 }).toBeGreaterThan(dark + 15);
  await page.getByRole('button', { name: 'Undo the last stroke' }).click();
  await expect.poll(() => lightnessOf(page, picture, thumb), { timeout: 30_000 }).toBeLessThan(dark + 3);
  await page.getByRole('button', { name: 'Redo the stroke' }).click();

  // one of one's own, over the first line of writing, closer up
  const withWriting = await lightnessOf(page, picture, { x: 0.08, y: 0.11, width: 0.3, height: 0.03 });
  const box = (await page.getByRole('img', { name: picture }).boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.08, box.y + box.height * 0.125);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.125, { steps: 8 });
  await page.mouse.up();
  await expect
    .poll(() => lightnessOf(page, picture, { x: 0.08, y: 0.11, width: 0.3, height: 0.03 }), { timeout: 30_000 })
    .toBeGreaterThan(withWriting + 1);
  await page.getByRole('button', { name: 'Zoom in' }).click();
  await expect
    .poll(async () => (await page.getByRole('img', { name: picture }).boundingBox())!.width)
    .toBeGreaterThan(box.width * 1.4);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Undo the mending' })).toBeVisible();
  const kept = { x: 0.18, y: 0.01, width: 0.16, height: 0.05 };
  await expect.poll(() => lightnessOf(page, 'Page 2', kept), { timeout: 30_000 }).toBeGreaterThan(dark + 15);
  await page.getByRole('button', { name: 'Undo the mending' }).click();
  await expect.poll(() => lightnessOf(page, 'Page 2', kept), { timeout: 30_000 }).toBeLessThan(dark + 12);
});

test('two fingers zoom the page under the brush and paint nothing; the keys zoom too', async ({ page }) => {
  await openLight(page, 2);
  await page.getByRole('button', { name: 'Mend: paint away thumbs, holes and stains' }).click();
  const sheet = page.getByRole('application');
  await expect(sheet).toBeVisible({ timeout: 60_000 });
  const before = (await sheet.boundingBox())!;
  const middle = { x: before.x + before.width / 2, y: before.y + before.height / 2 };
  const touch = await page.context().newCDPSession(page);
  const fingers = (type: 'touchStart' | 'touchMove' | 'touchEnd', apart: number | null): Promise<unknown> =>
    touch.send('Input.dispatchTouchEvent', {
      type,
      touchPoints:
        apart === null
          ? []
          : [
              { x: middle.x - apart, y: middle.y, id: 0 },
              { x: middle.x + apart, y: middle.y, id: 1 },
            ],
    });
  await fingers('touchStart', 30);
  for (const apart of [40, 50, 60]) await fingers('touchMove', apart);
  await fingers('touchEnd', null);
  const zoomed = async (): Promise<number> => (await sheet.boundingBox())!.width / before.width;
  await expect.poll(zoomed).toBeGreaterThan(1.6);
  await expect(page.getByRole('button', { name: 'Undo the last stroke' })).toBeDisabled();
  await page.keyboard.press('0');
  await expect.poll(zoomed).toBeCloseTo(1, 1);
  await page.keyboard.press('+');
  await expect.poll(zoomed).toBeGreaterThan(1.3);
});

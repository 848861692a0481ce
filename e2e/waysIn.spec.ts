import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { faults } from './accessible';
import { unfit } from './fits';
import { photoNamed, practicePhotos } from './photos';
import { allSaved, startHandIn, tiles } from './steps';

/** Names of a hand-in's pages, as the server has them. */
async function pageNames(page: Page): Promise<string[]> {
  await allSaved(page);
  const id = /hand-in\/([^/?]+)/.exec(page.url())![1]!;
  const { pages } = (await (await page.request.get(`/api/hand-ins/${id}`)).json()) as { pages: { fileName: string }[] };
  return pages.map(({ fileName }) => fileName);
}

/** What a share sheet does: posts a form of files to the address that the manifest names. */
async function share(
  page: Page,
  files: readonly { readonly name: string; readonly type: string; readonly bytes: Buffer }[],
) {
  const { share_target: target } = (await (await page.request.get('/manifest.webmanifest')).json()) as {
    share_target: { action: string; params: { files: [{ name: string }] } };
  };
  const sent = files.map(({ name, type, bytes }) => ({ name, type, base64: bytes.toString('base64') }));
  return (context: { readonly offline: boolean }) =>
    Promise.all([
      page.waitForURL(/\/shared/),
      (async () => {
        await page.context().setOffline(context.offline);
        await page.evaluate(
          ({ action, field, sent }) => {
            const form = Object.assign(document.createElement('form'), {
              action,
              method: 'POST',
              enctype: 'multipart/form-data',
            });
            const input = Object.assign(document.createElement('input'), { type: 'file', name: field, multiple: true });
            const transfer = new DataTransfer();
            for (const { name, type, base64 } of sent)
              transfer.items.add(
                new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name, { type, lastModified: 1 }),
              );
            input.files = transfer.files;
            form.append(input);
            document.body.append(form);
            form.submit();
          },
          { action: target.action, field: target.params.files[0].name, sent },
        );
      })(),
    ]);
}
const photos = (count: number) =>
  practicePhotos()
    .slice(0, count)
    .map((file) => ({ name: path.basename(file), type: 'image/jpeg', bytes: readFileSync(file) }));

test.describe('shared with the installed app', () => {
  test.use({ serviceWorkers: 'allow' });

  test('photos become a new hand-in, and pages of one that is there, also without a network; nothing comes twice', async ({
    page,
    context,
  }) => {
    test.setTimeout(240_000);
    await page.goto('/');
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await (
      await share(page, photos(2))
    )({ offline: false });
    await expect(page.getByRole('list', { name: 'Files shared' }).getByRole('listitem')).toHaveCount(2);
    expect(await faults(page)).toEqual([]);
    expect(await unfit(page)).toEqual([]);
    // closed before it was taken up: the desk tells of it
    await page.goto('/');
    await page.getByRole('button', { name: 'See them: what was shared' }).click();
    await page.getByRole('button', { name: 'New hand-in with 2 files' }).click();
    await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
    expect(await pageNames(page)).toEqual(photos(2).map(({ name }) => name));

    const shareMore = await share(page, [
      ...photos(3),
      { name: 'letter.txt', type: 'text/plain', bytes: Buffer.from('a letter') },
    ]);
    await shareMore({ offline: true });
    await page.getByRole('button', { name: /: add to its 2 pages/ }).click();
    await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
    await expect(page.getByText(/is page 1 already/)).toBeVisible();
    await expect(page.getByText(/is page 2 already/)).toBeVisible();
    await expect(page.getByText(/letter.txt.* is .*text|“letter.txt” is not a photo/)).toBeVisible();
    await context.setOffline(false);
    expect(await pageNames(page)).toEqual(photos(3).map(({ name }) => name));
    // taken up once, they are gone from the shelf
    await page.goto('/shared');
    await expect(
      page.getByRole('heading', { name: 'Nothing was shared' }).or(page.getByText('Nothing was shared')),
    ).toBeVisible();
  });

  test('sixty photos shared at once all become pages', async ({ page }) => {
    test.setTimeout(300_000);
    await page.goto('/');
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    const small = await sharp(photoNamed('tides-1')).autoOrient().resize(240).jpeg().toBuffer();
    const names = Array.from({ length: 60 }, (_, i) => `IMG_${String(i).padStart(4, '0')}.jpg`);
    // each has bytes of its own: one photo twice would be pointed out
    const files = names.map((name, i) => ({ name, bytes: Buffer.concat([small, Buffer.from(`${i}`)]) }));
    await (
      await share(
        page,
        files.map(({ name, bytes }) => ({ name, type: 'image/jpeg', bytes })),
      )
    )({ offline: true });
    await page.getByRole('button', { name: 'New hand-in with 60 files' }).click();
    await expect(page.getByRole('button', { name: /^Page 1 of 60/ })).toBeVisible({ timeout: 200_000 });
  });
});

test('files opened with the app become pages; one that cannot be opened is named', async ({ page }) => {
  // Chromium tells only an installed app of what was opened: files of the browser's own stand in for those of the device
  await page.addInitScript(() => {
    const setConsumer = (take: (launch: { files: unknown[] }) => void): void => {
      const file = new File(
        [Uint8Array.from(atob(localStorage.getItem('opened')!), (c) => c.charCodeAt(0))],
        'sheet.jpg',
      );
      const moved = { name: 'moved.jpg', getFile: () => Promise.reject(new DOMException('moved', 'NotFoundError')) };
      take({ files: [{ name: file.name, getFile: () => Promise.resolve(file) }, moved] });
    };
    Object.defineProperty(globalThis, 'launchQueue', { value: { setConsumer } });
  });
  await page.goto('/');
  await page.evaluate(
    (bytes) => localStorage.setItem('opened', bytes),
    readFileSync(practicePhotos()[0]!).toString('base64'),
  );
  await page.goto('/shared');
  await expect(page.getByText(/Not opened: moved\.jpg\./)).toBeVisible();
  await page.getByRole('button', { name: 'New hand-in with 1 file' }).click();
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  expect(await pageNames(page)).toEqual(['sheet.jpg']);
});

test('what is shared before the app was kept on the device is told of, and how to share it', async ({ page }) => {
  await page.goto('/');
  await (
    await share(page, photos(1))
  )({ offline: false });
  await expect(page.getByText('What was shared did not arrive')).toBeVisible();
  await page.getByRole('button', { name: 'To the desk' }).click();
  await expect(page.getByRole('button', { name: 'Start a new hand-in' })).toBeVisible();
});

test('a folder let go over the desk becomes a hand-in, in the order of its names; a zip adds to it', async ({
  page,
}, info) => {
  test.setTimeout(240_000);
  const folder = info.outputPath('field week');
  mkdirSync(path.join(folder, 'day 10'), { recursive: true });
  mkdirSync(path.join(folder, 'day 9/deeper'), { recursive: true });
  const [first, second, third] = practicePhotos() as [string, string, string];
  cpSync(first, path.join(folder, 'day 9/deeper/plate.jpg'));
  cpSync(second, path.join(folder, 'day 10/plate 2.jpg'));
  writeFileSync(path.join(folder, 'day 10/notes.txt'), 'notes');
  writeFileSync(path.join(folder, '.DS_Store'), 'made by a system');
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Start a new hand-in' })).toBeVisible();
  await letGo(page, folder);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  expect(await pageNames(page)).toEqual(['field week/day 9/deeper/plate.jpg', 'field week/day 10/plate 2.jpg']);
  await expect(page.getByText(/1 file in “field week” was left out.*notes.txt/)).toBeVisible();

  const zip = info.outputPath('more.zip');
  writeFileSync(
    zip,
    zipSync({ 'a/b/last.jpg': readFileSync(third), 'a/inner.zip': zipSync({}), 'a/b/odd.jpg': new Uint8Array(900) }),
  );
  await letGo(page, zip);
  await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
  await expect(page.getByText(/“a\/b\/odd.jpg” is not a photo/)).toBeVisible();
  await expect(page.getByText(/1 file in “more.zip” was left out.*a\/inner.zip/)).toBeVisible();
  const half = info.outputPath('half.zip');
  writeFileSync(half, readFileSync(zip).subarray(0, 90_000));
  await letGo(page, half);
  await expect(page.getByText(/“half.zip” is a zip that is damaged or incomplete/)).toBeVisible();
  expect((await pageNames(page)).at(-1)).toBe('a/b/last.jpg');
});

test('a picture in the clipboard becomes a page; what is none is told of', async ({ page }) => {
  test.setTimeout(120_000);
  await startHandIn(page);
  const paste = (base64: string, name: string, type: string) =>
    page.evaluate(
      ({ base64, name, type }) => {
        const clipboardData = new DataTransfer();
        clipboardData.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name, { type }));
        window.dispatchEvent(new ClipboardEvent('paste', { clipboardData, cancelable: true }));
      },
      { base64, name, type },
    );
  await paste(readFileSync(photoNamed('ropework-1')).toString('base64'), 'image.jpg', 'image/jpeg');
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await paste(Buffer.from('no picture').toString('base64'), 'image.xyz', 'image/x-unknown');
  await expect(page.getByText(/“image.xyz” is not a photo/)).toBeVisible();
});

test('shortcuts of the installed app begin a hand-in, once', async ({ page }) => {
  const { shortcuts } = (await (await page.request.get('/manifest.webmanifest')).json()) as {
    shortcuts: { name: string; url: string }[];
  };
  const of = (name: string): string => shortcuts.find((each) => each.name === name)!.url;
  await page.goto(of('New hand-in'));
  await expect(page.getByRole('heading', { name: 'No pages yet' })).toBeVisible();
  await page.goto(of('Shoot pages'));
  await expect(page.getByRole('heading', { name: 'No camera was found' })).toBeVisible();
  await page.goto('/');
  await expect(page.getByRole('link', { name: /^Hand-in of/ })).toHaveCount(2);
});

/** Lets a file or folder of this machine go over the middle of the page. */
async function letGo(page: Page, file: string): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const { width, height } = page.viewportSize()!;
  const data = { items: [], files: [file], dragOperationsMask: 1 };
  const tell = (type: 'dragEnter' | 'dragOver' | 'drop') =>
    session.send('Input.dispatchDragEvent', { type, x: width / 2, y: height / 2, data });
  const dropped = await page.evaluateHandle(() => {
    const heard = { drop: false };
    window.addEventListener('drop', () => (heard.drop = true), { capture: true, once: true });
    return heard;
  });
  // The browser drops only where the page's answer to the last move has reached it, which nothing tells of: one that
  // came too early is taken for a cancelled one, and the hand tries again.
  await expect(async () => {
    await tell('dragEnter');
    await tell('dragOver');
    await expect(page.getByText(/^Let go to /)).toBeVisible();
    await tell('dragOver');
    await tell('drop');
    await expect.poll(() => dropped.evaluate(({ drop }) => drop), { timeout: 1000 }).toBe(true);
  }).toPass({ timeout: 60_000 });
  await session.detach();
}

import { expect, test } from '@playwright/test';
import type { Language } from '../src/i18n/languages';
import { faults } from './accessible';
import { unfit } from './fits';
import { sentencesIn } from './sentences';

for (const language of ['de', 'ar', 'es'] as const satisfies readonly Language[]) {
  test.describe(`in ${language}`, () => {
    // one of them in the dark, so that both themes and both directions are looked at
    test.use({ locale: language, colorScheme: language === 'ar' ? 'dark' : 'light' });

    test(`every main view speaks ${language}, and its texts fit`, async ({ page }) => {
      test.setTimeout(300_000);
      const say = sentencesIn(language);
      const button = (english: string, values?: Record<string, unknown>) =>
        page.getByRole('button', { name: say(english, values), exact: true });
      // colours and structure are the same in each language, but for those that are read from the right
      const what = language === 'ar' ? 'everything' : 'names';
      const look = async (view: string): Promise<void> => {
        expect.soft(await unfit(page), view).toEqual([]);
        expect.soft(await faults(page, what), view).toEqual([]);
      };
      await page.goto('/');
      await expect(page.getByRole('link', { name: /^Set 4/ })).toBeVisible();
      expect(await page.evaluate(() => [document.documentElement.lang, document.documentElement.dir])).toEqual([
        language,
        language === 'ar' ? 'rtl' : 'ltr',
      ]);
      await look('desk');
      await page.getByRole('link', { name: /^Set 4/ }).click();
      const tile = page
        .getByRole('button', {
          name: new RegExp(
            `^${say('Page {place} of {count}{leftOut}{turned}', { place: 1, count: 3, leftOut: '', turned: '' })}`,
          ),
        })
        .first();
      await expect(tile).toBeVisible();
      await look('pages');
      await button('Choose pages').click();
      await tile.click();
      await button('Move pages').click();
      await look('choosing');
      await button('Done choosing').click();
      await button('Read the pages through').click();
      await expect(page.getByRole('img', { name: say('Page {at} as it will be read', { at: 1 }) })).toBeVisible({
        timeout: 90_000,
      });
      await look('reading');
      await button('Pages: back to all of them').click();
      await tile.click();
      await expect(button('Light')).toBeVisible();
      await look('page');
      await button('Light').click();
      await look('light');
      await button('Order').click();
      await look('order');
      await button('Mark: write on the page').click();
      await expect(page.getByRole('application')).toBeVisible({ timeout: 90_000 });
      await look('marks');
      await button('Cancel: leave the marks as they were').click();
      await button('Mend: paint away thumbs, holes and stains').click();
      await expect(page.getByRole('application')).toBeVisible({ timeout: 90_000 });
      await look('mend');
      await button('Cancel: leave the mends as they were').click();
      await button('Edges').click();
      await expect(page.getByRole('slider')).toHaveCount(8);
      await look('edges');
      await page.getByRole('link', { name: new RegExp(`^${say('Bind')}`) }).click();
      await expect(page.getByRole('textbox').first()).toBeVisible();
      await look('bind');
      await page.getByRole('link', { name: new RegExp(`^${say('Hand in')}:`) }).click();
      await expect(page.getByRole('list', { name: say('Still to do') })).toBeVisible();
      await look('hand in');
      for (const place of ['Mail', 'Locker', 'This device']) {
        await page.getByRole('radio', { name: say(place), exact: true }).click();
        await look(place);
      }
      for (const address of ['profile', 'settings', 'link', 'deleted', 'recover', 'shared', 'nowhere']) {
        await page.goto(`/${address}`);
        await expect(page.getByRole('button').last()).toBeVisible();
        await look(address);
      }
      await page.goto('/');
      await button('Start a new hand-in').click();
      await expect(page.getByRole('heading', { name: say('No pages yet') })).toBeVisible();
      await look('no pages');
      await button('Shoot pages').click();
      await expect(page.getByRole('heading', { name: say('No camera was found') })).toBeVisible();
      await look('no camera');
      await button('Try the practice table').click();
      await expect(page.getByRole('dialog')).toBeVisible();
      await look('tips');
      await button('Skip the tips').click();
      await page.getByTestId('shutter').click();
      await expect(
        page
          .getByRole('list', { name: say('Pages kept') })
          .getByRole('button')
          .first(),
      ).toBeVisible();
      await look('shoot');
    });
  });
}

test('another language is set without losing anything', async ({ page }) => {
  await page.goto('/settings');
  const german = sentencesIn('de');
  await page.getByRole('radio', { name: 'Deutsch: Language' }).click();
  await expect(page.getByRole('heading', { name: german('Settings'), exact: true })).toBeVisible();
  await page.getByRole('button', { name: german('Done'), exact: true }).click();
  await expect(page.getByRole('button', { name: german('Start a new hand-in') })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: german('Start a new hand-in') })).toBeVisible();
});

import { expect, type FileChooser, type Page } from '@playwright/test';
import type { Weather } from '../contract/officeBodies';

/** Starts a hand-in from the desk and waits for its empty board. */
export async function startHandIn(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Set 4/ })).toBeVisible();
  await page.getByRole('button', { name: 'Start a new hand-in' }).click();
  await expect(page.getByRole('heading', { name: 'No pages yet' })).toBeVisible();
}

/** Chooses photos through the device's own picker. */
export async function addPhotos(page: Page, files: Parameters<FileChooser['setFiles']>[0]): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add photos' }).last().click();
  await (await chooser).setFiles(files);
}

/** Opens what few need on the bind screen. */
export const unfold = (
  page: Page,
  title: 'Limit' | 'Paper' | 'In the file' | 'Name of the file' | 'Pages as pictures',
) => page.getByRole('button', { name: title, expanded: false }).click();

export const tiles = (page: Page) => page.getByRole('button', { name: /^Page \d+ of \d+/ });

/** Everything that was to go up has gone up. */
export const allSaved = (page: Page) => expect(page.getByText('All saved')).toBeVisible({ timeout: 60_000 });

/** How the simulated office answers. */
export const setWeather = (page: Page, weather: Weather) =>
  page.request.post('/office/api/weather', { data: { weather } });

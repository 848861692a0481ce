import { expect, test } from '@playwright/test';
import type { Receipt } from '../core/work/office/assignment';

/** What has been received lies below everything else. */
const RECEIVED: Receipt = {
  submissionId: 'one',
  assignmentId: 'tides-set-4',
  number: 'SP-1',
  attempt: 1,
  fileName: 'Set4.pdf',
  bytes: 1000,
  pages: 3,
  sha256: '0'.repeat(64),
  atMs: 0,
  late: false,
  comment: '',
  withdrawn: false,
  notes: [],
};

test('an office that answers late moves no hand-in from under the finger', async ({ page }) => {
  await page.route('**/office/api/assignments', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1200));
    await route.continue();
  });
  await page.route('**/office/api/submissions', (route) => route.fulfill({ json: { receipts: [RECEIVED] } }));
  await page.addInitScript(() => {
    const seen: number[] = [];
    Object.assign(window, { placesSeen: seen });
    const look = (): void => {
      const link = Array.from(document.querySelectorAll('a')).find(({ textContent }) =>
        textContent.includes('Set 4: heights'),
      );
      if (link !== undefined) seen.push(Math.round(link.getBoundingClientRect().top));
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  await page.goto('/');
  await expect(page.getByText('Loading your hand-ins …')).toBeVisible();
  await expect(page.getByRole('link', { name: /Set 4.*received/ })).toBeVisible();
  await expect(page.getByText('All saved')).toBeVisible();
  await page.waitForTimeout(500);
  const places = await page.evaluate(() => (window as unknown as { placesSeen: number[] }).placesSeen);
  expect(places.length).toBeGreaterThan(5);
  expect([...new Set(places)]).toHaveLength(1);
});

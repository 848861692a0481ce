import { expect, test, type Page } from '@playwright/test';
import { tiles } from './steps';

const UPRIGHT = { width: 390, height: 844 };
const SIDEWAYS = { width: 844, height: 390 };

/** Turns the phone, and waits until its tools have moved beside the page or below it. */
async function turn(page: Page, to: typeof UPRIGHT): Promise<void> {
  await page.setViewportSize(to);
  await expect(page.getByText('tides-1-calculation.jpg')).toHaveCount(to === SIDEWAYS ? 1 : 0);
}

test('a phone is turned while edges, a note and a signature are under way, and nothing of them is lost', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: /Set 4/ }).click();
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  const corner = page.getByRole('slider', { name: 'Corner bottom right' });
  await corner.press('Shift+ArrowUp');
  const moved = await corner.getAttribute('aria-valuetext');
  await turn(page, SIDEWAYS);
  await expect(corner).toHaveAttribute('aria-valuetext', moved!);
  await turn(page, UPRIGHT);
  await page.getByRole('button', { name: /^Undo/ }).first().click();
  await expect(corner).not.toHaveAttribute('aria-valuetext', moved!);
  await page.getByRole('button', { name: /^Cancel/ }).click();

  await page.getByRole('button', { name: 'Mark: write on the page' }).click();
  const sheet = page.getByRole('application');
  await page.getByRole('button', { name: 'Note in text' }).click();
  await sheet.click();
  const note = page.getByRole('textbox', { name: 'The note' });
  await note.fill('Question 6 goes on overleaf');
  await turn(page, SIDEWAYS);
  await expect(note).toHaveValue('Question 6 goes on overleaf');
  await page.getByRole('button', { name: 'Put it there' }).click();
  await page.getByRole('button', { name: 'Signature', exact: true }).click();
  const pad = page.getByTestId('signature-pad');
  await pad.hover();
  await page.mouse.down();
  const { x, y } = (await pad.boundingBox())!;
  await page.mouse.move(x + 20, y + 20, { steps: 5 });
  await page.mouse.up();
  await expect(pad.locator('path')).toHaveCount(1);
  await turn(page, UPRIGHT);
  await expect(pad.locator('path')).toHaveCount(1);
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Undo/ }).first()).toBeVisible();
});

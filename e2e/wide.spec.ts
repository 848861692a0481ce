import { expect, test, type Page } from '@playwright/test';
import { setWeather, tiles } from './steps';

test('pages, page and tools stand side by side, and corners answer to the keys', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: /Set 4/ }).click();
  await expect(tiles(page)).toHaveCount(3);
  await tiles(page).nth(2).click();
  await expect(page.getByRole('toolbar', { name: 'Page tools' })).toBeVisible();
  await expect(page.getByText('Page 3 of 3')).toBeVisible();
  await page.getByRole('button', { name: 'Earlier: move this page' }).click();
  await expect(page.getByText('Page 2 of 3')).toBeVisible();

  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  const corner = page.getByRole('slider', { name: 'Corner bottom right' });
  await corner.focus();
  const value = async (): Promise<number[]> =>
    (await corner.getAttribute('aria-valuetext'))!.match(/\d+/g)!.map(Number);
  const [x, y] = await value();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(value).toEqual([x! - 1, y! - 10]);
  // crossing the opposite side is prevented, with the reason
  for (let i = 0; i < 400 && !(await page.getByText('The sides cross each other').isVisible()); i += 40) {
    for (let k = 0; k < 40; k++) await page.keyboard.press('Shift+ArrowLeft');
  }
  await expect(page.getByText('The sides cross each other')).toBeVisible();
  await page.getByRole('button', { name: 'Detect again: the edges of the page' }).click();
  await expect.poll(async () => Math.abs((await value())[0]! - x!)).toBeLessThan(3);
  await page.getByRole('button', { name: 'Use these edges' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Undo the edges' })).toBeVisible();
});

test('what is under way on a page is kept when another is opened, and undone as one step', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: /Set 4/ }).click();
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Mark: write on the page' }).click();
  const box = (await page.getByRole('application').boundingBox())!;
  await page.mouse.move(box.x + box.width / 3, box.y + box.height / 3);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await tiles(page).nth(1).click();
  await expect(page.getByText('Page 2 of 3')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo the marks' })).toBeVisible();
  // a tool that changed nothing leaves nothing to undo
  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  await expect(page.getByRole('slider')).toHaveCount(8);
  await tiles(page).first().click();
  await expect(page.getByText('Page 1 of 3')).toBeVisible();
  await page.getByRole('button', { name: 'Undo the marks' }).click();
  await expect(page.getByRole('button', { name: 'Undo: nothing to undo' })).toBeVisible();
});

/** Goes to a part as a person without a mouse does: Tab by Tab, and sees where the focus is. */
async function tabTo(page: Page, role: 'button' | 'link' | 'radio' | 'textbox', name: string | RegExp): Promise<void> {
  const part = page.getByRole(role, { name, exact: typeof name === 'string' }).first();
  await expect(part).toBeVisible({ timeout: 60_000 });
  for (let i = 0; i < MOST_TABS; i++) {
    if (await part.evaluate((element) => element === document.activeElement)) {
      expect(await part.evaluate((element) => getComputedStyle(element).outlineStyle)).not.toBe('none');
      return;
    }
    await page.keyboard.press('Tab');
  }
  throw new Error(`${String(name)} was not reached by the Tab key`);
}
const MOST_TABS = 80;

test('the whole job is done with the keyboard alone, from the desk to the receipt', async ({ page }) => {
  test.setTimeout(300_000);
  await setWeather(page, 'calm');
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Set 4/ })).toBeVisible();
  const press = async (...where: Parameters<typeof tabTo> extends [Page, ...infer R] ? R : never): Promise<void> => {
    await tabTo(page, ...where);
    await page.keyboard.press('Enter');
  };
  await press('button', 'Start a new hand-in');
  await press('button', 'Try with practice photos');
  await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
  // the first page is laid behind the second by its handle
  const first = page.locator('[data-page-id]').first();
  const before = await first.getAttribute('data-page-id');
  await tabTo(page, 'button', 'Move page 1 of 3');
  await page.keyboard.press('Space');
  await expect(page.getByText(/^(Lifted page 1 of 3|Over place 1 of 3)/)).toBeAttached();
  await page.waitForTimeout(150);
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('Over place 2 of 3.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect(first).not.toHaveAttribute('data-page-id', before!);
  // a corner is moved
  await press('button', /^Page 1 of 3/);
  await expect(page.getByRole('toolbar', { name: 'Page tools' })).toBeVisible();
  await page.keyboard.press('e');
  await expect(page.getByRole('slider')).toHaveCount(8, { timeout: 60_000 });
  const corner = page.getByRole('slider', { name: 'Corner bottom right' });
  for (let i = 0; i < MOST_TABS && !(await corner.evaluate((element) => element === document.activeElement)); i++)
    await page.keyboard.press('Tab');
  await page.keyboard.press('ArrowLeft');
  await press('button', 'Use these edges');
  await expect(page.getByRole('button', { name: 'Undo the edges' })).toBeVisible();
  await page.keyboard.press('t');
  await expect(page.getByRole('button', { name: 'Undo the turn' })).toBeVisible();
  await page.keyboard.press('Control+z');
  // and the file goes to the office
  await press('link', /^Bind/);
  await press('button', 'Bind 3 pages');
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 120_000 });
  await press('link', /^Hand in/);
  await press('button', /^Shore log/);
  const handIn = page.getByRole('button', { name: /^Hand it in/ });
  const doubt = page.getByRole('button', { name: /looks? fine/i });
  await expect(handIn.or(doubt).first()).toBeVisible({ timeout: 120_000 });
  await expect(page.getByRole('progressbar')).toHaveCount(0, { timeout: 120_000 });
  for (let i = 0; i < 12 && !(await handIn.isVisible()); i++) await press('button', /looks? fine/i);
  await press('button', /^Hand it in/);
  await expect(page.getByText('This file has been received.')).toBeVisible({ timeout: 60_000 });
});

test('the desk is a table that any column sorts, beside a look at one hand-in', async ({ page }) => {
  await page.goto('/');
  const table = page.getByRole('table', { name: 'Hand-ins' });
  const titles = async (): Promise<string[]> =>
    (await table.getByRole('row').getByRole('link').allInnerTexts()).map((text) => text.split('\n')[0]!);
  await expect(table.getByRole('link', { name: /^Set 4/ })).toBeVisible();
  const asDue = await titles();
  const byTitle = table.getByRole('button', { name: 'Hand-in: sort by it' });
  await byTitle.click();
  await expect(table.getByRole('columnheader', { name: /^Hand-in/ })).toHaveAttribute('aria-sort', 'ascending');
  expect(await titles()).toEqual(asDue.toSorted((a, b) => a.localeCompare(b, 'en', { numeric: true })));
  await byTitle.press('Enter');
  await expect(table.getByRole('columnheader', { name: /^Hand-in/ })).toHaveAttribute('aria-sort', 'descending');
  await table.getByRole('link', { name: /^Plate 1/ }).focus();
  const preview = page.getByRole('region', { name: 'Preview' });
  await expect(preview.getByText('Plate 1: sea campion')).toBeVisible();
  await preview.getByRole('button', { name: 'Receipt of Plate 1: sea campion' }).click();
  await expect(page.getByRole('heading', { name: /^Receipt SP-/ })).toBeVisible();
});

test('several pages are chosen with Shift and by drawing around them, and a key is told where it acts', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: /^Set 4/ }).click();
  await expect(tiles(page)).toHaveCount(3);
  await tiles(page)
    .nth(0)
    .click({ modifiers: ['Control'] });
  await tiles(page)
    .nth(2)
    .click({ modifiers: ['Shift'] });
  await expect(page.getByText('3 pages chosen')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('3 pages chosen')).toBeHidden();

  const second = (await tiles(page).nth(1).boundingBox())!;
  const table = (await page.getByTestId('light-table').boundingBox())!;
  await page.mouse.move(second.x + second.width + 30, table.y + table.height - 20);
  await page.mouse.down();
  await page.mouse.move(second.x + 10, second.y + 20, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByText('2 pages chosen')).toBeVisible();
  await page.getByRole('button', { name: 'Rotate 2 pages to the right' }).click();
  await expect(page.getByRole('button', { name: 'Undo turning 2 pages' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo turning 2 pages' }).click();

  const choose = page.getByRole('button', { name: 'Choose pages' });
  await choose.hover();
  await expect(page.getByTestId('tooltip')).toHaveText('Choose pages: C');
  await page.mouse.move(5, 5);
  await expect(page.getByTestId('tooltip')).toBeHidden();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

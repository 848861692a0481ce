import { expect, test } from '@playwright/test';
import { photoNamed } from './photos';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

test('two screens linked by a code show the same, as it happens; cut off, nothing more', async ({
  page: phone,
  browser,
}) => {
  test.setTimeout(240_000);
  await startHandIn(phone);
  await addPhotos(phone, [photoNamed('tides-1')]);
  await expect(tiles(phone)).toHaveCount(1, { timeout: 60_000 });
  await allSaved(phone);
  await phone.goto('/');
  await phone.getByRole('button', { name: 'Link phone and laptop' }).click();
  await phone.getByRole('button', { name: 'Make a code' }).click();
  const code = await phone.getByTestId('link-code').innerText();
  await expect(phone.getByRole('img', { name: /^QR code/ })).toBeVisible();

  const laptop = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  // a guess first
  await laptop.goto('/link?code=AAAA-AAAA');
  await expect(laptop.getByRole('textbox', { name: 'Code' })).toHaveValue('AAAA-AAAA');
  await expect(laptop.getByText(/has expired, or was mistyped/)).toBeVisible();
  await laptop.getByRole('textbox', { name: 'Code' }).fill(code.toLowerCase());
  await laptop.getByRole('button', { name: 'Continue' }).click();
  // whose work it is, before it is joined
  await expect(
    laptop.getByText(/^This is the work on the computer of Mira Tolvanen-Adeyemi: \d+ hand-ins\.$/),
  ).toBeVisible();
  await laptop.getByRole('button', { name: 'Link this screen' }).click();
  await expect(
    laptop.getByText(
      'This screen is linked with the computer of Mira Tolvanen-Adeyemi now. Everything is on the desk.',
    ),
  ).toBeVisible();
  // once is enough: who has read it over a shoulder comes too late
  const third = await (await browser.newContext()).newPage();
  await third.goto(`/link?code=${code}`);
  await expect(third.getByText(/has expired, or was mistyped/)).toBeVisible();
  await third.context().close();
  await expect(laptop.getByRole('list', { name: 'Linked screens' }).getByRole('listitem')).toHaveCount(2);
  await laptop.getByRole('button', { name: 'To the desk' }).click();
  await laptop.getByRole('link', { name: /^Hand-in of/ }).click();
  await expect(tiles(laptop)).toHaveCount(1);

  await phone.goto('/');
  await phone.getByRole('link', { name: /^Hand-in of/ }).click();
  await addPhotos(phone, [photoNamed('tides-3')]);
  await expect(tiles(phone)).toHaveCount(2, { timeout: 60_000 });
  await allSaved(phone);
  await expect(tiles(laptop)).toHaveCount(2, { timeout: 2000 });
  // and the other way
  await tiles(laptop).first().click();
  await laptop.getByRole('button', { name: 'Rotate the page to the right' }).click();
  await expect(tiles(phone).first()).toHaveAccessibleName(/turned right/, { timeout: 4000 });

  await phone.goto('/link');
  await phone.getByRole('button', { name: /^Unlink the computer/ }).click();
  await expect(laptop.getByText('This device was unlinked. It shows your own hand-ins again.')).toBeVisible({
    timeout: 5000,
  });
  await laptop.goto('/');
  await expect(laptop.getByRole('button', { name: 'Start a new hand-in' })).toBeVisible();
  await expect(laptop.getByRole('link', { name: /^Hand-in of/ })).toHaveCount(0);
  await laptop.context().close();
});

test('a profile is kept, checked, and names the file', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: /^You:/ }).click();
  const number = page.getByRole('textbox', { name: 'Student number' }).first();
  await expect(number).toHaveValue('SP-20417');
  await number.fill('SP/1');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Letters, digits, spaces, dots and dashes only', { exact: false })).toBeVisible();
  await number.fill('SP-20418');
  await page.getByRole('radio', { name: 'Use a pattern' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('button', { name: 'Start a new hand-in' }).click();
  await page.getByRole('link', { name: /^Bind/ }).click();
  await expect(page.getByTestId('file-name')).toHaveText(/^Tolvanen-Adeyemi_SP-20418_Hand-in-of-.*\.pdf$/);
});

import { readFileSync } from 'node:fs';
import { FORMAT_VERSION } from '@abyssal/core';
import { expect, test } from './abyssal';

test('the Library lists, searches, sorts, duplicates, deletes and restores', async ({ abyssal, page }) => {
  await abyssal.openLibrary();
  const names = page.getByRole('table', { name: 'Sounds' }).getByRole('link');
  await page.getByRole('searchbox', { name: 'Search sounds' }).fill('trench');
  await expect(names).toHaveText(['Trench Growl']);
  await page.getByRole('button', { name: 'Duplicate Trench Growl' }).click();
  await expect(names).toHaveText(['Trench Growl, copy', 'Trench Growl']);
  await page.getByRole('combobox', { name: 'Sort by' }).click();
  await page.getByRole('option', { name: 'Name' }).click();
  await expect(names).toHaveText(['Trench Growl', 'Trench Growl, copy']);
  await page.getByRole('button', { name: 'Delete Trench Growl, copy' }).click();
  await expect(names).toHaveText(['Trench Growl']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(names).toHaveText(['Trench Growl', 'Trench Growl, copy']);
  await page.getByRole('button', { name: 'Delete Trench Growl, copy' }).click();
  await page.getByRole('searchbox', { name: 'Search sounds' }).fill('no such thing');
  await expect(page.getByText('No sound has “no such thing”')).toBeVisible();
});

test('a sound goes out as a file and comes back in', async ({ abyssal, page }) => {
  await abyssal.openLibrary();
  // Other tests have left their sounds above it: it is searched for.
  await page.getByLabel('Search sounds').fill('Slack Water');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export Slack Water' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('slack-water.abyssal.json');
  const text = readFileSync(await file.path(), 'utf8').replace('"Slack Water"', '"Slack Water, back"');
  await page
    .getByLabel('Sound files')
    .setInputFiles({ name: 'back.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(page.getByText('Imported back.json.')).toBeVisible();
  await page.getByRole('link', { name: 'Slack Water, back' }).click();
  await abyssal.measured();
  await expect(page.getByRole('textbox', { name: 'Name of the sound' })).toHaveValue('Slack Water, back');
});

test.describe('files that cannot be taken', () => {
  for (const [name, text, sentence] of [
    [
      'newer.json',
      `{"format":"abyssal.sound","formatVersion":${FORMAT_VERSION + 1}}`,
      `newer.json: formatVersion: the sound is of version ${FORMAT_VERSION + 1}; this program reads up to ${FORMAT_VERSION}. Open it with a newer Abyssal.`,
    ],
    ['words.json', 'no json at all', 'words.json: this is not a sound file: it is not JSON.'],
    [
      'nan.json',
      '{"format":"abyssal.sound","formatVersion":1,"name":NaN}',
      'nan.json: this is not a sound file: it is not JSON.',
    ],
    ['noise.mid', 'MThd and then nothing', 'noise.mid: this is not a MIDI file.'],
  ] as const) {
    test(`${name} gets one sentence, and the list stays`, async ({ abyssal, page }) => {
      await abyssal.openLibrary();
      await page
        .getByLabel('Sound files')
        .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(text) });
      await expect(page.getByRole('alert').filter({ hasText: name })).toHaveText(
        sentence.replace(/^./, (c) => c.toUpperCase()),
      );
      await expect(page.getByRole('table', { name: 'Sounds' })).toBeVisible();
    });
  }
});

test('a new sound begins clean, sounds, and is kept', async ({ abyssal, page }) => {
  await abyssal.openLibrary();
  await page.getByRole('button', { name: 'New sound', exact: true }).click();
  await abyssal.measured();
  const id = page.url().split('/')[4];
  await page.getByRole('textbox', { name: 'Name of the sound' }).fill('From clean');
  await abyssal.saved();
  expect((await abyssal.kept(id)).name).toBe('From clean');
  await page.getByRole('link', { name: 'Abyssal' }).click();
  await expect(page.getByRole('link', { name: 'From clean' })).toBeVisible();
});

test('night watch is kept over a reload', async ({ abyssal, page }) => {
  await abyssal.openLibrary();
  await page.getByRole('button', { name: 'Switch to night watch' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-scheme', 'dark');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-scheme', 'dark');
});

test('an address with nothing behind it leads back', async ({ page, abyssal: _abyssal }) => {
  await page.goto('/sounds/00000000-0000-4000-8000-000000000000/layers');
  await expect(page.getByText('There is no such sound, or it was deleted.')).toBeVisible();
  await page.getByRole('link', { name: 'To the Library' }).click();
  await expect(page.getByRole('table', { name: 'Sounds' })).toBeVisible();
});

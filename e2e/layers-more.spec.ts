import { readFileSync } from 'node:fs';
import { builtInFrames, cycleOf, framesFromAudio, readWav, writeWav } from '@abyssal/core';
import { expect, test } from './abyssal';

test('frames go out as a WAV and come back from it, by a length that is given or found', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Frames');
  await abyssal.choose('Kind of tone', 'Frames');
  await page.getByRole('combobox', { name: 'Table' }).selectOption('folded sine');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'save WAV' }).click(),
  ]);
  const bytes = readFileSync((await download.path())!);
  const { channels } = readWav(bytes);
  const built = builtInFrames('folded sine');
  expect(channels[0].length).toBe(built.length * 2048);
  const first = cycleOf(built[0], 2048);
  expect(Math.max(...first.map((x, i) => Math.abs(x - channels[0][i])))).toBeLessThan(1e-6);

  const take = page.getByLabel('WAV with frames');
  await take.setInputFiles({ name: 'mine.wav', mimeType: 'audio/wav', buffer: bytes });
  await expect(
    page.getByRole('img', { name: new RegExp(`^mine.wav: ${built.length} frames`) }),
  ).toBeVisible();
  await abyssal.saved();
  let { wav } = (await abyssal.kept(id)).layers[1].tones[0].source;
  expect(wav).toMatchObject({ fileName: 'mine.wav', cycleFrames: 2048 });
  const kept = readWav(Buffer.from(await (await page.request.get(`/api/assets/${wav.asset}`)).body()));
  expect(framesFromAudio(kept.channels[0], 2048)).toHaveLength(built.length);

  // A saw of 100 Hz at 48 kHz: 480 frames to the cycle, found by its pitch.
  const saw = Float32Array.from({ length: 4801 }, (_, i) => (i % 480) / 240 - 1);
  await take.setInputFiles({
    name: 'saw.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(writeWav([saw], 48000, '24')),
  });
  await expect(page.getByRole('img', { name: /^saw.wav: 10 frames/ })).toBeVisible();

  // What cannot be cut is refused in words, and what was there stays.
  await page.getByLabel('Cycle length in frames').fill('9999');
  await take.setInputFiles({
    name: 'short.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(writeWav([saw.slice(0, 900)], 48000, '24')),
  });
  await expect(page.getByText(/A cycle of 9999 frames cannot be cut from it; give 16 to 900/)).toBeVisible();
  await abyssal.saved();
  ({ wav } = (await abyssal.kept(id)).layers[1].tones[0].source);
  expect(wav.fileName).toBe('saw.wav');
});

test('layers are ordered by the mouse, in one undo step', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Trench Growl', 'Order');
  const tabs = page.getByRole('tab');
  await expect(tabs).toHaveText(['Body', 'Sub']);
  const from = (await tabs.nth(0).boundingBox())!;
  const to = (await tabs.nth(1).boundingBox())!;
  await page.mouse.move(from.x + 20, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + from.height / 2 + 10, { steps: 3 });
  await page.mouse.move(to.x + 20, to.y + to.height - 4, { steps: 8 });
  await page.mouse.up();
  await expect(tabs).toHaveText(['Sub', 'Body']);
  await page.keyboard.press('Control+z');
  await expect(tabs).toHaveText(['Body', 'Sub']);
});

test('the handle on the depth chart belongs to the filter that is chosen', async ({ abyssal, page }) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Handles');
  await abyssal.choose('Filter', 'Filter 2');
  await page.getByRole('switch', { name: 'Body filter' }).click();
  await abyssal.type('Body Cutoff', '200');
  const handle = page.getByRole('slider', { name: 'Body cutoff', exact: true });
  await expect(handle).toHaveAttribute('aria-valuetext', '200 Hz');
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + 60, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + box.height / 2 - 80, { steps: 5 });
  await page.mouse.up();
  await abyssal.saved();
  const { filters } = (await abyssal.kept(id)).layers[1];
  expect(filters[0].cutoffHz).toBe(150);
  expect(filters[1].cutoffHz).toBeGreaterThan(300);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('textbox', { name: 'Body Cutoff, value' })).toHaveValue('200 Hz');
});

test('a Sub whose filter takes its lows away is told, and the telling ends with the filter', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Trench Growl', 'Told');
  await page.getByRole('tab', { name: 'Sub' }).click();
  await page.getByRole('switch', { name: 'Sub filter' }).click();
  await page.getByRole('combobox', { name: 'Filter kind' }).selectOption('high-pass');
  await abyssal.type('Sub Cutoff', '300');
  const telling = page.getByRole('status').filter({ hasText: 'Sub’s filter takes its lows away' });
  await expect(telling).toBeVisible();
  await page.getByRole('switch', { name: 'Sub filter' }).click();
  await expect(telling).toHaveCount(0);
});

test('kept layers: an empty library, one that does not answer, and one taken out and put back', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Trench Growl', 'Kept');
  const more = async (item: string) => {
    await page.getByRole('button', { name: 'More for Body' }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  for (const { id } of (await (await page.request.get('/api/parts?kind=layer')).json()) as { id: string }[])
    await page.request.delete(`/api/parts/${id}`);
  const dialog = page.getByRole('dialog');
  await more('Load from the library…');
  await expect(dialog).toContainText('No layers kept yet');
  await dialog.getByRole('button', { name: 'Close' }).click();

  await page.route('**/api/parts?*', (route) => route.abort());
  await page.evaluate(() => {
    window.dispatchEvent(new Event('focus'));
  });
  await more('Keep in the library');
  await page.unroute('**/api/parts?*');
  await expect(page.getByText('Body is kept in the library.')).toBeVisible();
  await more('Load from the library…');
  await dialog.getByRole('button', { name: 'Remove Body from the library' }).click();
  await expect(dialog).toContainText('No layers kept yet');
  await dialog.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await more('Load from the library…');
  await expect(dialog.getByRole('button', { name: 'Remove Body from the library' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).click();

  await page.route('**/api/parts?*', (route) =>
    route.fulfill({
      status: 503,
      contentType: 'application/problem+json',
      body: JSON.stringify({ title: 'away', status: 503, detail: 'The database does not answer.' }),
    }),
  );
  await page.reload();
  await abyssal.measured();
  await more('Load from the library…');
  await expect(dialog.getByRole('alert')).toContainText('The library does not answer', { timeout: 30_000 });
  await page.unroute('**/api/parts?*');
  await dialog.getByRole('button', { name: 'Try again' }).click();
  await expect(dialog.getByRole('button', { name: 'Remove Body from the library' })).toBeVisible();
});

test('Layers fits a page of any size: nothing is cut off sideways, and every row can be reached', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Sluice Talker', 'Narrow');
  for (const [width, height] of [
    [1280, 800],
    [1024, 768],
    [768, 1024],
  ] as const) {
    await page.setViewportSize({ width, height });
    expect(
      await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
    ).toBeLessThanOrEqual(0);
    for (const name of ['Level', 'Cutoff', 'Resonance', 'Attack']) {
      const row = page
        .getByRole('slider', {
          name: new RegExp(`^(Body|Edge|Talk|Voice|[A-Z]\\w*) .*${name}$|^[A-Z]\\w* ${name}$`),
        })
        .first();
      await row.scrollIntoViewIfNeeded();
      const box = (await row.boundingBox())!;
      expect(box.x).toBeGreaterThanOrEqual(0);
      expect(box.x + box.width).toBeLessThanOrEqual(width);
    }
  }
});

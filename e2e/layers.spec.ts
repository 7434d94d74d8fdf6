import { readFileSync } from 'node:fs';
import { readWav, writeWav } from '@abyssal/core';
import type { Page } from '@playwright/test';
import { expect, test, type Abyssal } from './abyssal';

const wav = (seconds: number, hz: number) =>
  Buffer.from(
    writeWav(
      [
        Float32Array.from(
          { length: Math.round(seconds * 48000) },
          (_, i) => 0.6 * Math.sin((2 * Math.PI * hz * i) / 48000) * Math.exp(-i / 4800),
        ),
      ],
      48000,
      '24',
    ),
  );

/** Bounces the loop and gives its samples. */
async function bounce(page: Page): Promise<Float32Array> {
  await page.getByRole('button', { name: 'Bounce' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('dialog').getByRole('button', { name: 'Bounce' }).click(),
  ]);
  const { channels } = readWav(readFileSync((await download.path())!));
  await page
    .getByRole('dialog')
    .waitFor({ state: 'hidden' })
    .catch(() => page.keyboard.press('Escape'));
  return channels[0];
}

async function cleanSound(abyssal: Abyssal, page: Page): Promise<string> {
  await abyssal.openLibrary();
  await page.getByRole('button', { name: 'New sound', exact: true }).click();
  await page.waitForURL(/\/sounds\//);
  await abyssal.station('Layers');
  return /sounds\/([^/]+)/.exec(page.url())![1];
}

test('a sound is built from clean with one tone of each kind, and renders the same after a reload', async ({
  abyssal,
  page,
}) => {
  test.setTimeout(180_000);
  const id = await cleanSound(abyssal, page);
  const add = async (role: string) => {
    await page.getByRole('button', { name: '+ layer' }).click();
    await page.getByRole('menuitem', { name: role, exact: true }).click();
  };
  const tone = async (number: number) => {
    await page
      .getByRole('group', { name: 'Tone', exact: true })
      .getByRole('button', { name: new RegExp(`^${number}`) })
      .click();
    await page.getByRole('button', { name: `Tone ${number} on` }).click();
  };

  // Body: a shape, drawn harmonics, FM that steers.
  await tone(2);
  await abyssal.choose('Kind of tone', 'Harmonics');
  await page.getByRole('button', { name: 'odd 1/n²' }).click();
  const rung = page.getByRole('slider', { name: 'Harmonic 3', exact: true });
  await rung.focus();
  await rung.press('ArrowRight');
  await expect(rung).toHaveAttribute('aria-valuetext', '−18.1 dB');
  await abyssal.type('Body tone 2 Level', '-12dB');
  await abyssal.choose('Tone 2 on tone 1', 'steer');
  await abyssal.type('Body 2 on 1', '20%');
  await tone(3);
  await abyssal.choose('Kind of tone', 'FM');
  await abyssal.type('Body tone 3 2 into 1', '2.5');

  // Edge: frames, a vowel, noise through a second filter.
  await add('Edge');
  await abyssal.choose('Kind of tone', 'Frames');
  await page.getByRole('combobox', { name: 'Table' }).selectOption('growl mouth');
  await abyssal.type('Edge tone 1 Position', '40');
  await tone(2);
  await abyssal.choose('Kind of tone', 'Vowel');
  await abyssal.type('Edge tone 2 Vowel', '60');
  await tone(3);
  await abyssal.choose('Kind of tone', 'Noise');
  await abyssal.type('Edge tone 3 Level', '-20dB');
  await abyssal.choose('Filter', 'Filter 2');
  await page.getByRole('switch', { name: 'Edge filter' }).click();
  await abyssal.type('Edge Cutoff', 'F3');

  // Knock: a sample.
  await add('Knock');
  await abyssal.choose('Kind of tone', 'Sample');
  await page
    .getByLabel('WAVs for the tone')
    .setInputFiles({ name: 'knock.wav', mimeType: 'audio/wav', buffer: wav(0.3, 220) });
  await expect(page.getByText('knock.wav')).toBeVisible();

  await abyssal.saved();
  await abyssal.measured();
  const kept = await abyssal.kept(id);
  expect(
    kept.layers.map((layer: { tones: { on: boolean; source: { kind: string } }[] }) =>
      layer.tones.filter(({ on }) => on).map(({ source }) => source.kind),
    ),
  ).toEqual([['shape'], ['shape', 'harmonics', 'fm'], ['frames', 'vowel', 'noise'], ['sample']]);
  const before = await bounce(page);
  expect(before.reduce((most, x) => Math.max(most, Math.abs(x)), 0)).toBeGreaterThan(0.1);
  await page.reload();
  await abyssal.measured();
  const after = await bounce(page);
  expect(after.length).toBe(before.length);
  expect(after.every((x, i) => x === before[i])).toBe(true);
});

test('layers are ordered by keys, copied, kept, fetched back and compared, and undo takes it back', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Comfort');
  const tabs = page.getByRole('tab');
  await expect(tabs).toHaveText(['Body', 'Sub']);
  await page.getByRole('tab', { name: 'Body' }).press('Alt+ArrowDown');
  await expect(tabs).toHaveText(['Sub', 'Body']);
  await page.keyboard.press('Control+z');
  await expect(tabs).toHaveText(['Body', 'Sub']);

  const more = async (layer: string, item: string) => {
    await page
      .getByRole('button', { name: `More for ${layer}`, exact: true })
      .first()
      .click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  await more('Body', 'Keep in the library');
  await expect(page.getByText('Body is kept in the library.')).toBeVisible();
  await abyssal.type('Body Cutoff', '777');
  await page.getByRole('button', { name: 'Compare Body with what was kept' }).click();
  await expect(page.getByRole('textbox', { name: 'Body Cutoff, value' })).toHaveValue('150 Hz');
  await page.getByRole('button', { name: 'Compare Body with what was kept' }).click();
  await expect(page.getByRole('textbox', { name: 'Body Cutoff, value' })).toHaveValue('777 Hz');

  await more('Body', 'Duplicate');
  await expect(tabs).toHaveCount(3);
  await more('Body copy', 'Load from the library');
  await page.getByRole('dialog').getByRole('button', { name: /^Body/ }).first().click();
  await expect(tabs).toHaveCount(4);
  await expect(page.getByRole('textbox', { name: 'Body Cutoff, value' })).toHaveValue('150 Hz');
  await more('Body', 'Remove');
  await expect(tabs).toHaveCount(3);
  await page.keyboard.press('Control+z');
  await expect(tabs).toHaveCount(4);
  await abyssal.saved();
  const { layers, links } = await abyssal.kept(id);
  expect(layers).toHaveLength(4);
  // A duplicate's links go with it.
  expect(links.filter(({ target }: { target: string }) => target.startsWith('layers.body-2.')).length).toBe(
    7,
  );
});

test('harmonics are drawn by a drag across the rungs as one undo step', async ({ abyssal, page }) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Drawn');
  await abyssal.choose('Kind of tone', 'Harmonics');
  const ladder = page.getByRole('group', { name: /harmonics 1 to 12/ });
  const box = (await ladder.boundingBox())!;
  await page.mouse.move(box.x + 100, box.y + box.height - 36);
  await page.mouse.down();
  await page.mouse.move(box.x + 200, box.y + box.height - 156, { steps: 4 });
  await page.mouse.up();
  await abyssal.saved();
  const drawn = (await abyssal.kept(id)).layers[1].tones[0].source.a.levelsDb as number[];
  // Rungs 2 to 7 were drawn over, rising with the pointer; the others stay.
  expect(drawn[0]).toBe(0);
  expect(drawn.slice(1, 6).every((db, i, all) => i === 0 || db >= all[i - 1])).toBe(true);
  expect(drawn[1]).toBeLessThan(-30);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('slider', { name: 'Harmonic 2', exact: true })).toHaveAttribute(
    'aria-valuetext',
    '−6.0 dB',
  );
});

test('a tone keeps what kinds share, and solo is heard without being saved', async ({ abyssal, page }) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Kinds');
  await abyssal.type('Body tone 1 Semitones', '7');
  await abyssal.choose('Kind of tone', 'FM');
  await abyssal.type('Body tone 1 2 into 1', '4');
  await abyssal.choose('Kind of tone', 'Vowel');
  await expect(page.getByRole('textbox', { name: 'Body tone 1 Semitones, value' })).toHaveValue('7 st');
  await abyssal.choose('Kind of tone', 'FM');
  await expect(page.getByRole('textbox', { name: 'Body tone 1 2 into 1, value' })).toHaveValue('4');
  await page.getByRole('button', { name: 'Solo Body' }).click();
  await abyssal.saved();
  expect((await abyssal.kept(id)).layers.every(({ on }: { on: boolean }) => on)).toBe(true);
});

import { measureLoudness } from '@abyssal/core';
import type { Page } from '@playwright/test';
import { expect, test } from './abyssal';

const BAR_S = (60 * 4) / 126;

/** Loudness of the loop that was heard last, LUFS: wherever it began, its end runs into its start. */
async function heardLufs(page: Page, seconds: number): Promise<number> {
  const { left, right, rate } = await page.evaluate((s) => {
    const { audio } = (globalThis as any).abyssal;
    const rate = audio.sampleRateHz as number;
    const heard = audio.shared.heard(Math.round(s * rate)) as { left: Float32Array; right: Float32Array };
    return { left: [...heard.left], right: [...heard.right], rate };
  }, seconds);
  const channels = [Float32Array.from(left), Float32Array.from(right)];
  return measureLoudness({ channels, sampleRateHz: rate, loop: true }).integrated.value!;
}

test('a kept state is heard against the sound as loud as it is, and measured beside it', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Keel Pluck', 'Set against', 'sounding');
  await abyssal.measured();
  const foot = page.getByRole('contentinfo', { name: 'Playing and hearing' });
  await foot.getByRole('button', { name: 'A⇄B' }).click();
  const chooser = page.getByRole('dialog', { name: 'Set against' });
  await expect(chooser).toContainText('None yet');
  await chooser.getByRole('button', { name: 'Keep this state' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Before');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  const row = chooser.getByRole('button', { name: /^Before/ });
  await expect(row).toContainText('heard 7 / 7');
  await page.keyboard.press('Escape');

  // Ten decibels softer, and still as loud as what was kept.
  await abyssal.station('Ground');
  await page.getByRole('textbox', { name: 'Bass level, value' }).fill('-10');
  await page.getByRole('textbox', { name: 'Bass level, value' }).press('Enter');
  await abyssal.measured();
  await foot.getByRole('button', { name: 'A⇄B' }).click();
  await row.click();
  await expect(chooser).toContainText('B is Before');
  await expect(chooser.getByRole('button', { name: 'Blind test' })).toBeEnabled();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  // One bar at 126 bpm is 1.9 s: each is heard for longer, and measured over one round.
  await page.waitForTimeout(4500);
  const own = await heardLufs(page, BAR_S);
  await foot.getByRole('button', { name: 'Hear B, Before' }).click();
  await page.waitForTimeout(2600);
  const other = await heardLufs(page, BAR_S);
  await expect(foot.getByRole('button', { name: 'Hear A, the sound' })).toHaveText('B');
  expect(Math.abs(own - other)).toBeLessThan(0.1);

  await abyssal.station('Sounding');
  await page.getByRole('button', { name: 'Against B', exact: true }).click();
  const table = page.getByRole('table', { name: 'Figures against Before' });
  await expect(table.getByRole('row', { name: /^Loudness/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Before against the sound, as loud: / })).toBeVisible();
  // What was measured of the saved sound is kept with it.
  await expect
    .poll(() =>
      page.request
        .get(`/api/soundings/${id}`)
        .then((answer) => answer.json().then((kept) => kept.content?.format)),
    )
    .toBe('abyssal.sounding');
});

test('a blind test of ten tells how many were right, and how likely that is by chance', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Keel Pluck', 'Blind', 'sounding');
  await abyssal.measured();
  await page.getByRole('button', { name: 'A⇄B' }).click();
  const chooser = page.getByRole('dialog', { name: 'Set against' });
  await chooser.getByLabel('WAV to set against').setInputFiles({
    name: 'reference.wav',
    mimeType: 'audio/wav',
    buffer: toneWav(),
  });
  await expect(chooser.getByRole('button', { name: 'Blind test' })).toBeEnabled();
  await chooser.getByRole('button', { name: 'Blind test' }).click();
  const blind = page.getByRole('dialog', { name: /^Blind test/ });
  for (let round = 1; round <= 10; round++) {
    await expect(blind).toContainText(`Round ${round} of 10`);
    await blind.getByRole('button', { name: 'X', exact: true }).click();
    await blind.getByRole('button', { name: 'X is A' }).click();
  }
  await expect(blind).toContainText(
    /\d+ of 10 were right\. Somebody who guesses is right as often, or more often, /,
  );
  await blind.getByRole('button', { name: 'Close' }).click();
});

/** A second of a tone as a WAV of 16 bits. */
function toneWav(): Buffer {
  const frames = 48000;
  const bytes = Buffer.alloc(44 + 2 * frames);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(36 + 2 * frames, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(48000, 24);
  bytes.writeUInt32LE(96000, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(2 * frames, 40);
  for (let i = 0; i < frames; i++)
    bytes.writeInt16LE(Math.round(9000 * Math.sin((2 * Math.PI * 110 * i) / 48000)), 44 + 2 * i);
  return bytes;
}

import type { Page } from '@playwright/test';
import { writeWav } from '@abyssal/core';
import { drop, expect, test } from './abyssal';

test('a reload right after a change loses nothing', async ({ abyssal, page }) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Reloaded');
  await abyssal.type('Body Cutoff', '333');
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Body Cutoff, value' })).toHaveValue('333 Hz');
  await abyssal.saved();
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(333);
});

test('a value that is typed and not entered is taken by a reload, a page that is hidden, and the way back', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Half typed');
  const field = page.getByRole('textbox', { name: 'Body Cutoff, value' });
  await field.fill('444');
  await page.reload();
  await expect(field).toHaveValue('444 Hz');
  await field.fill('445');
  await page.evaluate(() => {
    Object.defineProperty(document, 'visibilityState', { value: 'hidden', configurable: true });
    document.dispatchEvent(new Event('visibilitychange', { bubbles: true }));
  });
  await expect(field).toHaveValue('445 Hz');
  await abyssal.station('Motion');
  await abyssal.station('Layers');
  await field.fill('446');
  await page.evaluate(() => {
    history.back();
  });
  await expect(page).toHaveURL(/motion$/);
  await abyssal.saved();
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(446);
});

test('two tabs on one sound: the later save is refused, with a choice that loses neither', async ({
  abyssal,
  context,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Twice');
  const other = await context.newPage();
  await other.goto(`/sounds/${id}/layers`);
  const field = (tab: Page) => tab.getByRole('textbox', { name: 'Body Cutoff, value' });
  await expect(field(other)).toBeVisible();
  await abyssal.type('Body Cutoff', '222');
  await abyssal.saved();
  await field(other).fill('444');
  await field(other).press('Enter');
  const dialog = other.getByRole('dialog', { name: 'This sound was saved somewhere else' });
  await expect(dialog).toBeVisible();
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(222);
  await dialog.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await expect(other.getByRole('textbox', { name: 'Name of the sound' })).toHaveValue('Twice, copy');
  await expect(field(other)).toHaveValue('444 Hz');
  // The other choice, from the first tab: theirs, and one's own by undo.
  await other.goto(`/sounds/${id}/layers`);
  await expect(field(other)).toHaveValue('222 Hz');
  await abyssal.type('Body Cutoff', '555');
  await abyssal.saved();
  await field(other).fill('666');
  await field(other).press('Enter');
  await dialog.getByRole('button', { name: 'Reload theirs' }).click();
  await expect(field(other)).toHaveValue('555 Hz');
  await other.getByRole('button', { name: 'Undo' }).click();
  await expect(field(other)).toHaveValue('666 Hz');
  await expect(other.locator('[data-save]')).toHaveAttribute('data-save', 'saved');
});

test('with the database stopped the work stays in the browser, over a reload, and is saved when it is back', async ({
  abyssal,
  page,
  running,
}) => {
  test.setTimeout(120_000);
  const id = await abyssal.openCopyOf('Trench Growl', 'Offline');
  const state = page.locator('[data-save]');
  process.kill(running.databasePid(), 'SIGSTOP');
  try {
    await abyssal.type('Body Cutoff', '321');
    await expect(state).toHaveAttribute('data-save', 'away', { timeout: 30_000 });
    await expect(state).toHaveText('kept in browser');
    await expect(
      page.getByRole('alert').filter({ hasText: 'Your work stays in this browser' }),
    ).toBeVisible();
    await abyssal.station('Ground');
    await drop(
      page,
      page.getByRole('region', { name: 'Kick', exact: true }),
      'away.wav',
      writeWav(
        [Float32Array.from({ length: 9600 }, (_, i) => Math.sin(i / 150) * (1 - i / 9600))],
        48000,
        '24',
      ),
    );
    await expect(page.getByText('away.wav')).toBeVisible({ timeout: 30_000 });
    await page.reload();
    await expect(page.getByText('away.wav')).toBeVisible({ timeout: 30_000 });
    await expect(state).toHaveAttribute('data-save', 'away');
  } finally {
    process.kill(running.databasePid(), 'SIGCONT');
  }
  await expect(state).toHaveAttribute('data-save', 'saved', { timeout: 30_000 });
  const kept = await abyssal.kept(id);
  expect(kept.layers[1].filters[0].cutoffHz).toBe(321);
  expect(kept.kick.name).toBe('away');
  expect((await page.request.get(`/api/assets/${kept.kick.wav.asset}`)).status()).toBe(200);
});

test.describe('a kick that cannot be taken', () => {
  const good = writeWav([Float32Array.from({ length: 4800 }, (_, i) => Math.sin(i / 30))], 48000, '16');
  const lying = Uint8Array.from(good);
  new DataView(lying.buffer).setUint32(40, 0x7fffff00, true);
  for (const [name, bytes, sentence] of [
    [
      'cut.wav',
      good.slice(0, 500),
      /^cut\.wav: the WAV is cut off: its header promises \d+ bytes of audio and the file holds \d+\. The kick stays as it was\.$/,
    ],
    ['none.wav', writeWav([new Float32Array(0)], 48000, '16'), /^none\.wav: the WAV holds no samples\./],
    ['lying.wav', lying, /^lying\.wav: the WAV is cut off/],
    ['text.wav', new TextEncoder().encode('only words'), /^text\.wav: this is not a WAV file/],
  ] as const) {
    test(`${name} gets one sentence, and the kick stays`, async ({ abyssal, page }) => {
      const id = await abyssal.openCopyOf('Trench Growl', `Refused ${name}`, 'ground');
      await drop(page, page.getByRole('region', { name: 'Kick', exact: true }), name, bytes);
      await expect(page.getByRole('alert').filter({ hasText: name })).toHaveText(sentence);
      await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
      expect((await abyssal.kept(id)).kick.source).toBe('made');
      await page.getByRole('button', { name: 'Play', exact: true }).click();
      await page.waitForTimeout(700);
      expect((await abyssal.heard(0.5)).left.some((x) => Math.abs(x) > 0.1)).toBe(true);
    });
  }

  test('a file that is too large is refused before it is read', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Trench Growl', 'Refused huge', 'ground');
    await page.getByLabel('Kick WAV').evaluate((input: HTMLInputElement) => {
      const made = new DataTransfer();
      const file = new File(['RIFF'], 'huge.wav');
      Object.defineProperty(file, 'size', { value: 2 ** 31 });
      made.items.add(file);
      Object.defineProperty(input, 'files', { value: [file], configurable: true });
      input.dispatchEvent(new Event('change', { bubbles: true }));
    });
    await expect(page.getByRole('alert').filter({ hasText: 'huge.wav' })).toContainText('larger than 50 MB');
  });

  test('a kick of silence is taken, and said to be silent', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Trench Growl', 'Silent kick', 'ground');
    await drop(
      page,
      page.getByRole('region', { name: 'Kick', exact: true }),
      'silence.wav',
      writeWav([new Float32Array(4800)], 48000, '16'),
    );
    await expect(page.getByRole('region', { name: 'Kick figures' })).toContainText(
      'The kick is silent: there is nothing to lock to.',
    );
    await abyssal.measured();
    await expect(abyssal.figure('kickLock')).toContainText('cannot tell');
  });
});

test('an empty line is told, and everything goes on', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Trench Growl', 'Empty', 'line');
  await page.locator('[data-note="0"]').press('Control+a');
  await page.locator('[data-note="0"]').press('Delete');
  await abyssal.measured();
  await expect(abyssal.figure('kickLock')).toContainText('the line is empty');
  await abyssal.station('Lock');
  await expect(page.getByText('The line is empty: draw a note at the Line station.')).toBeVisible();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(800);
  expect((await abyssal.heard(0.6)).left.some((x) => Math.abs(x) > 0.05)).toBe(true);
});

test('a bounce of stems is heard to add up, and can be cancelled', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Slack Water', 'Stems');
  await page.getByRole('button', { name: 'Bounce' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'As heard' }).click();
  await dialog.getByRole('button', { name: '16 bit, dithered' }).click();
  const downloads: string[] = [];
  page.on('download', (file) => {
    downloads.push(file.suggestedFilename());
  });
  await dialog.getByRole('button', { name: 'Bounce' }).click();
  await expect.poll(() => downloads.length).toBe(5);
  expect(downloads.sort()).toEqual([
    'stems-bass.wav',
    'stems-body.wav',
    'stems-kick.wav',
    'stems-sub.wav',
    'stems.wav',
  ]);
  await page.getByRole('button', { name: 'Bounce' }).click();
  await dialog.getByRole('button', { name: '96 kHz' }).click();
  await dialog.getByRole('button', { name: 'Bounce' }).click();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog).toHaveCount(0);
  expect(downloads).toHaveLength(5);
});

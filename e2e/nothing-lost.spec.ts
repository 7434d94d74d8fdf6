import { readFileSync } from 'node:fs';
import type { BrowserContext, Page } from '@playwright/test';
import { writeWav } from '@abyssal/core';
import { drop, expect, test } from './abyssal';

test('a reload right after a change loses nothing', async ({ abyssal, page }) => {
  const id = await abyssal.openLight('Reloaded');
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
  const id = await abyssal.openLight('Half typed');
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

const cutoff = (tab: Page) => tab.getByRole('textbox', { name: 'Body Cutoff, value' });
async function enter(tab: Page, value: string): Promise<void> {
  await cutoff(tab).fill(value);
  await cutoff(tab).press('Enter');
}
/** A second window on a sound. */
async function windowOn(context: BrowserContext, id: string): Promise<Page> {
  const other = await context.newPage();
  await other.goto(`/sounds/${id}/layers`);
  await expect(cutoff(other)).toBeVisible();
  return other;
}
/** Lets no change of a window through, as if the server were away for it alone. */
const cutOff = (tab: Page) =>
  tab.route('**/api/**', (route) => (route.request().method() === 'GET' ? route.fallback() : route.abort()));

test('two windows on one sound know of each other at once, and what one saves shows in the other', async ({
  abyssal,
  context,
  page,
}) => {
  const id = await abyssal.openLight('Twice');
  const other = await windowOn(context, id);
  for (const tab of [page, other])
    await expect(tab.getByRole('status', { name: /Another window has this sound open too/ })).toBeVisible();
  await enter(page, '222');
  await expect(cutoff(other)).toHaveValue('222 Hz');
  await expect(other.locator('[data-save]')).toHaveAttribute('data-save', 'saved');
  await other.getByRole('button', { name: 'Undo' }).click();
  await expect(cutoff(page)).not.toHaveValue('222 Hz');
  await other.close();
  await expect(page.getByRole('status', { name: /Another window/ })).toHaveCount(0);
});

test('two windows that change a sound at once: the later save is refused, with choices that lose nothing', async ({
  abyssal,
  context,
  page,
}) => {
  const id = await abyssal.openLight('At once');
  const other = await windowOn(context, id);
  await cutOff(other);
  await enter(other, '444');
  await expect(
    page.getByRole('status', { name: /changes of this sound that are not saved yet/ }),
  ).toBeVisible();
  await enter(page, '222');
  await abyssal.saved();
  await other.unroute('**/api/**');
  const dialog = other.getByRole('dialog', { name: 'This sound was saved somewhere else' });
  await expect(dialog).toBeVisible();
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(222);
  await dialog.getByRole('button', { name: 'Reload theirs' }).click();
  await expect(cutoff(other)).toHaveValue('222 Hz');
  await other.getByRole('button', { name: 'Undo' }).click();
  await expect(cutoff(other)).toHaveValue('444 Hz');
  await expect(other.locator('[data-save]')).toHaveAttribute('data-save', 'saved');
  await expect(cutoff(page)).toHaveValue('444 Hz');

  await cutOff(other);
  await enter(other, '555');
  await enter(page, '333');
  await abyssal.saved();
  await other.unroute('**/api/**');
  await dialog.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await expect(other.getByRole('textbox', { name: 'Name of the sound' })).toHaveValue('At once, copy');
  await expect(cutoff(other)).toHaveValue('555 Hz');
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(333);
});

test('two windows that close with unsaved work each keep it: one is saved, the other waits for a choice', async ({
  abyssal,
  context,
  page,
}) => {
  const id = await abyssal.openLight('Both closed');
  const [first, second] = [await windowOn(context, id), await windowOn(context, id)];
  for (const tab of [first, second]) await cutOff(tab);
  await enter(first, '401');
  await enter(second, '402');
  for (const tab of [first, second])
    await expect(tab.locator('[data-save]')).toHaveAttribute('data-save', 'away');
  await first.close();
  await second.close();
  // Until now no window could save either.
  await page.goto('/');
  const unsaved = page.getByRole('region', { name: 'Unsaved work' });
  await expect(unsaved.getByText('the sound was saved elsewhere in the meantime')).toBeVisible();
  await expect(unsaved.getByText('Differs in: Body')).toBeVisible();
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(401);
  const row = page.getByRole('row', { name: /Both closed/ });
  await expect(row).toContainText('unsaved work');

  await unsaved.getByRole('button', { name: 'Discard' }).click();
  await expect(unsaved).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await unsaved.getByRole('button', { name: 'Keep as a copy' }).click();
  await expect(page.getByRole('link', { name: 'Both closed, copy' })).toBeVisible();
  await expect(unsaved).toHaveCount(0);
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(401);
});

test('work of a sound that was left is saved when the server is back, and exported before', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openLight('Left behind');
  await cutOff(page);
  await abyssal.type('Body Cutoff', '432');
  await expect(page.locator('[data-save]')).toHaveAttribute('data-save', 'away');
  await page.getByRole('link', { name: 'Abyssal' }).click();
  const row = page.getByRole('row', { name: /Left behind/ });
  await expect(row).toContainText('unsaved work');
  const exported = page.waitForEvent('download');
  await row.getByRole('button', { name: 'Export Left behind' }).click();
  const file = JSON.parse(readFileSync(await (await exported).path(), 'utf8')) as {
    layers: { filters: { cutoffHz: number }[] }[];
  };
  expect(file.layers[1].filters[0].cutoffHz).toBe(432);
  await page.unroute('**/api/**');
  await expect(row).not.toContainText('unsaved work');
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(432);
});

test('a sound deleted elsewhere is said to be, restored or kept as a copy; the Library has what was deleted', async ({
  abyssal,
  context,
  page,
}) => {
  const id = await abyssal.openLight('Sunk');
  const library = await context.newPage();
  await library.goto('/');
  const remove = library.getByRole('button', { name: 'Delete Sunk', exact: true });
  const dialog = page.getByRole('dialog', { name: 'This sound was deleted somewhere else' });
  await remove.click();
  await expect(dialog).toBeVisible();
  await dialog.getByRole('button', { name: 'Restore it' }).click();
  await expect(dialog).toHaveCount(0);
  await abyssal.type('Body Cutoff', '345');
  await abyssal.saved();
  expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(345);

  // By another person, so that no window of this browser hears of it.
  await page.request.delete(`/api/sounds/${id}`);
  await abyssal.type('Body Cutoff', '346');
  await dialog.getByRole('button', { name: 'Keep as a copy' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the sound' })).toHaveValue('Sunk, copy');
  await expect(cutoff(page)).toHaveValue('346 Hz');

  await page.goto(`/sounds/${id}/layers`);
  await page.getByRole('button', { name: 'Restore the sound' }).click();
  await expect(cutoff(page)).toHaveValue('345 Hz');
  await page.request.delete(`/api/sounds/${id}`);
  await library.getByRole('button', { name: 'Deleted', exact: true }).click();
  await library.getByRole('button', { name: 'Restore Sunk', exact: true }).click();
  await expect(library.getByRole('button', { name: 'Purge Sunk', exact: true })).toHaveCount(0);
  await page.request.delete(`/api/sounds/${id}`);
  await library.reload();
  await library.getByRole('button', { name: 'Deleted', exact: true }).click();
  await library.getByRole('button', { name: 'Purge Sunk', exact: true }).click();
  await library.getByRole('dialog').getByRole('button', { name: 'Purge' }).click();
  await expect(library.getByRole('button', { name: 'Purge Sunk', exact: true })).toHaveCount(0);
});

test.describe('a browser that keeps nothing', () => {
  const ways = {
    'private, without any store': () => {
      indexedDB.open = () => {
        throw new DOMException('denied', 'SecurityError');
      };
      Object.defineProperty(globalThis, 'localStorage', {
        get: () => {
          throw new DOMException('denied', 'SecurityError');
        },
      });
    },
    'full, without room': () => {
      const full = () => {
        throw new DOMException('full', 'QuotaExceededError');
      };
      IDBObjectStore.prototype.put = full;
      Storage.prototype.setItem = full;
    },
  };
  for (const [name, breakIt] of Object.entries(ways))
    test(`(${name}) opens, plays and saves, and says what is not kept`, async ({ abyssal, page }) => {
      await page.addInitScript(breakIt);
      const id = await abyssal.openLight(`Unkept ${name}`);
      await abyssal.type('Body Cutoff', '321');
      await abyssal.saved();
      expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(321);
      await cutOff(page);
      await abyssal.type('Body Cutoff', '322');
      const bar = page.locator('[data-save-bar]');
      await expect(bar).toContainText('Save to a file before you close this page.');
      const saved = page.waitForEvent('download');
      await bar.getByRole('button', { name: 'Save to file' }).click();
      const file = JSON.parse(readFileSync(await (await saved).path(), 'utf8')) as {
        layers: { filters: { cutoffHz: number }[] }[];
      };
      expect(file.layers[1].filters[0].cutoffHz).toBe(322);
      await page.unroute('**/api/**');
      await abyssal.saved();
      expect((await abyssal.kept(id)).layers[1].filters[0].cutoffHz).toBe(322);
    });
});

test('broken drafts are set aside: the sound opens from the server, and what was there can be saved', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openLight('Broken draft');
  await page.goto('/');
  await page.evaluate(async (sound) => {
    localStorage.setItem(`abyssal draft ${sound} one`, '{"document": cut off');
    await new Promise<void>((done, fail) => {
      const opening = indexedDB.open('abyssal-drafts');
      opening.onsuccess = () => {
        const store = opening.result.transaction('drafts', 'readwrite').objectStore('drafts');
        const put = store.put({ document: { layers: 7 }, version: 1, at: 2, sent: null }, `${sound} two`);
        put.onsuccess = () => {
          done();
        };
        put.onerror = () => {
          fail(new Error('put'));
        };
      };
    });
  }, id);
  await page.goto(`/sounds/${id}/layers`);
  await expect(cutoff(page)).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: 'set aside' })).toBeVisible();
  await page.goto('/');
  const unsaved = page.getByRole('region', { name: 'Unsaved work' });
  await expect(unsaved.getByText('Work that cannot be read')).toHaveCount(2);
  const saved = page.waitForEvent('download');
  await unsaved.getByRole('button', { name: 'Save to file' }).first().click();
  expect(readFileSync(await (await saved).path(), 'utf8')).toMatch(/"layers":7|cut off/);
  for (const left of [1, 0]) {
    await unsaved.getByRole('button', { name: 'Discard' }).first().click();
    await expect(unsaved.getByText('Work that cannot be read')).toHaveCount(left);
  }
});

test('with the database stopped the work stays in the browser, over a reload, and is saved when it is back', async ({
  abyssal,
  page,
  running,
}) => {
  test.setTimeout(120_000);
  const id = await abyssal.openLight('Offline');
  const state = page.locator('[data-save]');
  process.kill(running.databasePid(), 'SIGSTOP');
  try {
    await abyssal.type('Body Cutoff', '321');
    await expect(state).toHaveAttribute('data-save', 'away', { timeout: 30_000 });
    await expect(state).toHaveText('kept in browser');
    await expect(
      page.locator('[data-save-bar]').filter({ hasText: 'Your work stays in this browser' }),
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
  test('that is cut off, empty, lying or no WAV gets one sentence, and the kick stays', async ({
    abyssal,
    page,
  }) => {
    const id = await abyssal.openLight('Refused', 'ground');
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
      await drop(page, page.getByRole('region', { name: 'Kick', exact: true }), name, bytes);
      await expect(page.getByRole('alert').filter({ hasText: name })).toHaveText(sentence);
      await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
      expect((await abyssal.kept(id)).kick.source).toBe('made');
    }
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await page.waitForTimeout(700);
    expect((await abyssal.heard(0.5)).left.some((x) => Math.abs(x) > 0.1)).toBe(true);
  });

  test('a file that is too large is refused before it is read', async ({ abyssal, page }) => {
    await abyssal.openLight('Refused huge', 'ground');
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
    await abyssal.openLight('Silent kick', 'ground');
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
  await abyssal.openLight('Empty', 'line');
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

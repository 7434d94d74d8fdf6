import { readFileSync } from 'node:fs';
import { depthSpectrum, DEPTH_BANDS_HZ, readWav, writeWav } from '@abyssal/core';
import { drop, expect, test } from './abyssal';

const db = (x: number) => 20 * Math.log10(x);
const peak = (x: Float32Array) => x.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
const rms = (x: Float32Array) => Math.sqrt(x.reduce((sum, value) => sum + value * value, 0) / x.length);
/** Level above a depth, in dB, of what was heard. */
const above = (x: Float32Array, hz: number, rate: number) => {
  const levels = depthSpectrum(x, rate);
  return (
    10 *
    Math.log10(DEPTH_BANDS_HZ.reduce((sum, band, i) => sum + (band > hz ? 10 ** (levels[i] / 10) : 0), 0))
  );
};

/** A kick of one's own: a sine that falls to 49 Hz and decays, at 44.1 kHz, 16 bits. */
function ownKick(): Uint8Array {
  const rate = 44100;
  let phase = 0.2;
  return writeWav(
    [
      Float32Array.from({ length: rate * 0.5 }, (_, i) => {
        const t = i / rate;
        phase += (43.654 + 220 * Math.exp(-t / 0.015)) / rate;
        return 0.8 * Math.min(1, i / 40) * Math.exp(-t / 0.16) * Math.sin(2 * Math.PI * phase);
      }),
    ],
    rate,
    '16',
  );
}

test("from the demo to a bounced loop with a kick of one's own", async ({ abyssal, page }) => {
  await abyssal.openLibrary();
  // Other tests have left their sounds above it: it is searched for.
  await page.getByLabel('Search sounds').fill('Trench Growl');
  await page.getByRole('link', { name: 'Trench Growl', exact: true }).click();
  await abyssal.measured();
  const id = page.url().split('/')[4];

  // Hears the demo bass with its kick.
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(2500);
  const first = await abyssal.heard(2);
  expect(db(peak(first.left))).toBeGreaterThan(-8);
  expect(db(peak(first.left))).toBeLessThanOrEqual(-1.1);
  expect(first.left.every(Number.isFinite)).toBe(true);

  // Changes the sound while it plays: heard, and the figures follow. (That it makes no click is the engine's
  // own test; that nothing drops
  // out is told by the null at the end.)
  const figures = page.getByRole('region', { name: 'Figures', exact: true });
  const figuresBefore = await figures.innerText();
  const brightBefore = above(first.left, 500, first.rate);
  await abyssal.type('Body Cutoff', '25');
  await page.waitForTimeout(2300);
  const second = await abyssal.heard(2);
  expect(above(second.left, 500, second.rate)).toBeLessThan(brightBefore - 4);
  await abyssal.measured();
  expect(await figures.innerText()).not.toBe(figuresBefore);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('textbox', { name: 'Body Cutoff, value' })).toHaveValue('150 Hz');

  // Drops in a WAV of a kick of their own.
  await abyssal.station('Ground');
  await drop(page, page.getByRole('region', { name: 'Kick', exact: true }), 'own kick.wav', ownKick());
  await expect(page.getByText('own kick.wav')).toBeVisible();
  await abyssal.measured();
  const kickFigures = page.getByRole('region', { name: 'Kick figures' });
  await expect(kickFigures).toContainText('F1');
  await expect(kickFigures).toContainText('43.7');
  await page.getByRole('button', { name: 'Kick', exact: true }).last().click();
  await page.waitForTimeout(1800);
  const kickOnly = await abyssal.heard(1.7);
  expect(db(rms(kickOnly.left))).toBeGreaterThan(-40);
  await page.getByRole('button', { name: 'Both', exact: true }).click();

  // Turns the bass into lock with it.
  await abyssal.station('Lock');
  await abyssal.roses();
  const stands = page.getByRole('region', { name: 'Where it stands' });
  await page.getByRole('button', { name: 'Next hit' }).click();
  for (
    let i = 0;
    i < 6 && !/Turn by/.test(await stands.getByRole('button', { name: /^Turn/ }).innerText());
    i++
  )
    await page.getByRole('button', { name: 'Next hit' }).click();
  const gain = async () =>
    Number(
      /sum gain\s*([+−][\d.]+)/.exec((await stands.innerText()).replace(/\n/g, ' '))![1].replace('−', '-'),
    );
  const toWin = async () =>
    Number(
      /gain to win\s*([+−]?[\d.]+)/
        .exec((await stands.innerText()).replace(/\n/g, ' '))![1]
        .replace('−', '-'),
    );
  const before = await gain();
  await stands.getByRole('button', { name: /^Turn by/ }).click();
  await abyssal.roses();
  expect(await gain()).toBeGreaterThan(before);
  expect(await toWin()).toBeLessThan(0.3);

  // Its chorus turns at a rate of its own, so that no round is quite like the next: it is left out.
  await abyssal.station('Grit');
  await page.getByRole('button', { name: 'Chorus', exact: true }).click();
  await page.getByRole('switch', { name: 'Chorus on' }).click();

  // Saves, and bounces a WAV.
  await abyssal.saved();
  const kept = await abyssal.kept(id);
  expect(kept.kick.source).toBe('wav');
  expect(kept.lock.turnDeg).not.toBe(0);
  await page.getByRole('button', { name: 'Bounce' }).click();
  // At the rate at which it is heard, so that the two can be laid over each other.
  const { rate } = await abyssal.heard(0.1);
  await page
    .getByRole('dialog')
    .getByRole('button', { name: `${rate / 1000} kHz` })
    .click();
  const download = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Bounce' }).click();
  const file = await (await download).path();
  const wav = readWav(readFileSync(file));
  expect([wav.sampleRateHz, wav.bits, wav.channels.length, wav.channels[0].length]).toEqual([
    rate,
    24,
    2,
    Math.round(((8 * 60) / 140) * rate),
  ]);
  expect(db(peak(wav.channels[0] as Float32Array))).toBeGreaterThan(-8);

  // What is heard is what was bounced: the loop nulls against what the audio thread played.
  await page.waitForTimeout(3600);
  const { left } = await abyssal.heard(3.5);
  expect(nullDepth(left, wav.channels[0] as Float32Array)).toBeLessThan(-60);
});

/** How deep a stretch of what was heard nulls against a loop, at the best place to the frame, in dB. */
function nullDepth(heard: Float32Array, loop: Float32Array): number {
  const size = 24000;
  const piece = heard.subarray(heard.length - size);
  let best = { at: 0, error: Infinity };
  const error = (at: number, step: number) => {
    let sum = 0;
    for (let i = 0; i < size; i += step) sum += (piece[i] - loop[(at + i) % loop.length]) ** 2;
    return sum * step;
  };
  for (let at = 0; at < loop.length; at += 8) {
    const found = error(at, 97);
    if (found < best.error) best = { at, error: found };
  }
  for (let at = best.at - 16; at <= best.at + 16; at++) {
    const found = error((at + loop.length) % loop.length, 1);
    if (at === best.at - 16 || found < best.error)
      best = { at: (at + loop.length) % loop.length, error: found };
  }
  return 10 * Math.log10(best.error / piece.reduce((sum, x) => sum + x * x, 0) + 1e-12);
}

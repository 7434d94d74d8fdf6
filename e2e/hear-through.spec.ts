import { cleanLayer, cleanNote, cleanSound, responseDb, SYSTEMS } from '@abyssal/core';
import type { Page } from '@playwright/test';
import { expect, test } from './abyssal';

/** A long held saw without anything that moves: its harmonics stand still. */
const F0_HZ = 55;
const HARMONICS = Array.from({ length: 200 }, (_, i) => i + 1).filter(
  (n) => n * F0_HZ < 12000 && (n < 12 || n % 9 === 0),
);

/** Levels of harmonics in what was heard over the last second, dB. */
const levels = (page: Page) =>
  page.evaluate(
    ({ harmonics, f0 }) => {
      const { audio } = (globalThis as any).abyssal;
      const rate = audio.sampleRateHz as number;
      const { left } = audio.shared.heard(rate) as { left: Float32Array };
      return harmonics.map((n) => {
        let re = 0;
        let im = 0;
        for (let i = 0; i < left.length; i++) {
          const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / left.length);
          const phase = (2 * Math.PI * n * f0 * i) / rate;
          re += window * left[i] * Math.cos(phase);
          im += window * left[i] * Math.sin(phase);
        }
        return 10 * Math.log10(re * re + im * im);
      });
    },
    { harmonics: HARMONICS, f0: F0_HZ },
  );

test('what is heard through a system is its response, and goes over to another while it plays', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Keel Pluck', 'Through', 'sounding', (document) => {
    const clean = cleanSound();
    const body = cleanLayer('body');
    Object.assign(document, clean, {
      name: document.name,
      ground: { ...clean.ground, tempoBpm: 40, bars: 16 },
      kick: { ...clean.kick, on: false },
      layers: [{ ...body, levelDb: -20, filters: body.filters.map((filter) => ({ ...filter, on: false })) }],
      grit: {
        ...clean.grit,
        cleanPath: { ...clean.grit.cleanPath, on: false },
        bands: [{ ...clean.grit.bands[0], units: [] }],
      },
      line: { notes: [cleanNote({ tick: 0, ticks: 30000, pitch: 33 })] },
    });
  });
  await abyssal.measured();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(2500);
  const plain = await levels(page);
  for (const id of ['phone', 'car', 'club']) {
    const system = SYSTEMS.find((each) => each.id === id)!;
    await page.getByRole('button', { name: /^Hear through/ }).click();
    await page.getByRole('menuitemradio', { name: system.name }).click();
    await page.waitForTimeout(1600);
    const through = await levels(page);
    const at = (n: number) => responseDb(system.response, n * F0_HZ);
    // As loud as the sound by itself, it is all raised or lowered alike.
    const apart = HARMONICS.map((n, i) => through[i] - plain[i] - at(n));
    const middle = [...apart].sort((a, b) => a - b)[apart.length >> 1];
    for (const [i, n] of HARMONICS.entries())
      expect(Math.abs(apart[i] - middle), `${system.name} at ${n * F0_HZ} Hz`).toBeLessThan(0.5);
  }
  await page.getByRole('button', { name: /^Hear through/ }).click();
  await page.getByRole('menuitemradio', { name: 'The sound by itself' }).click();
  await page.waitForTimeout(1600);
  const again = await levels(page);
  for (const i of HARMONICS.keys()) expect(Math.abs(again[i] - plain[i])).toBeLessThan(0.1);
});

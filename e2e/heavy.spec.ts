import { cleanNote, cleanSound, cleanSource, cleanTone, MOST_COPIES, MOST_LAYERS } from '@abyssal/core';
import { expect, test } from './abyssal';

/** As large as a sound may be where it costs most: every tone a bank of partials in copies, in many voices. */
function heaviest() {
  const sound = cleanSound('Heaviest');
  const [, body] = sound.layers;
  const levelsDb = Array.from({ length: 384 }, () => -6);
  const a = { levelsDb, phasesDeg: [] };
  const source = cleanSource('harmonics', { a, stretchPct: 1 });
  const tones = body.tones.map(({ to }) => cleanTone({ on: true, to, copies: MOST_COPIES, source }));
  return {
    ...sound,
    ground: { ...sound.ground, bars: 8 },
    layers: Array.from({ length: MOST_LAYERS }, (_, i) => ({
      ...body,
      id: `layer-${i}`,
      name: `Layer ${i}`,
      tones,
      voice: { ...body.voice, notes: 'several' as const, voices: 8 },
    })),
    line: { notes: Array.from({ length: 512 }, (_, i) => cleanNote({ tick: 30 * i, ticks: 29 })) },
  };
}

test('a sound that is too much for the machine says so in words, and its figures how far they are', async ({
  abyssal,
  page,
}) => {
  const made = (await (
    await page.request.post('/api/sounds', { data: { document: heaviest() } })
  ).json()) as { id: string };
  await page.goto(`/sounds/${made.id}/layers`);
  const figures = page.getByRole('region', { name: 'Figures', exact: true });
  await expect(figures).toContainText('measuring');
  await expect(figures.getByRole('progressbar', { name: 'Share measured' })).toBeVisible({ timeout: 25_000 });
  await expect(figures.getByText(/^\d+ % measured$/)).toBeVisible();
  // What is measured holds no edit up.
  await abyssal.type('Layer 0 Cutoff', '321');
  await expect(page.getByRole('textbox', { name: 'Layer 0 Cutoff, value' })).toHaveValue('321 Hz');
  await expect(figures.getByRole('progressbar')).toHaveCount(0);
  await figures.getByRole('button', { name: 'Stop measuring' }).click({ timeout: 25_000 });
  await expect(figures).toContainText('Stopped');
  await expect(figures).toHaveAttribute('aria-busy', 'false');

  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(
    page.getByRole('status', { name: /The sound broke up \d+ times .* Freeze a layer/ }),
  ).toBeVisible();
  await expect(page.getByText(/broke up \d+×/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await figures.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(figures).toHaveAttribute('aria-busy', 'true');
});

import type { Page } from '@playwright/test';
import type { SoundDocument } from '@abyssal/core';
import { expect, test } from './abyssal.js';

const unit = (page: Page, name: string) => page.getByRole('button', { name, exact: true });
const strip = (page: Page, of: string | RegExp) => page.getByRole('group', { name: of });

/** Leaves of the grit one band with its soft clip. */
function oneBand(sound: SoundDocument): void {
  sound.links = sound.links.filter(({ target }) => !target.startsWith('units.'));
  sound.grit.bands.splice(1);
  sound.grit.after = [];
}

/** Adds a unit to a chain by what it is looked for. */
async function add(page: Page, chain: string, words: string, label: string): Promise<void> {
  await page.getByRole('button', { name: `Add a unit to ${chain}`, exact: true }).click();
  await page.getByRole('combobox', { name: 'Unit, or what it is to do' }).fill(words);
  await page
    .getByRole('option', { name: new RegExp(`^${label}`) })
    .first()
    .click();
  await expect(page.getByRole('region', { name: label })).toBeVisible();
}

test('a band is parted, roughened, moved by a wobble, and its units are moved, copied and replaced', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Roughened', 'grit', oneBand);
  await page.getByRole('button', { name: 'Part Band above 90 Hz' }).click();
  const border = page
    .getByRole('region', { name: 'Bands' })
    .getByRole('slider', { name: /^Crossover under/ });
  await abyssal.type((await border.getAttribute('aria-label'))!, '300 Hz');
  await expect(strip(page, 'Units of above 300 Hz')).toBeVisible();
  // Found by what it does: a fold adds upper harmonics, and is no family's name alone.
  await add(page, 'above 300 Hz', 'fold', 'Fold');
  await abyssal.type('Fold Drive', '12 dB');
  await page.getByRole('button', { name: 'Link Fold Drive' }).click();
  await page.getByRole('menuitem', { name: 'Wobble 1' }).click();
  // By keys into the band below, where the soft clip is, and in front of it; its link goes with it.
  await unit(page, 'Fold').press('Alt+ArrowDown');
  await expect(strip(page, 'Units of 90 Hz to 300 Hz').getByRole('button', { name: 'Fold' })).toBeFocused();
  await unit(page, 'Fold').press('Alt+ArrowLeft');
  await abyssal.saved();
  let { grit, links } = await abyssal.kept(id);
  expect(grit.bands.map(({ units }: { units: { kind: string }[] }) => units.map(({ kind }) => kind))).toEqual(
    [['fold', 'soft clip'], []],
  );
  expect(grit.bands[1].fromHz).toBe(300);
  expect(links.some(({ target }: { target: string }) => target === 'units.fold-1.driveDb')).toBe(true);
  // Another kind in its place keeps what both have.
  await page.getByRole('combobox', { name: 'Kind of unit' }).selectOption({ label: 'Sine fold' });
  await expect(page.getByRole('textbox', { name: 'Sine fold Drive, value' })).toHaveValue('12.0 dB');
  await page.getByRole('button', { name: 'Copy Sine fold' }).click();
  await expect(unit(page, 'Sine fold 2')).toBeVisible();
  await unit(page, 'Sine fold 2').press('Delete');
  await expect(unit(page, 'Sine fold')).toBeVisible();
  // Dragged into the band above.
  const from = (await unit(page, 'Sine fold').boundingBox())!;
  const to = (await strip(page, 'Units of above 300 Hz').boundingBox())!;
  await page.mouse.move(from.x + 20, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(from.x + 40, from.y - 10, { steps: 4 });
  await page.mouse.move(to.x + 60, to.y + 12, { steps: 8 });
  await page.mouse.up();
  await expect(strip(page, 'Units of above 300 Hz').getByRole('button', { name: 'Sine fold' })).toBeVisible();
  await abyssal.saved();
  ({ grit, links } = await abyssal.kept(id));
  expect(grit.bands[1].units).toMatchObject([{ kind: 'sine fold', id: 'fold-1', driveDb: 12 }]);
  expect(links.some(({ target }: { target: string }) => target === 'units.fold-1.driveDb')).toBe(true);
  // Each of these was one step.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(
    strip(page, 'Units of 90 Hz to 300 Hz').getByRole('button', { name: 'Sine fold' }),
  ).toBeVisible();
});

test('a unit says what it does to the loop, holds its level, and is heard with and without', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Slack Water', 'Levelled', 'grit');
  await add(page, 'After the sum', 'tilt', 'Tilt');
  await abyssal.type('Tilt Tilt', '0 dB');
  await abyssal.type('Tilt Output', '6 dB');
  const panel = page.getByRole('region', { name: 'Tilt' });
  await expect(panel).toContainText('6.0 dB louder');
  await page.getByRole('button', { name: 'Match the level of Tilt' }).click();
  await expect(panel).toContainText('0.0 dB louder, matched');
  await expect(page.getByRole('textbox', { name: 'Tilt Output, value' })).toHaveValue('0.0 dB');
  await abyssal.saved();
  expect((await abyssal.kept(id)).grit.after[0]).toMatchObject({ match: true, levelDb: 0 });
  await page.getByRole('button', { name: 'Compare with and without Tilt' }).click();
  await expect(page.getByRole('button', { name: 'Compare with and without Tilt' })).toHaveText('without it', {
    timeout: 60_000,
  });
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
});

test('an equaliser is worked on the depth chart, and the crossovers stand there too', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Equalised', 'grit', oneBand);
  await page.getByRole('button', { name: 'Part Band above 90 Hz' }).click();
  await add(page, 'After the sum', 'equaliser', 'Equaliser');
  await page.getByRole('switch', { name: 'Equaliser 1 on' }).click();
  await abyssal.type('Equaliser 1 Gain', '6 dB');
  const chart = page.getByRole('region', { name: 'Depth chart' });
  const handle = chart.getByRole('slider', { name: 'Equaliser 1 at' });
  await handle.press('PageUp');
  await expect(page.getByRole('textbox', { name: 'Equaliser 1 Frequency, value' })).toHaveValue('707 Hz');
  const border = chart.getByRole('slider', { name: /^Crossover under/ });
  const before = Number(await border.getAttribute('aria-valuenow'));
  await border.press('PageDown');
  await abyssal.saved();
  const { grit } = await abyssal.kept(id);
  expect(grit.after[0].sections[0]).toMatchObject({ on: true, gainDb: 6 });
  expect(grit.after[0].sections[0].hz).toBeCloseTo(707.1, 1);
  expect(grit.bands[1].fromHz).toBeLessThan(0.8 * before);
  // Sections that are off have no handle.
  await expect(chart.getByRole('slider', { name: /^Equaliser \d at/ })).toHaveCount(1);
});

test('a chain by chance comes back by its seed, leaves locked units, is kept and put on another band', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Tried', 'grit', oneBand);
  const units = async (): Promise<{ kind: string; id: string }[]> => {
    await abyssal.saved();
    return (await abyssal.kept(id)).grit.bands[0].units;
  };
  await page.getByRole('button', { name: 'Lock Soft clip' }).click();
  const seed = page.getByRole('textbox', { name: /^Seed of the chain/ });
  await seed.fill('17');
  await seed.press('Enter');
  await expect(page.getByRole('button', { name: 'Try one at random' })).toBeEnabled({ timeout: 60_000 });
  const first = await units();
  expect(first.length).toBeGreaterThan(1);
  expect(first.some((each) => each.id === 'soft-clip-1')).toBe(true);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(strip(page, 'Units of above 90 Hz').getByRole('button')).toHaveCount(2);
  await seed.fill('17');
  await seed.press('Enter');
  await expect(page.getByRole('button', { name: 'Try one at random' })).toBeEnabled({ timeout: 60_000 });
  expect(await units()).toEqual(first);
  // Kept with what it did, and put behind the sum.
  await abyssal.measured();
  await page.getByRole('textbox', { name: 'Name of the chain' }).fill('Kelp Drag');
  await page.getByRole('textbox', { name: 'Name of the chain' }).press('Enter');
  await page.getByRole('button', { name: 'Keep this chain as' }).click();
  const kept = page
    .getByRole('list', { name: 'Chains kept' })
    .getByRole('listitem')
    .filter({ hasText: 'Kelp Drag' });
  await expect(kept).toContainText('Soft clip');
  await add(page, 'After the sum', 'pan', 'Pan');
  await page.getByRole('button', { name: 'Put Kelp Drag on After the sum' }).click();
  await abyssal.saved();
  const { grit } = await abyssal.kept(id);
  expect(grit.after.map(({ kind }: { kind: string }) => kind)).toEqual(first.map(({ kind }) => kind));
  // The band has its own still, and no two units one id.
  const ids = [...grit.bands[0].units, ...grit.after].map((each: { id: string }) => each.id);
  expect(new Set(ids).size).toBe(ids.length);
  await page.getByRole('button', { name: 'Remove Kelp Drag from the library' }).click();
  await expect(kept).toHaveCount(0);
});

test('a layer has the same chain in Layers, and a band is heard alone without being saved', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Alone', 'layers', oneBand);
  await abyssal.panel('Units');
  await add(page, 'Body', 'lifts the lows', 'Tape');
  await abyssal.saved();
  expect(
    (await abyssal.kept(id)).layers.find((layer: { id: string }) => layer.id === 'body').chain,
  ).toMatchObject([{ kind: 'tape', id: 'tape-1' }]);
  await abyssal.station('Grit');
  await page.getByRole('button', { name: 'Solo Band above 90 Hz' }).click();
  await page.getByRole('button', { name: 'Bass', exact: true }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(3000);
  const { left, rate } = await abyssal.heard(2);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  // Nothing of the sub is left: its note lies at 43.7 Hz.
  let [re, im, power] = [0, 0, 0];
  left.forEach((x, i) => {
    const turn = (2 * Math.PI * 43.65 * i) / rate;
    re += x * Math.cos(turn);
    im += x * Math.sin(turn);
    power += x * x;
  });
  expect(power).toBeGreaterThan(0);
  expect((2 * (re * re + im * im)) / left.length / power).toBeLessThan(0.01);
  expect((await abyssal.kept(id)).grit.cleanPath.levelDb).toBe(0);
});

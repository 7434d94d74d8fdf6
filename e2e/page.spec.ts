import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Abyssal } from './abyssal';
import { findBoxFaults } from './boxes';

const STATIONS = ['Ground', 'Layers', 'Motion', 'Line', 'Lock'] as const;
const SOUNDS = ['Trench Growl', 'Sluice Talker', 'Ebb Drift', 'Mud Line', 'Slack Water', 'Keel Pluck', 'Bilge Drone'] as const;

/** Every state of a station whose parts are not all seen at once: layers, tones' kinds, and the further panels. */
async function* statesOf(abyssal: Abyssal, station: string): AsyncGenerator<string> {
  const { page } = abyssal;
  yield 'as it opens';
  if (station !== 'Layers') return;
  const tabs = page.getByRole('tablist', { name: 'Layers' }).getByRole('tab');
  for (let tab = 0; tab < await tabs.count(); tab++) {
    await tabs.nth(tab).click();
    yield `layer ${tab + 1}`;
  }
  for (const panel of ['Voice', 'Drop', 'Notes', 'Feedback', 'Clean path and clip']) {
    await abyssal.panel(panel);
    yield panel;
  }
}

for (const [width, height] of [[1024, 768], [1280, 800], [1600, 900]] as const) {
  test(`at ${width} by ${height} no interactive part stands over another, out of its panel, or under 24 pixels, in any demo sound`, async ({ abyssal, page }) => {
    test.setTimeout(240_000);
    await page.setViewportSize({ width, height });
    for (const sound of SOUNDS) {
      await abyssal.openDemo(sound);
      for (const station of STATIONS) {
        await abyssal.station(station);
        await page.waitForTimeout(60);
        for await (const state of statesOf(abyssal, station)) expect(await page.evaluate(findBoxFaults), `${sound}, ${station}, ${state}`).toEqual([]);
      }
    }
  });
}

test('every kind of tone keeps its parts apart at 1024', async ({ abyssal, page }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await abyssal.openCopyOf('Sluice Talker', 'Every kind');
  for (const kind of ['Shape', 'Harmonics', 'Frames', 'FM', 'Vowel', 'Noise', 'Sample']) {
    await abyssal.choose('Kind of tone', kind);
    for (const part of ['Tuning', 'Copies']) {
      await abyssal.choose('Part of the tone', part);
      expect(await page.evaluate(findBoxFaults), `${kind}, ${part}`).toEqual([]);
    }
  }
});

test('the box check sees what it is for: a part moved over another, out of its panel, and made small', async ({ abyssal, page }) => {
  await abyssal.openDemo('Trench Growl');
  await abyssal.station('Layers');
  expect(await page.evaluate(findBoxFaults)).toEqual([]);
  const spoil = (style: string) => page.getByRole('button', { name: 'mute', exact: false }).first().evaluate((element: HTMLElement, css) => { element.style.cssText = css; }, style);
  await spoil('position: relative; left: 60px');
  expect((await page.evaluate(findBoxFaults)).some((fault) => fault.includes('stand over each other'))).toBe(true);
  await spoil('height: 18px; min-height: 0');
  expect((await page.evaluate(findBoxFaults)).some((fault) => fault.includes('by 18'))).toBe(true);
  await spoil('');
  await page.getByRole('slider', { name: 'Body cutoff', exact: false }).last().evaluate((element: HTMLElement) => { element.style.cssText = 'position: relative; left: 600px'; });
  expect((await page.evaluate(findBoxFaults)).some((fault) => fault.includes('stands out of'))).toBe(true);
});

for (const scheme of ['paper', 'night watch'] as const) {
  // axe-core, all of WCAG 2.2 A and AA and its best practices.
  test(`axe finds nothing at any station, on ${scheme}`, async ({ abyssal, page }) => {
    test.setTimeout(120_000);
    await abyssal.openDemo('Trench Growl');
    if (scheme === 'night watch') await page.getByRole('button', { name: 'To night watch' }).click();
    for (const station of STATIONS) {
      await abyssal.station(station);
      await abyssal.measured();
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']).analyze();
      expect(violations.map(({ id, nodes }) => `${station}: ${id}: ${nodes.slice(0, 3).map(({ html }) => html.slice(0, 160)).join(' | ')}`)).toEqual([]);
    }
    await page.goto('/');
    await expect(page.getByRole('table', { name: 'Sounds' })).toBeVisible();
    const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']).analyze();
    expect(violations.map(({ id, nodes }) => `Library: ${id}: ${nodes.slice(0, 3).map(({ html }) => html.slice(0, 160)).join(' | ')}`)).toEqual([]);
  });
}

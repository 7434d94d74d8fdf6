import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Abyssal } from './abyssal';
import { findBoxFaults } from './boxes';

const STATIONS = ['Ground', 'Layers', 'Motion', 'Grit', 'Line', 'Lock', 'Sounding'] as const;
const SOUNDS = [
  'Trench Growl',
  'Sluice Talker',
  'Ebb Drift',
  'Mud Line',
  'Slack Water',
  'Keel Pluck',
  'Bilge Drone',
  'Hollow Pier',
] as const;

/**
 * Every state of a station whose parts are not all seen at once: layers, tones' kinds, and the further
 * panels.
 */
async function* statesOf(abyssal: Abyssal, station: string): AsyncGenerator<string> {
  const { page } = abyssal;
  yield 'as it opens';
  if (station !== 'Layers') return;
  const tabs = page.getByRole('region', { name: 'Layers', exact: true }).getByRole('tab');
  for (let tab = 0; tab < (await tabs.count()); tab++) {
    await tabs.nth(tab).click();
    yield `layer ${tab + 1}`;
  }
  for (const panel of ['Voice', 'Drop', 'Notes', 'Feedback', 'Units']) {
    await abyssal.panel(panel);
    yield panel;
  }
}

// The least is 1280 by 800 at 150 % zoom.
const SIZES = [
  [853, 533],
  [1024, 768],
  [1280, 800],
  [1600, 900],
] as const;

for (const sound of SOUNDS)
  test(`no interactive part stands over another, out of its panel, or under 24 pixels, at any size in ${sound}`, async ({
    abyssal,
    page,
  }) => {
    await abyssal.openDemo(sound);
    for (const station of STATIONS) {
      await abyssal.station(station);
      for await (const state of statesOf(abyssal, station))
        for (const [width, height] of SIZES) {
          await page.setViewportSize({ width, height });
          // Drawings follow the window two frames later, and later where the machine is busy.
          await page.evaluate(
            () =>
              new Promise((resolve) => {
                requestAnimationFrame(() => requestAnimationFrame(resolve));
              }),
          );
          await expect
            .poll(() => page.evaluate(findBoxFaults), {
              message: `${station}, ${state}, ${width}`,
              timeout: 3000,
              intervals: [50, 100, 250],
            })
            .toEqual([]);
        }
    }
  });

/**
 * Texts of the foot and the state of saving that are cut off, or stand out of the window or over each other.
 */
const cutTexts = () => {
  const whole = [
    ...document.querySelectorAll<HTMLElement>('footer span, footer button, footer input, [data-save]'),
  ].filter((element) => element.checkVisibility());
  return whole.flatMap((element) => {
    const box = element.getBoundingClientRect();
    const cell = element.closest('footer > *, header > *')!.getBoundingClientRect();
    const out =
      box.left < cell.left ||
      box.right > cell.right + 0.5 ||
      box.bottom > Math.min(cell.bottom, window.innerHeight) + 0.5 ||
      element.scrollWidth > element.clientWidth + 1;
    return out && element.clientWidth > 0 ? [element.textContent || element.getAttribute('aria-label')!] : [];
  });
};

test('at 150 % zoom the foot and the state of saving are whole, whatever it is', async ({
  abyssal,
  page,
}) => {
  await page.setViewportSize({ width: 853, height: 533 });
  await abyssal.openCopyOf('Trench Growl', 'A name that is rather too long for its place');
  expect(await page.evaluate(cutTexts)).toEqual([]);
  await page.route('**/api/sounds/*', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  );
  await abyssal.station('Layers');
  await abyssal.type('Body Level', '-3');
  await expect(page.locator('[data-save="away"]')).toBeVisible();
  expect(await page.evaluate(cutTexts)).toEqual([]);
  await page.locator('[data-save]').evaluate((element) => {
    element.textContent = 'kept in this browser of yours';
  });
  expect(await page.evaluate(cutTexts)).toEqual(['kept in this browser of yours']);
});

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

test('the box check sees what it is for: a part moved over another, out of its panel, and made small', async ({
  abyssal,
  page,
}) => {
  await abyssal.openDemo('Trench Growl');
  await abyssal.station('Layers');
  expect(await page.evaluate(findBoxFaults)).toEqual([]);
  const spoil = (style: string) =>
    page
      .getByRole('button', { name: 'mute', exact: false })
      .first()
      .evaluate((element: HTMLElement, css) => {
        element.style.cssText = css;
      }, style);
  await spoil('position: relative; left: 60px');
  expect((await page.evaluate(findBoxFaults)).some((fault) => fault.includes('stand over each other'))).toBe(
    true,
  );
  await spoil('height: 18px; min-height: 0');
  expect((await page.evaluate(findBoxFaults)).some((fault) => fault.includes('by 18'))).toBe(true);
  await spoil('');
  await page
    .getByRole('slider', { name: 'Body cutoff', exact: false })
    .last()
    .evaluate((element: HTMLElement) => {
      element.style.cssText = 'position: relative; left: 600px';
    });
  expect((await page.evaluate(findBoxFaults)).some((fault) => fault.includes('stands out of'))).toBe(true);
});

for (const scheme of ['paper', 'night watch'] as const) {
  // axe-core, all of WCAG 2.2 A and AA and its best practices.
  test(`axe finds nothing at any station, on ${scheme}`, async ({ abyssal, page }) => {
    test.setTimeout(120_000);
    await abyssal.openDemo('Trench Growl');
    const night = scheme === 'night watch';
    if (night) await page.getByRole('button', { name: 'Switch to night watch' }).click();
    // At night only the colours are others.
    const axe = () =>
      night
        ? new AxeBuilder({ page }).withRules(['color-contrast'])
        : new AxeBuilder({ page }).withTags([
            'wcag2a',
            'wcag2aa',
            'wcag21a',
            'wcag21aa',
            'wcag22aa',
            'best-practice',
          ]);
    for (const station of STATIONS) {
      await abyssal.station(station);
      await abyssal.measured();
      const { violations } = await axe().analyze();
      expect(
        violations.map(
          ({ id, nodes }) =>
            `${station}: ${id}: ${nodes
              .slice(0, 3)
              .map(({ html }) => html.slice(0, 160))
              .join(' | ')}`,
        ),
      ).toEqual([]);
    }
    await page.goto('/');
    await expect(page.getByRole('table', { name: 'Sounds' })).toBeVisible();
    const { violations } = await axe().analyze();
    expect(
      violations.map(
        ({ id, nodes }) =>
          `Library: ${id}: ${nodes
            .slice(0, 3)
            .map(({ html }) => html.slice(0, 160))
            .join(' | ')}`,
      ),
    ).toEqual([]);
  });
}

import { fileURLToPath } from 'node:url';
import { cleanFilter, cleanLayer, cleanSource, cleanTone, fillHarmonics, trenchGrowl } from '@abyssal/core';
import { test } from '../abyssal';

/** Four layers of three tones each, with two filters. */
function fourLayers() {
  const sound = trenchGrowl();
  const tones = () => [
    cleanTone({ on: true, source: cleanSource('fm') }),
    cleanTone({ on: true, levelDb: -6, source: cleanSource('harmonics', { a: fillHarmonics('1/n', 64) }) }),
    cleanTone({ on: true, levelDb: -6, copies: 7, spreadPct: 50, source: cleanSource('frames') }),
  ];
  const layers = (['sub', 'body', 'edge', 'knock'] as const).map((role) =>
    cleanLayer(role, {
      tones: tones(),
      filters: [
        cleanFilter({ on: true, cutoffHz: 400, resonancePct: 40 }),
        cleanFilter({ on: true, mode: 'high', slope: '12', cutoffHz: 60 }),
      ],
      loudness: { ...cleanLayer('body').loudness, sustainPct: 100 },
    }),
  );
  const grit = { ...sound.grit, bands: sound.grit.bands.slice(0, 1), after: [] };
  return { ...sound, name: 'Four layers', layers, links: [], grit };
}

const ONE = fileURLToPath(new URL('../../scripts/bench/one-core.sh', import.meta.url));

for (const [name, executablePath] of [
  ['one', ONE],
  ['all', null],
] as const)
  test(`four layers are measured on ${name} core`, async ({ page, playwright, running }) => {
    const options = test.info().project.use.launchOptions ?? {};
    const browser = await playwright.chromium.launch({
      ...options,
      executablePath: executablePath ?? options.executablePath,
    });
    const own = await browser.newPage({ baseURL: running.address, viewport: { width: 1280, height: 800 } });
    const made = (await (
      await page.request.post('/api/sounds', { data: { document: fourLayers() } })
    ).json()) as { id: string };
    await own.goto(`/sounds/${made.id}/ground`);
    const figures = own.getByRole('region', { name: 'Figures', exact: true });
    await figures.locator('[data-figure]').first().waitFor();
    const times: number[] = [];
    for (let n = 0; n < 6; n++) {
      await own.waitForFunction(
        () => document.querySelector('[aria-label="Figures"]')?.getAttribute('aria-busy') === 'false',
      );
      // What is measured after the figures would share the cores.
      await own.waitForTimeout(500);
      const took = figures.evaluate(
        (element) =>
          new Promise<number>((resolve) => {
            let from = 0;
            new MutationObserver((_, observer) => {
              const busy = element.getAttribute('aria-busy') === 'true';
              if (busy && from === 0) from = performance.now();
              else if (!busy && from > 0) {
                observer.disconnect();
                resolve(performance.now() - from);
              }
            }).observe(element, { attributes: true, attributeFilter: ['aria-busy'] });
          }),
      );
      // Another tempo is another line for every layer.
      await own.getByRole('slider', { name: 'Tempo', exact: true }).press('ArrowUp');
      times.push(await took);
    }
    const cores = await own.evaluate(() => navigator.hardwareConcurrency);
    await browser.close();
    console.log(`\nlayers-${name} ${JSON.stringify({ ms: Math.min(...times), cores })}`);
  });

import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { test } from '../abyssal';

const ONE = fileURLToPath(new URL('../../scripts/bench/one-core.sh', import.meta.url));

for (const [name, executablePath] of [
  ['one', ONE],
  ['all', null],
] as const)
  test(`four layers are measured on ${name} core`, async ({ page, playwright, running }) => {
    test.setTimeout(300_000);
    const options = test.info().project.use.launchOptions ?? {};
    const browser = await playwright.chromium.launch({
      ...options,
      executablePath: executablePath ?? options.executablePath,
    });
    const own = await browser.newPage({ baseURL: running.address, viewport: { width: 1280, height: 800 } });
    // bin/bench names the file of the sound that it renders elsewhere.
    const document: unknown = JSON.parse(readFileSync(process.env.BENCH_SOUND!, 'utf8'));
    const made = (await (await page.request.post('/api/sounds', { data: { document } })).json()) as {
      id: string;
    };
    await own.goto(`/sounds/${made.id}/ground`);
    const figures = own.getByRole('region', { name: 'Figures', exact: true });
    await figures.locator('[data-figure]').first().waitFor();
    const times: number[] = [];
    for (let n = 0; n < 8; n++) {
      await own.waitForFunction(
        () => document.querySelector('[aria-label="Figures"]')?.getAttribute('aria-busy') === 'false',
      );
      // What is measured after the figures would share the cores.
      await own.waitForTimeout(500);
      // The page watches before the key is pressed: the figures may begin before the press is through.
      const watched = await figures.evaluateHandle((element) => ({
        took: new Promise<number>((resolve) => {
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
      }));
      // Another tempo is another line for every layer.
      await own.getByRole('slider', { name: 'Tempo', exact: true }).press('ArrowUp');
      times.push(await watched.evaluate(({ took }) => took));
    }
    const cores = await own.evaluate(() => navigator.hardwareConcurrency);
    await browser.close();
    console.log(`\nlayers-${name} ${JSON.stringify({ ms: Math.min(...times), cores })}`);
  });

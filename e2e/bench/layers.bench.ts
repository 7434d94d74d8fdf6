import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { test } from '../abyssal';

const ONE = fileURLToPath(new URL('../../scripts/bench/one-core.sh', import.meta.url));
const TURNS = 3;
const ROUNDS = 10;
/** Rounds of a turn in which what runs is still being compiled. */
const WARM = 3;

const median = (times: readonly number[]) => [...times].sort((a, b) => a - b)[times.length >> 1];

/** Changes the tempo, which gives every layer another line, and says how long it took until the figures stood, in ms. */
async function figuresTake(page: Page, key: 'ArrowDown' | 'ArrowUp'): Promise<number> {
  const figures = page.getByRole('region', { name: 'Figures', exact: true });
  await page.waitForFunction(
    () => document.querySelector('[aria-label="Figures"]')?.getAttribute('aria-busy') === 'false',
  );
  // What is measured after the figures would share the cores.
  await page.waitForTimeout(500);
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
  await page.getByRole('slider', { name: 'Tempo', exact: true }).press(key);
  return watched.evaluate(({ took }) => took);
}

test('four layers are measured on one core and on all, in turns', async ({ page, playwright, running }) => {
  test.setTimeout(300_000);
  const options = test.info().project.use.launchOptions ?? {};
  // bin/bench names the file of the sound that it renders elsewhere.
  const document: unknown = JSON.parse(readFileSync(process.env.BENCH_SOUND!, 'utf8'));
  const sound = await page.request.post('/api/sounds', { data: { document } });
  const { id } = (await sound.json()) as { id: string };
  const found = {
    one: { executablePath: ONE, times: [] as number[], cores: 0 },
    all: { executablePath: options.executablePath, times: [] as number[], cores: 0 },
  };
  // One browser at a time: what one looks for after its figures would share the cores with the other.
  for (let turn = 0; turn < TURNS; turn++)
    for (const each of Object.values(found)) {
      const browser = await playwright.chromium.launch({ ...options, executablePath: each.executablePath });
      const own = await browser.newPage({
        baseURL: running.address,
        viewport: { width: 1280, height: 800 },
      });
      await own.goto(`/sounds/${id}/ground`);
      await own.locator('[aria-label="Figures"] [data-figure]').first().waitFor();
      for (let n = 0; n < ROUNDS; n++) {
        const ms = await figuresTake(own, n % 2 === 0 ? 'ArrowDown' : 'ArrowUp');
        if (n >= WARM) each.times.push(ms);
      }
      each.cores = await own.evaluate(() => navigator.hardwareConcurrency);
      await browser.close();
    }
  for (const [name, { times, cores }] of Object.entries(found))
    console.log(
      `\nlayers-${name} ${JSON.stringify({ ms: Math.min(...times), median: median(times), cores })}`,
    );
});

import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { APIRequestContext, Page, PlaywrightWorkerArgs } from '@playwright/test';
import { test } from '../abyssal';

const ONE = fileURLToPath(new URL('../../scripts/bench/one-core.sh', import.meta.url));
const ROUNDS = 28;
/** Rounds in which what runs is still being compiled. */
const WARM = 4;

const median = (times: readonly number[]) => [...times].sort((a, b) => a - b)[times.length >> 1];

interface BrowserOf {
  readonly playwright: PlaywrightWorkerArgs['playwright'];
  readonly request: APIRequestContext;
  readonly address: string;
  readonly executablePath: string | undefined;
}

interface Halted {
  readonly cores: number;
  /** Lets it go on while something is done with its page. */
  readonly turn: <T>(work: (page: Page) => Promise<T>) => Promise<T>;
  readonly close: () => Promise<void>;
}

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

/** A browser with a sound of its own at Ground, that is halted but for its turns. */
async function openHalted(
  { playwright, request, address, executablePath }: BrowserOf,
  document: unknown,
): Promise<Halted> {
  const { launchOptions } = test.info().project.use;
  const server = await playwright.chromium.launchServer({ ...launchOptions, executablePath });
  // All of its processes are one group.
  const signal = (name: 'SIGSTOP' | 'SIGCONT') => {
    process.kill(-server.process().pid!, name);
  };
  const sound = await request.post('/api/sounds', { data: { document } });
  const { id } = (await sound.json()) as { id: string };
  const browser = await playwright.chromium.connect(server.wsEndpoint());
  const page = await browser.newPage({ baseURL: address, viewport: { width: 1280, height: 800 } });
  await page.goto(`/sounds/${id}/ground`);
  await page.locator('[aria-label="Figures"] [data-figure]').first().waitFor();
  const cores = await page.evaluate(() => navigator.hardwareConcurrency);
  signal('SIGSTOP');
  return {
    cores,
    turn: async (work) => {
      signal('SIGCONT');
      const found = await work(page);
      signal('SIGSTOP');
      return found;
    },
    close: async () => {
      signal('SIGCONT');
      await browser.close();
      await server.close();
    },
  };
}

test('four layers are measured on one core and on all, by turns', async ({
  playwright,
  running,
  request,
}) => {
  test.setTimeout(300_000);
  // bin/bench names the file of the sound that it renders elsewhere.
  const document: unknown = JSON.parse(readFileSync(process.env.BENCH_SOUND!, 'utf8'));
  const { executablePath } = test.info().project.use.launchOptions ?? {};
  const common = { playwright, request, address: running.address };
  const one = await openHalted({ ...common, executablePath: ONE }, document);
  const all = await openHalted({ ...common, executablePath }, document);
  const times: { readonly one: number; readonly all: number }[] = [];
  // By turns, for the machine is faster at one moment than at another; while one is measured the other stands still.
  for (let n = 0; n < ROUNDS; n++) {
    const round = (page: Page) => figuresTake(page, n % 2 === 0 ? 'ArrowDown' : 'ArrowUp');
    const took = { one: await one.turn(round), all: await all.turn(round) };
    if (n >= WARM) times.push(took);
  }
  await one.close();
  await all.close();
  const found = {
    one: median(times.map((each) => each.one)),
    all: median(times.map((each) => each.all)),
    ratio: median(times.map((each) => each.one / each.all)),
    rounds: times.length,
    cores: all.cores,
  };
  console.log(`\nlayers ${JSON.stringify(found)}`);
});

import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { IN_VIEW_IDS, type SoundDocument } from '@abyssal/core';
import { test as base, expect, type Locator, type Page } from '@playwright/test';

const MAIN = fileURLToPath(new URL('../apps/server/dist/start/main.js', import.meta.url));

/** A running Abyssal with data of its own. */
export interface Running {
  readonly address: string;
  readonly databasePid: () => number;
}

async function start(): Promise<Running & { end: () => Promise<void> }> {
  const data = mkdtempSync(join(tmpdir(), 'abyssal-e2e-'));
  // The database runs as a user of its own, who must be able to enter.
  chmodSync(data, 0o755);
  const child: ChildProcess = spawn(process.execPath, [MAIN, '--port', '0', '--data', data], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const address = await new Promise<string>((resolve, reject) => {
    child.stdout!.on('data', (text: Buffer) => {
      const found = /http:\/\/[\d.:]+/.exec(text.toString());
      if (found) resolve(found[0]);
    });
    child.once('exit', () => {
      reject(new Error('the server ended'));
    });
  });
  return {
    address,
    databasePid: () => Number(readFileSync(join(data, 'mariadb.pid'), 'utf8')),
    end: async () => {
      const ended = new Promise((resolve) => {
        child.once('exit', resolve);
      });
      child.kill('SIGTERM');
      await ended;
      rmSync(data, { recursive: true, force: true });
    },
  };
}

export const test = base.extend<{ abyssal: Abyssal }, { running: Running }>({
  running: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures that are wanted from the pattern.
    async ({}, use) => {
      const running = await start();
      await use(running);
      await running.end();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  baseURL: async ({ running }, use) => {
    await use(running.address);
  },
  abyssal: async ({ page, running }, use) => {
    const errors: string[] = [];
    page.on('pageerror', (error) => {
      errors.push(error.message);
    });
    await use(new Abyssal(page, running));
    expect(errors, 'errors on the page').toEqual([]);
  },
});
export { expect };

/** What was heard: samples of both sides from the audio thread. */
export interface Heard {
  readonly left: Float32Array;
  readonly right: Float32Array;
  readonly rate: number;
}

/** The application as a person uses it. */
export class Abyssal {
  constructor(
    readonly page: Page,
    readonly running: Running,
  ) {}

  async openLibrary(): Promise<void> {
    await this.page.goto('/');
    await expect(this.page.getByRole('table', { name: 'Sounds' })).toBeVisible();
  }

  /** Makes a copy of a demo sound under a name of its own, changed or as it is, and opens it at a station. */
  async openCopyOf(
    name: string,
    copy: string,
    station = 'layers',
    change: (document: SoundDocument) => void = () => undefined,
  ): Promise<string> {
    const list = (await (
      await this.page.request.get(`/api/sounds?search=${encodeURIComponent(name)}&sort=updated`)
    ).json()) as { items: { id: string; name: string }[] };
    const { document } = (await (
      await this.page.request.get(`/api/sounds/${list.items.find((item) => item.name === name)!.id}`)
    ).json()) as { document: SoundDocument };
    change(document);
    const made = (await (
      await this.page.request.post('/api/sounds', { data: { document: { ...document, name: copy } } })
    ).json()) as { id: string };
    await this.page.goto(`/sounds/${made.id}/${station}`);
    await this.measured();
    return made.id;
  }

  /** Opens a copy of Trench Growl without its units: light, for what is not about them. */
  openLight(copy: string, station = 'layers'): Promise<string> {
    return this.openCopyOf('Trench Growl', copy, station, (document) => {
      document.grit = {
        ...document.grit,
        bands: document.grit.bands.slice(0, 1).map((band) => ({ ...band, units: [] })),
        after: [],
      };
      document.links = document.links.filter(({ target }) => !/^(units|bands)\./.test(target));
    });
  }

  /** Opens a demo sound itself, for what leaves it as it is. */
  async openDemo(name: string): Promise<void> {
    const list = (await (
      await this.page.request.get(`/api/sounds?search=${encodeURIComponent(name)}&sort=updated`)
    ).json()) as { items: { id: string; name: string }[] };
    await this.page.goto(`/sounds/${list.items.find((item) => item.name === name)!.id}/layers`);
    await this.measured();
  }

  /** Opens one of the further panels of a layer. */
  async panel(name: string): Promise<void> {
    await this.page.getByRole('group', { name: 'Further settings' }).getByRole('button', { name }).click();
  }

  /** Chooses one of a few, side by side. */
  async choose(group: string, option: string): Promise<void> {
    await this.page
      .getByRole('group', { name: group, exact: true })
      .getByRole('button', { name: option, exact: true })
      .click();
  }

  async station(name: string): Promise<void> {
    await this.page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name }).click();
    await expect(this.page.getByRole('link', { name, exact: true })).toHaveAttribute('aria-current', 'page');
  }

  /** Waits until the figures belong to the sound as it stands. */
  async measured(): Promise<void> {
    const panel = this.page.getByRole('region', { name: 'Figures', exact: true });
    await expect(panel.locator('[data-figure]')).toHaveCount(IN_VIEW_IDS.length);
    // The render begins 80 ms after the last change.
    await this.page.waitForTimeout(200);
    await expect(panel).toHaveAttribute('aria-busy', 'false');
  }

  /** Waits until the bass has been turned round in full, at the Lock station. */
  async roses(): Promise<void> {
    await this.measured();
    await expect(this.page.locator('[data-station="lock"]')).toHaveAttribute('aria-busy', 'false');
  }

  /** Waits until every proposal has been rendered and measured, at the Lock station. */
  async fitted(): Promise<void> {
    await this.roses();
    await expect(this.page.getByText('Proposals are being rendered and measured.')).toHaveCount(0, {
      timeout: 40_000,
    });
  }

  async saved(): Promise<void> {
    await expect(this.page.locator('[data-save]')).toHaveAttribute('data-save', 'saved');
  }

  figure(id: string): Locator {
    return this.page.locator(`[data-figure="${id}"]`);
  }

  /** The number that a figure shows. */
  async value(id: string): Promise<number> {
    const text = await this.figure(id).innerText();
    return Number(
      /([+−]?\d+\.\d)/
        .exec(
          text.replace(/\n/g, ' ').slice((await this.figure(id).locator('div').nth(1).innerText()).length),
        )![1]
        .replace('−', '-'),
    );
  }

  /** What was heard over the last seconds. */
  async heard(seconds: number): Promise<Heard> {
    const { left, right, rate } = await this.page.evaluate((s) => {
      const { audio } = (
        globalThis as unknown as {
          abyssal: {
            audio: {
              sampleRateHz: number;
              shared: { heard: (frames: number) => { left: Float32Array; right: Float32Array } };
            };
          };
        }
      ).abyssal;
      const found = audio.shared.heard(Math.round(s * audio.sampleRateHz));
      return { left: Array.from(found.left), right: Array.from(found.right), rate: audio.sampleRateHz };
    }, seconds);
    return { left: Float32Array.from(left), right: Float32Array.from(right), rate };
  }

  slider(name: string): Locator {
    return this.page.getByRole('slider', { name, exact: true });
  }

  /** Types a value into a parameter's field. */
  async type(name: string, text: string): Promise<void> {
    const field = this.page.getByRole('textbox', { name: `${name}, value`, exact: true });
    await field.fill(text);
    await field.press('Enter');
  }

  /** The document as the server has it. */
  async kept(id: string): Promise<any> {
    return ((await (await this.page.request.get(`/api/sounds/${id}`)).json()) as { document: unknown })
      .document;
  }
}

/** Drops a file on an element, as from the desktop. */
export async function drop(page: Page, target: Locator, name: string, bytes: Uint8Array): Promise<void> {
  const transfer = await page.evaluateHandle(
    ({ file, data }) => {
      const made = new DataTransfer();
      made.items.add(new File([Uint8Array.from(data)], file));
      return made;
    },
    { file: name, data: Array.from(bytes) },
  );
  await target.dispatchEvent('dragover', { dataTransfer: transfer });
  await target.dispatchEvent('drop', { dataTransfer: transfer });
}

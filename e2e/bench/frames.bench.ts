import type { Locator, Page } from '@playwright/test';
import { expect, test, type Abyssal } from '../abyssal';

/** What is taken down in the page while something is dragged. */
interface Taken {
  frames: number[];
  moves: number[];
  posts: number[];
}

/** Takes down when frames are drawn, when the pointer is moved, and when the audio thread is told of something. */
function takeDown(): void {
  const taken: Taken = { frames: [], moves: [], posts: [] };
  (window as unknown as { taken: Taken }).taken = taken;
  const draw = (now: number) => {
    taken.frames.push(now);
    requestAnimationFrame(draw);
  };
  requestAnimationFrame(draw);
  window.addEventListener('pointermove', () => taken.moves.push(performance.now()), { capture: true });
  const post = MessagePort.prototype.postMessage;
  MessagePort.prototype.postMessage = function (...args: [unknown, Transferable[]]) {
    taken.posts.push(performance.now());
    post.apply(this, args);
  };
}

/** Drags something about for some two seconds while the loop plays; gives times between frames, and to the audio thread. */
async function dragged(page: Page, what: Locator, dx: number, dy: number) {
  const box = (await what.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const from = await page.evaluate(() => performance.now());
  for (let i = 1; i <= 120; i++) {
    await page.mouse.move(x + dx * Math.sin(i / 9), y + dy * Math.sin(i / 9));
    await page.waitForTimeout(12);
  }
  const to = await page.evaluate(() => performance.now());
  await page.mouse.up();
  const { frames, moves, posts } = await page.evaluate(() => (window as unknown as { taken: Taken }).taken);
  const drawn = frames.filter((at) => at > from && at < to);
  const gaps = drawn.slice(1).map((at, i) => at - drawn[i]);
  const told = moves
    .filter((at) => at > from && at < to)
    .flatMap((at) => {
      const post = posts.find((each) => each >= at);
      return post === undefined ? [] : [post - at];
    });
  gaps.sort((a, b) => a - b);
  told.sort((a, b) => a - b);
  return {
    perSecond: (1000 * gaps.length) / (drawn.at(-1)! - drawn[0]),
    p90: gaps[Math.floor(0.9 * gaps.length)],
    toldMs: told[Math.floor(0.5 * told.length)],
  };
}

async function play(abyssal: Abyssal, page: Page): Promise<void> {
  await abyssal.measured();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(1500);
}

test('a node of a wobble is dragged while it plays', async ({ abyssal, page }) => {
  await page.addInitScript(takeDown);
  await abyssal.openCopyOf('Trench Growl', 'Node', 'motion');
  await play(abyssal, page);
  const node = abyssal.slider('Wobble 1 node 2');
  const before = await node.getAttribute('aria-valuetext');
  const figures = await dragged(page, node, 12, 40);
  expect(await node.getAttribute('aria-valuetext')).not.toBe(before);
  console.log(`\nnode ${JSON.stringify(figures)}`);
});

test('a note of a line of 512 is dragged while it plays', async ({ abyssal, page }) => {
  await page.addInitScript(takeDown);
  const id = await abyssal.openCopyOf('Trench Growl', 'Many', 'ground');
  const sound = await abyssal.kept(id);
  sound.name = 'Very many';
  sound.ground.bars = 16;
  sound.line.notes = Array.from({ length: 512 }, (_, i) => ({
    ...sound.line.notes[0],
    tick: 60 * i,
    ticks: 50,
    pitch: 29 + [0, 3, 5, 7, 12][i % 5],
  }));
  const made = (await (await page.request.post('/api/sounds', { data: { document: sound } })).json()) as {
    id: string;
  };
  await page.goto(`/sounds/${made.id}/line`);
  await play(abyssal, page);
  const note = page.locator('[data-note]').nth(8);
  const before = await note.getAttribute('aria-label');
  const figures = await dragged(page, note, 60, 20);
  expect(await note.getAttribute('aria-label')).not.toBe(before);
  console.log(`\nmany ${JSON.stringify(figures)}`);
});

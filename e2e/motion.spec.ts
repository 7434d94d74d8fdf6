import { expect, test, type Heard } from './abyssal';

/** How often the brightness of a growl on F1 rises above what it is round about: the turns of its wobble. */
function turns(samples: Float32Array, rate: number): number {
  // A period of F1: what the saw itself does within it is left out.
  const hop = Math.round(rate / 43.65);
  const levels = Array.from({ length: Math.floor(samples.length / hop) }, (_, k) => {
    let sum = 1e-12;
    // What changes from sample to sample is what the filter lets through.
    for (let i = k * hop + 1; i < (k + 1) * hop; i++) sum += (samples[i] - samples[i - 1]) ** 2;
    return 10 * Math.log10(sum / hop);
  });
  let count = 0;
  let up = false;
  levels.forEach((level, k) => {
    const near = levels.slice(Math.max(0, k - 6), k + 7);
    const over = level - near.reduce((a, b) => a + b, 0) / near.length;
    if (!up && over > 0.7) {
      up = true;
      count++;
    } else if (up && over < -0.7) up = false;
  });
  return count;
}

/** The loop of Trench Growl: 2 bars at 140 bpm. */
const LOOP_MS = 3429;

/** How bright it is: the level of what changes from sample to sample, in dB. */
const bright = ({ left }: Heard) =>
  10 *
  Math.log10(left.reduce((sum, x, i) => (i === 0 ? sum : sum + (x - left[i - 1]) ** 2), 1e-12) / left.length);

test('a wobble whose speed changes with every note, by one click, is heard', async ({ abyssal, page }) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Stepped', 'motion');
  // The demo's own steps go first.
  await page.getByRole('button', { name: 'More for Pace' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await page.getByRole('button', { name: 'Add…' }).click();
  await page.getByRole('menuitem', { name: /^Note steps/ }).click();
  await page.getByRole('button', { name: 'Set the rate of Wobble 1' }).click();
  // The steps read as the rates that they set.
  await expect(abyssal.slider('Note steps step 1')).toHaveAttribute('aria-valuetext', '1/4');
  await expect(abyssal.slider('Note steps step 4')).toHaveAttribute('aria-valuetext', '1/16');
  await abyssal.slider('Note steps step 2').press('Enter');
  await page.getByRole('textbox', { name: 'Note steps step 2, value' }).fill('1/16');
  await page.keyboard.press('Enter');
  await expect(abyssal.slider('Note steps step 2')).toHaveAttribute('aria-valuetext', '1/16');
  // One note over each bar: the first turns four times in a bar, the second sixteen times; without steps it would be four and four.
  await abyssal.station('Ground');
  await abyssal.station('Line');
  await page.getByRole('combobox', { name: 'Start with' }).selectOption('held root');
  await page.getByRole('button', { name: 'Bass', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  // The second round: 2 bars at 140 bpm last 3.43 s.
  await page.waitForTimeout(7400);
  const { left, rate } = await abyssal.heard(3.43);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  // What was heard begins somewhere in the loop: both bars are in it, and each half has many or few turns.
  const all = turns(left, rate);
  expect(all).toBeGreaterThan(17);
  expect(all).toBeLessThan(23);
  await abyssal.saved();
  const { movers, links } = await abyssal.kept(id);
  expect(movers.find(({ kind }: { kind: string }) => kind === 'steps').values).toHaveLength(4);
  expect(links.some(({ target }: { target: string }) => target === 'movers.wobble-1.rateBeats')).toBe(true);
});

test('a circle is refused with a sentence that names it', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Trench Growl', 'Round', 'motion');
  await page.getByRole('button', { name: 'Link…' }).click();
  await page.getByRole('combobox', { name: 'What it moves' }).fill('Wobble 1 · rate');
  await page.getByRole('option', { name: 'Wobble 1 · rate', exact: true }).click();
  await expect(
    page.getByText('That would go round in a circle: Wobble 1 moves Wobble 1 · rate.'),
  ).toBeVisible();
});

test('a macro is learned by the simulated controller, opens a growl, and its move is recorded and plays back', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Opened', 'motion');
  await page.getByRole('button', { name: 'What Macro 3 moves' }).click();
  await page.getByRole('button', { name: 'Link…' }).click();
  await page.getByRole('combobox', { name: 'What it moves' }).fill('Body · filter 1 · cut');
  await page.getByRole('option', { name: 'Body · filter 1 · cutoff', exact: true }).click();
  await page.getByRole('button', { name: 'Simulated controller' }).click();
  await page.getByRole('button', { name: 'Learn…' }).click();
  await page.getByRole('combobox', { name: 'What a control is to move' }).fill('Macro 3');
  await page.getByRole('option', { name: 'Macro 3', exact: true }).click();
  const fader = abyssal.slider('Controller fader 1');
  await fader.press('ArrowRight');
  await expect(page.getByText('Macro 3 is moved by cc 20 from now on.')).toBeVisible();
  // It is picked up from where the macro stands.
  await fader.press('Home');
  await page.getByRole('button', { name: 'Bass', exact: true }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(LOOP_MS + 600);
  const closed = bright(await abyssal.heard(LOOP_MS / 1000));
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Write moves' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  // All of the move is in the first half of one round, however slow the machine: two keys.
  await page.waitForTimeout(300);
  await fader.press('PageUp');
  await fader.press('End');
  const lane = page.getByRole('group', { name: /^Macro 3 over the loop/ });
  await expect(lane).toBeVisible({ timeout: 15_000 });
  // The row that is moved shows where it stands now.
  await expect(page.locator('[data-live="macros.macro-3.valuePct"]').first()).toBeVisible();
  // With nothing touched any more the lane opens the growl.
  await page.getByRole('button', { name: 'Stop writing moves' }).click();
  await page.waitForTimeout(LOOP_MS);
  expect(bright(await abyssal.heard(LOOP_MS / 1000))).toBeGreaterThan(closed + 2);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await abyssal.saved();
  const { lanes, macros } = await abyssal.kept(id);
  expect(lanes).toHaveLength(1);
  // How many points are left of the move depends on its pace: it begins below and goes up on its way.
  expect(lanes[0].points.length).toBeGreaterThan(1);
  expect(lanes[0].points[0].value).toBeLessThan(lanes[0].points.at(-1).value);
  expect(lanes[0].points.at(-1).value).toBeCloseTo(macros[2].valuePct / 100, 3);
  expect(macros[2].control).toMatchObject({ control: 'cc 20', channel: 1 });
  // The whole round is one step of undo.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(lane).toHaveCount(0);
  await abyssal.saved();
  expect((await abyssal.kept(id)).macros[2].valuePct).toBe(0);
});

test('a line is recorded from the keys, quantised, put back as it was played, and undone', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Slack Water', 'Played', 'line');
  await page.getByRole('button', { name: 'is replaced' }).click();
  await page.getByRole('switch', { name: 'count-in, one bar' }).click();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await page.waitForTimeout(700);
  for (const key of ['z', 'c', 'b']) {
    await page.keyboard.down(key);
    await page.waitForTimeout(260);
    await page.keyboard.up(key);
    await page.waitForTimeout(120);
  }
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await expect(page.getByRole('group', { name: /^The line: 3 notes/ })).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await abyssal.saved();
  const played = (await abyssal.kept(id)).line.notes;
  expect(played.map(({ velocity }: { velocity: number }) => velocity)).toEqual([100, 100, 100]);
  await page.getByRole('button', { name: 'Quantise', exact: true }).click();
  await abyssal.saved();
  const straight = (await abyssal.kept(id)).line.notes;
  expect(straight.every(({ tick }: { tick: number }) => tick % 120 === 0)).toBe(true);
  expect(straight.map((note: { played: object }) => note.played)).toEqual(
    played.map(({ tick, ticks }: { tick: number; ticks: number }) => ({ tick, ticks })),
  );
  await page.getByRole('button', { name: 'As played' }).click();
  await abyssal.saved();
  expect((await abyssal.kept(id)).line.notes).toEqual(played);
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await abyssal.saved();
  expect((await abyssal.kept(id)).line.notes.length).toBeGreaterThan(3);
});

test('several notes are chosen by a frame, copied, stretched and given rates of their own', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Framed', 'line');
  const sheet = page.getByRole('group', { name: /^The line: / });
  const box = (await sheet.boundingBox())!;
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 60, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height - 60, { steps: 6 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(page.getByText(/^[34] notes, F1 to/)).toBeVisible();
  await page.getByRole('combobox', { name: 'Wobble rate of the note' }).selectOption('1/16');
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await abyssal.saved();
  const { line } = await abyssal.kept(id);
  expect(
    line.notes.filter(({ wobbleBeats }: { wobbleBeats: number | null }) => wobbleBeats === 0.25).length,
  ).toBeGreaterThanOrEqual(6);
});

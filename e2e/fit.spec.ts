import { writeWav } from '@abyssal/core';
import { drop, expect, test, type Abyssal } from './abyssal';

const wavFile = (name: string, samples: Float32Array) => ({
  name,
  mimeType: 'audio/wav',
  buffer: Buffer.from(writeWav([samples], 48000, '24')),
});
/** A kick of half a second whose tail stands at a frequency. */
const kickWav = (hz: number) =>
  Float32Array.from({ length: 24000 }, (_, i) => {
    const t = i / 48000;
    return (
      0.8 *
      Math.sin(2 * Math.PI * (hz * t + 2 * (1 - Math.exp(-t * 60)))) *
      Math.exp(-t * 6) *
      Math.min(1, (24000 - i) / 4800)
    );
  });
const proposals = (abyssal: Abyssal) =>
  abyssal.page.getByRole('list', { name: 'Proposals' }).getByRole('listitem');

test('advice is rendered, heard before and after in time, drawn over, applied as one undo step, and keeps what it promised', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Mud Line', 'Advice', 'lock');
  const before = await abyssal.value('kickLock');
  expect(before).toBeLessThan(-1);
  await abyssal.fitted();
  const best = proposals(abyssal).first();
  await expect(best).toContainText(
    /Tune the kick up \d+ ct to G1 and give each note pitch its own start phase/,
  );
  const promised = Number(/every hit adds (\d+\.\d) dB or more/.exec(await best.innerText())![1]);

  await best.getByRole('button', { name: /^Show on the overlay/ }).click();
  await expect(page.getByRole('img', { name: /and the sum after the change/ })).toBeVisible();
  await best.getByRole('button', { name: /^Hear it/ }).click();
  await expect(best).toContainText('You hear it before');
  await expect(best).toContainText('You hear it after', { timeout: 15_000 });
  await best.getByRole('button', { name: /^Hear it/ }).click();
  await expect(best).not.toContainText('You hear it');

  await best.getByRole('button', { name: /^Apply/ }).click();
  await abyssal.measured();
  expect(Math.abs((await abyssal.value('kickLock')) - promised)).toBeLessThan(0.2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await abyssal.measured();
  expect(await abyssal.value('kickLock')).toBeCloseTo(before, 1);
});

test('the bearing is turned by keys, a pitch by its own number, the polarity by a press', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Mud Line', 'Bearing', 'lock');
  const bearing = abyssal.slider('Bearing of the bass');
  await expect(bearing).toHaveAttribute('aria-valuetext', /the best bearing is/);
  await bearing.press('PageUp');
  await bearing.press('ArrowRight');
  await abyssal.saved();
  expect((await abyssal.kept(id)).lock.turnDeg).toBe(99 + 16);
  await abyssal.roses();
  await abyssal.choose('Below', 'note by note');
  await expect(page.getByRole('table', { name: 'Notes under the kick' }).getByRole('row')).toHaveCount(17);
  await abyssal.type('Turn of F1', '-40');
  await page.getByRole('button', { name: 'Best for G1' }).click();
  await page.getByRole('button', { name: 'Polarity' }).click();
  await abyssal.saved();
  const { lock } = await abyssal.kept(id);
  expect(lock.turns[0]).toEqual({ pitch: 29, turnDeg: -40 });
  expect(lock.turns[1].pitch).toBe(31);
  expect(lock.invert).toBe(true);
  await page.getByRole('button', { name: 'Reset' }).click();
  await abyssal.saved();
  expect((await abyssal.kept(id)).lock).toMatchObject({ turnDeg: 0, turns: [], invert: false });
});

test('an offer waits while the sound is another than it was found for, and takes nothing back', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Mud Line', 'Offered', 'lock');
  const polarity = page.getByRole('button', { name: 'Polarity' });
  await expect(polarity).toBeEnabled({ timeout: 20_000 });
  // A name is nothing that is heard.
  await page.getByRole('textbox', { name: 'Name of the sound' }).fill('Offered again');
  await page.getByRole('textbox', { name: 'Name of the sound' }).press('Enter');
  await expect(polarity).toBeEnabled();
  await abyssal.choose('Below', 'note by note');
  const enabled = await page.evaluate(() => {
    const field = document.querySelector<HTMLInputElement>('[aria-label="Turn of F1, value"]')!;
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(field, '-40');
    field.dispatchEvent(new Event('input', { bubbles: true }));
    return new Promise<boolean>((resolve) => {
      setTimeout(() => {
        field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
        setTimeout(() => {
          const button = [...document.querySelectorAll('button')].find(({ textContent }) =>
            textContent?.startsWith('Polarity'),
          );
          resolve(!button!.disabled);
        });
      });
    });
  });
  expect(enabled).toBe(false);
  await polarity.click();
  await abyssal.saved();
  const kept = await abyssal.kept(id);
  expect(kept.name).toBe('Offered again');
  expect(kept.lock).toMatchObject({ turns: [{ pitch: 29, turnDeg: -40 }], invert: true });
});

test('hard ducking and one oscillator for both are answers: the lock holds, and says why', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Mud Line', 'Apart', 'lock');
  await abyssal.choose('Below', 'ducking');
  await page.getByRole('switch', { name: 'Duck the bass' }).click();
  await abyssal.choose('Ducking acts on', 'hard');
  await abyssal.measured();
  await expect(abyssal.figure('kickLock')).toContainText('kept apart');
  await expect(abyssal.figure('kickLock')).toContainText('holds');
  await page.getByRole('switch', { name: 'Duck the bass' }).click();
  await abyssal.station('Ground');
  await abyssal.choose('Oscillator', 'one for both');
  await abyssal.measured();
  await expect(abyssal.figure('kickLock')).toContainText('one oscillator for both');
  await expect(abyssal.figure('kickLock')).toContainText('holds');
  await abyssal.station('Lock');
  await expect(page.getByText('Kick and bass are one wave: there is nothing to cancel.')).toBeVisible({
    timeout: 20_000,
  });
  await expect(page.getByText('there is nothing to nudge')).toBeVisible();
});

test('the kick is designed: its tail tuned, a drop by phase that turns back marked, beats from a start, swung', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Mud Line', 'Designed', 'ground');
  await page.getByRole('button', { name: 'Tune to the root' }).click();
  await abyssal.measured();
  await expect(page.getByRole('region', { name: 'Kick figures' })).toContainText('G1');
  await expect(page.getByRole('button', { name: 'Tune to the root' })).toHaveCount(0);
  await abyssal.choose('Drop goes', 'by phase');
  await abyssal.type('Kick Drop cycles', '-4');
  await expect(page.getByText('The wave turns back on itself where it is marked')).toBeVisible();
  await abyssal.type('Kick Drop cycles', '8');
  await expect(page.getByText('The wave turns back on itself where it is marked')).toHaveCount(0);
  await abyssal.choose('Part of the kick', 'click');
  await abyssal.choose('Click is', 'on the phase');
  await page.getByRole('button', { name: 'broken' }).click();
  await abyssal.type('Kick Swing', '60');
  await abyssal.saved();
  const { kick } = await abyssal.kept(id);
  expect(Math.abs(1200 * Math.log2(kick.made.tailHz / 48.999))).toBeLessThan(8);
  expect(kick.made).toMatchObject({ dropBy: 'phase', dropCycles: 8, click: 'phase' });
  expect(kick.hits.map(({ tick }: { tick: number }) => tick)).toEqual([0, 1200, 1920, 3120]);
  expect(kick.swingPct).toBe(60);
});

test('a kick from a WAV is trimmed at zero crossings, tuned, kept and fetched into another sound with that sound’s beats', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Mud Line', 'From WAV', 'ground');
  await page.getByLabel('Kick WAV').setInputFiles(wavFile('hull.wav', kickWav(46.2)));
  await expect(page.getByText('hull.wav')).toBeVisible();
  await abyssal.measured();
  await page.getByRole('button', { name: 'Tune to the root' }).click();
  const to = abyssal.slider('Trim to');
  await to.press('PageDown');
  await abyssal.saved();
  const { kick } = await abyssal.kept(id);
  expect(kick.wav.retuneSt).toBeCloseTo(12 * Math.log2(48.999 / 46.2), 0);
  expect(kick.wav.endMs).toBeLessThan(485);
  expect(kick.wav.endMs).toBeGreaterThan(465);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('hull is kept in the library.')).toBeVisible();

  const other = await abyssal.openCopyOf('Trench Growl', 'Other', 'ground');
  await page.getByRole('button', { name: 'Load…' }).first().click();
  await page.getByRole('dialog').getByRole('button', { name: /^hull/ }).first().click();
  await expect(page.getByText('hull.wav')).toBeVisible();
  await abyssal.saved();
  const fetched = (await abyssal.kept(other)).kick;
  expect(fetched.wav).toEqual(kick.wav);
  expect(fetched.hits).toHaveLength(4);
});

test('a backing part is heard, measured and followed by the ducking; removed it leaves nothing behind', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Mud Line', 'Backing', 'ground');
  await abyssal.choose('Third panel', 'Backing parts');
  await expect(page.getByText('No backing parts yet')).toBeVisible();
  const chords = Float32Array.from(
    { length: 90000 },
    (_, i) => 0.3 * Math.sin((2 * Math.PI * 392 * i) / 48000),
  );
  await page.getByLabel('Backing WAV').setInputFiles(wavFile('haze.wav', chords));
  await expect(page.getByText('1 bar at 128.0 bpm')).toBeVisible();
  await abyssal.measured();
  await expect(page.getByText(/Together −\d+\.\d LUFS; they mask \d+ %/)).toBeVisible();
  await expect(page.getByRole('region', { name: 'Depth chart' }).getByText('parts')).toBeVisible();
  await page.getByRole('combobox', { name: 'haze starts at' }).selectOption('1.3');
  await abyssal.station('Lock');
  await abyssal.choose('Below', 'ducking');
  await page.getByRole('switch', { name: 'Duck the bass' }).click();
  await abyssal.choose('Ducking goes by', 'its level');
  await page.getByRole('combobox', { name: 'Ducking follows' }).selectOption('haze');
  await abyssal.saved();
  let sound = await abyssal.kept(id);
  expect(sound.backing[0]).toMatchObject({ name: 'haze', startTick: 960, on: true });
  expect(sound.duck).toMatchObject({ on: true, by: 'level', from: sound.backing[0].id });
  // A WAV that cannot be read is refused in words, and what there was stays.
  await abyssal.station('Ground');
  await abyssal.choose('Third panel', 'Backing parts');
  await page
    .getByLabel('Backing WAV')
    .setInputFiles({ name: 'bad.wav', mimeType: 'audio/wav', buffer: Buffer.from('no sound at all') });
  await expect(page.getByRole('alert').filter({ hasText: /WAV/ })).toBeVisible();
  await page.getByRole('button', { name: 'Remove haze' }).click();
  await abyssal.saved();
  sound = await abyssal.kept(id);
  expect(sound.backing).toEqual([]);
  expect(sound.duck.from).toBe('kick');
});

test('the overlay is zoomed and panned by keys, wheel and drag, starts at the kick where that is asked, and shows cycles', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Mud Line', 'Overlay', 'lock');
  const overlay = page.getByRole('group', { name: /ms from .* ms; arrows move/ });
  await expect(overlay).toHaveAccessibleName(/^360 ms from 0 ms/);
  await page.getByRole('button', { name: 'Zoom in' }).click();
  await expect(overlay).toHaveAccessibleName(/^257 ms from 51 ms/);
  await overlay.press('ArrowRight');
  await expect(overlay).toHaveAccessibleName(/^257 ms from 77 ms/);
  await overlay.press('-');
  await expect(overlay).toHaveAccessibleName(/^360 ms from 26 ms/);
  await overlay.press('Home');
  await expect(overlay).toHaveAccessibleName(/^360 ms from 0 ms/);
  await overlay.hover();
  await page.mouse.wheel(0, -120);
  await expect(overlay).toHaveAccessibleName(/^300 ms/);
  const box = (await overlay.boundingBox())!;
  await page.mouse.move(box.x + 0.6 * box.width, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + 0.3 * box.width, box.y + 20, { steps: 5 });
  await page.mouse.up();
  await expect(overlay).toHaveAccessibleName(/^300 ms from 12\d ms/);
  await page.getByRole('button', { name: 'from the kick' }).click();
  await expect(page.getByRole('button', { name: 'from the kick' })).toHaveAttribute('aria-pressed', 'true');
  await expect(overlay).toHaveAccessibleName(/^360 ms from 0 ms/);
  await page.getByRole('button', { name: 'cycles' }).click();
  await page.getByRole('button', { name: 'Next hit' }).click();
  await expect(
    page.getByRole('img', { name: /Kick, bass and their sum below 120 Hz over note/ }),
  ).toBeVisible();
  await abyssal.type('Compare below', '90');
  await abyssal.measured();
  await expect(
    page.getByRole('img', { name: /Kick, bass and their sum below 90 Hz over note/ }),
  ).toBeVisible();
});

test('every note of the line that meets the kick says how, there and at Lock, and what cannot lock is named', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Trench Growl', 'Line', 'line');
  await expect(
    page.getByRole('button', { name: /^F1 at 1\.1,.*sum gain with the kick [-−]?\d+\.\d dB/ }),
  ).toHaveCount(1);
  await expect(page.getByRole('button', { name: /sum gain with the kick/ })).toHaveCount(2);
  await expect(page.getByRole('button', { name: /beats against the kick/ })).toHaveCount(2);
  await abyssal.station('Lock');
  await abyssal.fitted();
  await expect(
    page.getByText(
      /^Your kick ends on F1.*; the line plays G♯1\. They beat 8\.\d times a second at 2 of 4 hits and never lock\.$/,
    ),
  ).toBeVisible();
  await expect(
    proposals(abyssal)
      .filter({ hasText: /^.*Duck the lows of the bass by \d+ dB/ })
      .first(),
  ).toContainText('kept apart at every hit');
  // Each change says what it gives before it is done.
  const polarity = page.getByRole('button', { name: /^Polarity: [+−]\d+\.\d dB/ });
  const promised = Number(/([+−]\d+\.\d) dB/.exec(await polarity.innerText())![1].replace('−', '-'));
  await polarity.click();
  await abyssal.measured();
  expect(Math.abs((await abyssal.value('kickLock')) - promised)).toBeLessThan(0.2);
});

test('a kick of another key is dropped into a new sound: the first advice is heard and applied, every hit adds, and one undo takes it back', async ({
  abyssal,
  page,
}) => {
  await abyssal.openLibrary();
  await page.getByRole('button', { name: 'New sound', exact: true }).click();
  await abyssal.station('Lock');
  await abyssal.measured();
  // A new sound locks from the start.
  await expect(abyssal.figure('kickLock')).toContainText('holds');
  await abyssal.station('Ground');
  await drop(
    page,
    page.getByRole('region', { name: 'Kick', exact: true }),
    'own tail.wav',
    writeWav([kickWav(58.9)], 48000, '24'),
  );
  await expect(page.getByText('own tail.wav')).toBeVisible();
  await abyssal.measured();
  await expect(abyssal.figure('kickLock')).toContainText(/they beat 15 times a second/);
  await expect(abyssal.figure('kickLock')).toContainText('watch');
  await abyssal.station('Lock');
  await abyssal.fitted();
  await expect(
    page.getByText(
      /^Your kick ends on A♯1 \+\d\d ct; the line plays F1\. They beat 15 times a second and never lock\.$/,
    ),
  ).toBeVisible();
  const first = proposals(abyssal).first();
  await expect(first).toContainText(/Tune the kick down 5\.\d semitones to F1/);
  const promised = Number(/every hit adds (\d+\.\d) dB or more/.exec(await first.innerText())![1]);
  await first.getByRole('button', { name: /^Hear it/ }).click();
  await expect(first).toContainText('You hear it before');
  await expect(first).toContainText('You hear it after', { timeout: 15_000 });
  await first.getByRole('button', { name: /^Apply/ }).click();
  await abyssal.measured();
  const value = await abyssal.value('kickLock');
  expect(value).toBeGreaterThanOrEqual(promised - 0.01);
  expect(value).toBeLessThan(promised + 0.2);
  await expect(abyssal.figure('kickLock')).toContainText('holds');
  await abyssal.choose('Below', 'note by note');
  const rows = page.getByRole('table', { name: 'Notes under the kick' }).getByRole('row');
  await expect(rows).toHaveCount(9);
  for (const text of await rows.allInnerTexts())
    if (!text.startsWith('note')) expect(text).toMatch(/\+\d\.\d dB/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await abyssal.measured();
  await expect(abyssal.figure('kickLock')).toContainText(/they beat 15 times a second/);
});

test('a held note opens to its hits, each is looked at, and its phase restarts with the kick where the layer is set so', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Bilge Drone', 'Held', 'ground');
  await abyssal.type('Kick Tail', 'C1');
  await abyssal.station('Lock');
  await abyssal.roses();
  await abyssal.choose('Below', 'note by note');
  const table = page.getByRole('table', { name: 'Notes under the kick' });
  await expect(table.getByRole('row')).toHaveCount(3);
  await page.getByRole('button', { name: 'The 4 hits of C1 at 1.1' }).click();
  await expect(table.getByRole('row')).toHaveCount(7);
  await page.getByRole('button', { name: 'Look at hit 1.3 of C1' }).click();
  const stands = page.getByRole('region', { name: 'Where it stands' });
  await expect(stands).toContainText('hit 3 of 4');
  const spread = async () =>
    Number(/is held over 4 hits: its phase differs by up to (\d+)°/.exec(await stands.innerText())![1]);
  expect(await spread()).toBeGreaterThan(60);
  await expect(page.getByRole('region', { name: 'Overlay' })).toContainText('C1, hit 1.3 (3 of 4)');
  await page.getByRole('button', { name: 'Next hit' }).click();
  await expect(stands).toContainText('hit 4 of 4');

  await abyssal.station('Layers');
  await page.getByRole('tab', { name: /Sub/ }).click();
  await abyssal.panel('Voice');
  await abyssal.choose('Phase restarts', 'with the note and the kick');
  await abyssal.saved();
  expect(
    (await abyssal.kept(id)).layers.map(({ voice }: { voice: { restart: string } }) => voice.restart),
  ).toEqual(['note and kick', 'note', 'note', 'note', 'note']);
  await abyssal.station('Lock');
  await abyssal.roses();
  expect(await spread()).toBeLessThan(8);
  await page.getByRole('button', { name: 'Undo' }).click();
  await abyssal.roses();
  expect(await spread()).toBeGreaterThan(60);
});

test('another sound of the library is a backing part: rendered at this tempo, and anew when the tempo has changed', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Mud Line', 'Over another', 'ground');
  await abyssal.choose('Third panel', 'Backing parts');
  await page.getByRole('button', { name: 'Add a sound…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Another sound as a backing part' });
  await dialog.getByRole('searchbox', { name: 'Search sounds' }).fill('no such sound');
  await expect(dialog.getByText('No other sound has “no such sound”')).toBeVisible();
  await dialog.getByRole('searchbox', { name: 'Search sounds' }).fill('Sluice');
  await dialog.getByRole('button', { name: /^Sluice Talker 140 bpm/ }).click();
  await expect(dialog).toBeHidden({ timeout: 20_000 });
  // It was made for 140 bpm, and is rendered at the 128 of this one.
  await expect(page.getByText('2 bars at 128.0 bpm')).toBeVisible();
  await abyssal.measured();
  await expect(page.getByText(/Together −\d+\.\d LUFS; they mask \d+ %/)).toBeVisible();
  await abyssal.saved();
  const [first] = (await abyssal.kept(id)).backing;
  expect(first).toMatchObject({ name: 'Sluice Talker', startTick: 0, gainDb: 0 });
  expect(first.sound).toMatch(/^[0-9a-f-]{36}$/);

  await page
    .getByRole('region', { name: 'Ground' })
    .getByRole('textbox', { name: 'Tempo, value' })
    .fill('140');
  await page.keyboard.press('Enter');
  await expect(page.getByText('◐ 2 bars at 128.0 bpm')).toBeVisible();
  await page.getByRole('button', { name: 'Render Sluice Talker again' }).click();
  await expect(page.getByText('2 bars at 140.0 bpm')).toBeVisible({ timeout: 20_000 });
  await abyssal.saved();
  const [second] = (await abyssal.kept(id)).backing;
  expect(second.sound).toBe(first.sound);
  expect(second.asset).not.toBe(first.asset);
  await page.getByRole('button', { name: 'Render Sluice Talker again' }).click();
  await expect(page.getByText('Sluice Talker is up to date')).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('◐ 2 bars at 128.0 bpm')).toBeVisible();

  // A sound that has gone leaves what was rendered of it.
  const copy = await abyssal.openCopyOf('Keel Pluck', 'Soon gone', 'ground');
  await page.goto(`/sounds/${id}/ground`);
  await abyssal.choose('Third panel', 'Backing parts');
  await page.getByRole('button', { name: 'Add a sound…' }).click();
  await dialog.getByRole('button', { name: /^Soon gone/ }).click();
  await expect(page.getByRole('button', { name: 'Render Soon gone again' })).toBeVisible({ timeout: 20_000 });
  await page.request.delete(`/api/sounds/${copy}`);
  await page.getByRole('button', { name: 'Render Soon gone again' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'no longer in the library' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Remove Soon gone' })).toBeVisible();
});

test('a click that the ducking makes is told with its time, and goes with a slower fall', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Slack Water', 'Clicking', 'lock');
  const { document, version } = (await (await page.request.get(`/api/sounds/${id}`)).json()) as {
    document: { lock: { turnDeg: number }; kick: { hits: object[] }; line: { notes: object[] } };
    version: number;
  };
  // One note held over the loop, and a hit in the middle of it.
  document.line.notes = [{ ...document.line.notes[0], tick: 0, ticks: 7680, pitch: 38, tie: false }];
  document.kick.hits = [{ tick: 3840, velocity: 127 }];
  // So that the bass stands away from zero as the hit falls.
  document.lock.turnDeg = 120;
  expect(
    (
      await page.request.put(`/api/sounds/${id}`, {
        data: { document },
        headers: { 'If-Match': `"${version}"` },
      })
    ).status(),
  ).toBe(200);
  await page.reload();
  await abyssal.measured();
  await abyssal.choose('Below', 'ducking');
  await expect(page.getByRole('switch', { name: 'Duck the bass' })).toBeChecked();
  await abyssal.type('Duck Amount', '50');
  await abyssal.type('Duck Attack', '0.5');
  // The hit falls on bar 3 of 4: at 140 bpm 3.43 s.
  await expect(page.getByText(/heard in the bass, the first at 3\.4\d s/)).toBeVisible({ timeout: 20_000 });
  await abyssal.type('Duck Attack', '20');
  await expect(page.getByText(/heard in the bass/)).toBeHidden({ timeout: 20_000 });
});

import { fundamental, noteToHz } from '@abyssal/core';
import { expect, test } from './abyssal';

const cents = (found: number, wanted: number) => 1200 * Math.log2(found / wanted);

test.describe('parameters', () => {
  test('are typed with units, and refused with a sentence that leaves the value alone', async ({
    abyssal,
    page,
  }) => {
    await abyssal.openCopyOf('Trench Growl', 'Typed');
    const field = page.getByRole('textbox', { name: 'Body Cutoff, value' });
    await abyssal.type('Body Cutoff', 'G#4');
    await expect(field).toHaveValue('415 Hz');
    await abyssal.type('Body Cutoff', '90000');
    await expect(field).toHaveValue('20 kHz');
    await field.fill('loud');
    await field.press('Enter');
    await expect(
      page.getByText('Cutoff takes a frequency such as 420, 1.2k or G#4, from 20 Hz to 20 kHz'),
    ).toBeVisible();
    await field.press('Escape');
    await expect(field).toHaveValue('20 kHz');
    await abyssal.type('Body Level', '-3dB');
    await expect(page.getByRole('textbox', { name: 'Body Level, value' })).toHaveValue('−3.0 dB');
  });

  test('move by drag, by keys, by wheel, and go home by double click', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Trench Growl', 'Moved');
    await abyssal.panel('Voice');
    const slider = abyssal.slider('Body Velocity to level');
    const text = () => slider.getAttribute('aria-valuetext');
    await slider.scrollIntoViewIfNeeded();
    const box = (await slider.boundingBox())!;
    await page.mouse.move(box.x + box.width * 0.2, box.y + 10);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.8, box.y + 10, { steps: 8 });
    await page.mouse.up();
    expect(Number.parseInt((await text())!, 10)).toBeGreaterThan(70);
    await slider.press('ArrowLeft');
    const after = await text();
    await slider.press('Shift+ArrowLeft');
    expect(await text()).not.toBe(after);
    await slider.hover();
    await page.mouse.wheel(0, -100);
    await expect(slider).toHaveAttribute(
      'aria-valuetext',
      after!.replace(/\d+/, (n) => String(Number(n) + 1)),
    );
    await slider.dblclick();
    await expect(slider).toHaveAttribute('aria-valuetext', '35 %');
    await slider.press('End');
    await expect(slider).toHaveAttribute('aria-valuetext', '100 %');
  });

  test('undo takes a whole drag back in one step, and redo does it again', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Trench Growl', 'Undone');
    await abyssal.panel('Voice');
    const slider = abyssal.slider('Body Glide');
    const before = await slider.getAttribute('aria-valuetext');
    const box = (await slider.boundingBox())!;
    await page.mouse.move(box.x + 5, box.y + 10);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.7, box.y + 10, { steps: 12 });
    await page.mouse.up();
    const moved = await slider.getAttribute('aria-valuetext');
    expect(moved).not.toBe(before);
    await page.keyboard.press('Control+z');
    await expect(slider).toHaveAttribute('aria-valuetext', before!);
    await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
    await page.keyboard.press('Control+Shift+z');
    await expect(slider).toHaveAttribute('aria-valuetext', moved!);
  });

  test('a cutoff and the clean path are moved on the depth chart', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Trench Growl', 'Dragged');
    const cutoff = abyssal.slider('Body cutoff');
    await cutoff.press('ArrowUp');
    await expect(page.getByRole('textbox', { name: 'Body Cutoff, value' })).toHaveValue('154 Hz');
    await abyssal.station('Grit');
    const clean = page
      .getByRole('region', { name: 'Depth chart' })
      .getByRole('slider', { name: 'Clean path below' });
    const box = (await clean.boundingBox())!;
    await page.mouse.move(box.x + 60, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + 60, box.y + box.height / 2 - 40, { steps: 6 });
    await page.mouse.up();
    expect(
      Number.parseInt(await page.getByRole('textbox', { name: 'Clean path below, value' }).inputValue(), 10),
    ).toBeGreaterThan(100);
  });
});

test.describe('the line', () => {
  test('is drawn, moved, lengthened and deleted by hand', async ({ abyssal, page }) => {
    const id = await abyssal.openCopyOf('Trench Growl', 'Drawn', 'line');
    const notes = page.locator('[data-note]');
    await expect(notes).toHaveCount(7);
    const grid = (await page.getByRole('button', { name: 'Add a note at the root' }).boundingBox())!;
    // An empty place: the beat 1.4, second row from the top.
    const x = grid.x + grid.width * (3 / 8) + 6;
    const y = grid.y + 30;
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + (grid.width / 32) * 3, y, { steps: 6 });
    await page.mouse.up();
    await expect(notes).toHaveCount(8);
    const drawn = page.locator('[data-note="7"]');
    await expect(drawn).toHaveAttribute('aria-label', /^A♯2 at 1\.4, 0\.75 beats, velocity 100/);
    await page.mouse.move(x + 10, y);
    await page.mouse.down();
    await page.mouse.move(x + 10 + grid.width / 8, y + 24, { steps: 6 });
    await page.mouse.up();
    await expect(drawn).toHaveAttribute('aria-label', /^G♯2 at 2\.1/);
    await page
      .getByRole('region', { name: 'Note', exact: true })
      .getByRole('button', { name: 'Delete' })
      .click();
    await expect(notes).toHaveCount(7);
    await page.keyboard.press('Control+z');
    await expect(notes).toHaveCount(8);
    await abyssal.saved();
    expect((await abyssal.kept(id)).line.notes).toHaveLength(8);
  });

  test('is edited by keyboard alone', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Trench Growl', 'Keyed', 'line');
    const note = page.locator('[data-note="0"]');
    await note.focus();
    const label = async (wanted: RegExp) => {
      await expect(note).toHaveAttribute('aria-label', wanted);
    };
    await label(/^F1 at 1\.1, 1\.50 beats, velocity 100(, sum gain.*)?$/);
    await note.press('ArrowUp');
    await label(/^G1 /);
    await note.press('Shift+ArrowUp');
    await label(/^G2 /);
    await note.press('ArrowRight');
    await label(/at 1\.1 and 0\.25 beats/);
    await note.press('Shift+ArrowLeft');
    await label(/1\.25 beats/);
    await note.press('+');
    await label(/velocity 104/);
    await note.press('q');
    await label(/accent/);
    await note.press('t');
    await label(/tied/);
    await note.press('Delete');
    await expect(page.locator('[data-note]')).toHaveCount(6);
    await page.getByRole('button', { name: 'Add a note at the root' }).press('Enter');
    await expect(page.locator('[data-note]')).toHaveCount(7);
  });

  test('goes out as MIDI and comes back in', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Slack Water', 'To MIDI', 'line');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'MIDI out' }).click();
    const file = await download;
    expect(file.suggestedFilename()).toBe('to-midi.mid');
    const path = await file.path();
    await abyssal.openCopyOf('Trench Growl', 'From MIDI', 'line');
    await page.getByLabel('MIDI file').setInputFiles({
      name: 'slack.mid',
      mimeType: 'audio/midi',
      buffer: (await import('node:fs')).readFileSync(path),
    });
    await expect(page.getByText('Imported 7 notes from slack.mid')).toBeVisible();
    await expect(page.locator('[data-note]').first()).toHaveAttribute('aria-label', /^D1 at 1\.1/);
    await page.keyboard.press('Control+z');
    await expect(page.locator('[data-note]').first()).toHaveAttribute('aria-label', /^F1 at 1\.1/);
  });
});

test.describe('motion', () => {
  test('a wobble is drawn by hand and its links are set', async ({ abyssal, page }) => {
    const id = await abyssal.openCopyOf('Trench Growl', 'Waved', 'motion');
    const second = abyssal.slider('Wobble 1 node 2');
    await second.focus();
    const before = await second.getAttribute('aria-valuetext');
    await second.press('ArrowDown');
    await expect(second).not.toHaveAttribute('aria-valuetext', before!);
    await second.press('Enter');
    await expect(page.getByRole('group', { name: 'Wobble 1: one cycle, 5 nodes' })).toBeVisible();
    await abyssal.slider('Wobble 1 node 3').press('Delete');
    await abyssal.slider('Wobble 1 bend 1').press('ArrowUp');
    await page.getByRole('button', { name: '1/8T', exact: true }).click();
    await expect(page.getByRole('textbox', { name: 'Wobble 1 Rate, value' })).toHaveValue('1/8T');
    await page.getByRole('button', { name: 'Link…' }).click();
    await page.getByRole('combobox', { name: 'What it moves' }).fill('Sub · lev');
    await page.getByRole('option', { name: 'Sub · level' }).click();
    await page.getByRole('textbox', { name: 'Reach on Sub · level' }).fill('-28.8 dB');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Remove the link to Body · filter 1 · drive' }).click();
    await abyssal.saved();
    const { movers, links } = await abyssal.kept(id);
    expect(movers[0].rateBeats).toBeCloseTo(1 / 3, 6);
    expect(movers[0].nodes).toHaveLength(4);
    expect(
      links.map(({ target, reachPct }: { target: string; reachPct: number }) => [target, reachPct]),
    ).toEqual(expect.arrayContaining([['layers.sub.levelDb', -40]]));
    expect(
      links.some(
        ({ mover, target }: { mover: string; target: string }) =>
          mover === 'wobble-1' && target === 'layers.body.filters.0.driveDb',
      ),
    ).toBe(false);
    // The parameter's own row says that it is linked, and leads back here.
    await abyssal.station('Layers');
    await page.getByRole('tab', { name: 'Sub' }).click();
    await page.getByRole('button', { name: /^1 link of .*Level$/ }).click();
    await page.getByRole('menuitem', { name: /^Wobble 1/ }).click();
    await expect(page.getByRole('region', { name: 'What it moves' })).toContainText('Sub · level');
  });
});

test.describe('lock', () => {
  test('the bass is turned on the rose, by drag and by keys', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Trench Growl', 'Turned', 'lock');
    for (let i = 0; i < 4 && (await abyssal.slider('Bearing of the bass').count()) === 0; i++)
      await page.getByRole('button', { name: 'Next hit' }).click();
    const rose = abyssal.slider('Bearing of the bass');
    const bearing = async () => Number(await rose.getAttribute('aria-valuenow'));
    const before = await bearing();
    await rose.press('ArrowRight');
    expect(Math.abs((await bearing()) - before - 1)).toBeLessThanOrEqual(1);
    await rose.press('PageUp');
    await expect(page.getByRole('textbox', { name: 'Turn, value', exact: true })).toHaveValue('156°');
    await abyssal.measured();
    // What was said to come is what is measured.
    expect(Math.abs((await bearing()) - before - 16)).toBeLessThan(8);
    await abyssal.roses();
    const line = page.getByRole('button', { name: /^Best for the line/ });
    const promised = Number(/: ([+−][\d.]+) dB/.exec(await line.innerText())![1].replace('−', '-'));
    await line.click();
    await abyssal.measured();
    expect(Math.abs((await abyssal.value('kickLock')) - promised)).toBeLessThan(0.3);
    await abyssal.roses();
    // A drag from where it stands a quarter round to the right turns it by a quarter.
    const turnBefore = Number(
      (await page.getByRole('textbox', { name: 'Turn, value', exact: true }).inputValue())
        .replace('−', '-')
        .replace('°', ''),
    );
    const chart = (await page
      .getByRole('group', { name: /^Sum gain over the phase bearing/ })
      .boundingBox())!;
    const centre = { x: chart.x + chart.width / 2, y: chart.y + chart.height / 2 };
    const at = ((await bearing()) * Math.PI) / 180;
    const radius = (112 / 292) * chart.width;
    await page.mouse.move(centre.x + radius * Math.sin(at), centre.y - radius * Math.cos(at));
    await page.mouse.down();
    for (let step = 1; step <= 6; step++) {
      await page.mouse.move(
        centre.x + radius * Math.sin(at + (step * Math.PI) / 12),
        centre.y - radius * Math.cos(at + (step * Math.PI) / 12),
      );
      // Held still it is measured on the way, and the drag goes on.
      if (step === 3) await abyssal.measured();
    }
    await page.mouse.up();
    const turnAfter = Number(
      (await page.getByRole('textbox', { name: 'Turn, value', exact: true }).inputValue())
        .replace('−', '-')
        .replace('°', ''),
    );
    expect(Math.abs(((turnAfter - turnBefore - 90 + 540) % 360) - 180)).toBeLessThan(4);
    await page.getByRole('button', { name: 'Reset' }).click();
    await expect(page.getByRole('textbox', { name: 'Turn, value', exact: true })).toHaveValue('0°');
    await abyssal.measured();
    await page.getByRole('button', { name: /^Nudge: / }).click();
    await expect(page.getByRole('textbox', { name: 'Nudge, value', exact: true })).not.toHaveValue('0 ms');
    await abyssal.choose('Below', 'ducking');
    await page.getByRole('switch', { name: 'Duck the bass' }).click();
    await abyssal.type('Duck Amount', '12');
    await abyssal.measured();
  });
});

test.describe('playing live', () => {
  test('the computer keyboard and the simulated controller play in tune', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Slack Water', 'Live', 'line');
    // Body off and no clip, so that what sounds is the sub.
    await page.getByRole('button', { name: 'Bass', exact: true }).click();
    const found = async () => {
      const { left, rate } = await abyssal.heard(0.5);
      return fundamental(left, rate).value!;
    };
    await page.locator('main').click({ position: { x: 5, y: 5 } });
    await page.keyboard.down('z');
    await page.waitForTimeout(900);
    expect(Math.abs(cents(await found(), noteToHz(26)))).toBeLessThan(10);
    await page.keyboard.up('z');
    const pad = page
      .getByRole('group', { name: 'Simulated controller' })
      .getByRole('button', { name: /^Pad A1/ });
    const box = (await pad.boundingBox())!;
    await page.waitForTimeout(300);
    await page.mouse.move(box.x + 5, box.y + 5);
    await page.mouse.down();
    await page.waitForTimeout(900);
    expect(Math.abs(cents(await found(), noteToHz(33)))).toBeLessThan(10);
    await page.mouse.up();
    await page.waitForTimeout(800);
    const { left } = await abyssal.heard(0.1);
    expect(left.reduce((most, x) => Math.max(most, Math.abs(x)), 0)).toBeLessThan(1e-3);
  });

  test('space plays and stops; mono and solo are heard', async ({ abyssal, page }) => {
    await abyssal.openCopyOf('Slack Water', 'Space');
    await page.locator('main').click({ position: { x: 5, y: 5 } });
    await page.keyboard.press('Space');
    await page.waitForTimeout(1500);
    const wide = await abyssal.heard(1);
    expect(wide.left.some((x, i) => Math.abs(x - wide.right[i]) > 1e-3)).toBe(true);
    await page.getByRole('button', { name: 'Mono' }).click();
    await page.waitForTimeout(800);
    const mono = await abyssal.heard(0.5);
    expect(mono.left.every((x, i) => x === mono.right[i])).toBe(true);
    await page.locator('main').click({ position: { x: 5, y: 5 } });
    await page.keyboard.press('Space');
    await page.waitForTimeout(800);
    expect((await abyssal.heard(0.05)).left.every((x) => Math.abs(x) < 1e-3)).toBe(true);
  });
});

import { readFile } from 'node:fs/promises';
import { expect, test } from './abyssal';

test('a sub alone is lost on the small phone, and harmonics carry it on the laptop', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Slack Water', 'Carried', 'sounding');
  const map = page.getByRole('table', { name: 'Heard on each system' });
  const cell = (name: string) => map.getByRole('button', { name, exact: true });
  await expect(cell('D1 on Small phone: lost')).toBeVisible();
  await expect(cell('D1 on Club stack: felt')).toBeVisible();
  // What is heard least is looked at first; keys go on from there.
  await expect(
    page.getByText(/^D1 on the small phone: lost\. The best of its first ten harmonics/),
  ).toBeVisible();
  await cell('D1 on Small phone: lost').press('ArrowUp');
  await expect(cell('D1 on Laptop: lost')).toBeFocused();
  await expect(page.getByText(/^D1 on the laptop: lost/)).toBeVisible();
  await cell('C2 on Club stack: felt').click();
  await expect(
    page.getByText(/^C2 on the club stack: felt\. Its fundamental has [\d.]+ dB to spare/),
  ).toBeVisible();
  await expect(page.getByRole('region', { name: 'Harmonics of a note' })).toContainText(
    'C2 on the club stack',
  );

  // The saw's harmonics are heard where its fundamental is not.
  await abyssal.station('Layers');
  await page.getByRole('region', { name: 'Layers', exact: true }).getByRole('tab').last().click();
  await abyssal.choose('Shape', 'saw');
  await abyssal.measured();
  await abyssal.station('Sounding');
  await expect(cell('D1 on Laptop: implied')).toBeVisible();
  await expect(page.getByRole('table', { name: 'Lost when summed to mono' }).getByRole('row')).toHaveCount(9);
});

test('an empty line has no notes to be heard, and says so', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Keel Pluck', 'Unheard', 'sounding', (document) => {
    document.line.notes = [];
  });
  await expect(page.getByText('The line is empty: draw a note at the Line station.')).toBeVisible();
});

test('which systems matter is set in Ground, one of the user’s own is kept, and the figure follows', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Slack Water', 'Matters', 'sounding');
  const figure = page.locator('[data-figure="heard"]');
  await expect(figure).toContainText('4 / 7');
  await expect(figure).toContainText('falls short');
  await abyssal.station('Ground');
  await page.getByRole('button', { name: 'Systems', exact: true }).click();
  for (const name of ['Small phone', 'Laptop', 'Kitchen radio'])
    await page.getByRole('switch', { name: `${name} matters` }).click();
  await expect(figure).toContainText('4 / 4');
  await expect(figure).toContainText('holds');

  // A system of one's own that has no lows, and no tops of note either.
  await page.getByRole('button', { name: 'Add a system' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Name of the system' }).fill('Hatch speaker');
  await dialog.getByRole('textbox', { name: 'Name of the system' }).press('Enter');
  for (const hz of ['31.5', '40', '50']) {
    const field = dialog.getByRole('textbox', { name: `Response at ${hz}, value`, exact: true });
    await field.fill('-60');
    await field.press('Enter');
  }
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(figure).toContainText('4 / 5');
  await expect(figure).toContainText('hatch speaker');
  await page.getByRole('button', { name: 'Keep Hatch speaker in the library' }).click();
  await expect(page.getByText('Hatch speaker is kept in the library.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove Hatch speaker' }).click();
  await expect(figure).toContainText('4 / 4');
  await page.getByRole('button', { name: 'From the library' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Hatch speaker/ })
    .first()
    .click();
  await expect(figure).toContainText('4 / 5');
  await abyssal.station('Sounding');
  await expect(page.getByRole('rowheader', { name: 'Hatch speaker' })).toBeVisible();
  await expect(page.getByRole('rowheader', { name: 'Small phone left out' })).toBeVisible();
});

test('the report has everything by what is worst, with targets that are edited there and kept as a set', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Slack Water', 'Reported', 'sounding');
  const report = page.getByRole('region', { name: 'Report' });
  const rows = report.locator('[data-report]');
  await expect(rows).toHaveCount(19);
  await expect(rows.first()).toContainText('Heard on systems');
  await expect(rows.first()).toContainText('a bare sub is lost on small ones');
  const row = report.locator('[data-report="subToBody"]');
  await expect(row).toContainText('watch');
  await row.getByRole('button').first().click();
  const most = row.getByRole('textbox', { name: 'Sub to body, most, value' });
  await most.fill('24');
  await most.press('Enter');
  await expect(row).toContainText('holds');
  await expect(row).toContainText('target 0 to +24');

  await report.getByRole('button', { name: 'Keep targets' }).click();
  await page.getByRole('dialog').getByRole('textbox', { name: 'Name' }).fill('Deep only');
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('“Deep only” is kept')).toBeVisible();
  await abyssal.openCopyOf('Slack Water', 'Held', 'sounding');
  await expect(row).toContainText('watch');
  await report.getByRole('button', { name: 'Fetch targets' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Deep only/ })
    .first()
    .click();
  await expect(row).toContainText('holds');
});

test('a sub alone is carried upward by the first that is offered: heard, looked at, applied, and undone', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Slack Water', 'To be carried', 'sounding', (document) => {
    // One bar is searched sooner.
    document.ground.bars = 1;
    document.line.notes = [{ ...document.line.notes[0], tick: 0, ticks: 1800 }];
    document.kick.hits = document.kick.hits.filter(({ tick }) => tick < 1920);
    document.lanes = [];
  });
  const map = page.getByRole('table', { name: 'Heard on each system' });
  const phone = (verdict: string) =>
    map.getByRole('button', { name: `D1 on Small phone: ${verdict}`, exact: true });
  await expect(phone('lost')).toBeVisible();
  const mends = page.getByRole('region', { name: 'What would mend it' });
  const first = mends.locator('[data-mend^="heard-"]').first();
  await expect(first).toContainText('Heard on systems 4 / 7 to 7 / 7');
  // Looked at, the map is as it would be.
  await first.hover();
  await expect(phone('implied')).toBeVisible();
  await first.getByRole('button', { name: 'Hear it' }).click();
  await expect(first.getByRole('button', { name: /^Stop \((before|after)\)$/ })).toBeVisible();
  await expect(first.getByRole('button', { name: 'Stop (after)' })).toBeVisible();
  await first.getByRole('button', { name: 'Apply' }).click();
  await page.mouse.move(0, 0);
  await abyssal.measured();
  await expect(phone('implied')).toBeVisible();
  await expect(page.locator('[data-figure="heard"]')).toContainText('7 / 7');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(phone('lost')).toBeVisible();

  await mends.getByRole('button', { name: 'Mend what falls short' }).click();
  await expect(page.getByText(/^Mended: /)).toBeVisible({ timeout: 90_000 });
  await expect(page.locator('[data-figure="heard"]')).toContainText('7 / 7');
});

test('what was measured is kept with the sound, and handed out as a page, as JSON, CSV, SVG and PNG', async ({
  abyssal,
  page,
}) => {
  const id = await abyssal.openCopyOf('Keel Pluck', 'Handed out', 'sounding');
  await expect(page.locator('[data-report]')).toHaveCount(19);
  await expect
    .poll(() => page.request.get(`/api/soundings/${id}`).then((answer) => answer.status()))
    .toBe(200);
  await page.goto(`/soundings/${id}`);
  await expect(page.getByRole('heading', { name: 'Handed out' })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Figures, the worst first' }).getByRole('row')).toHaveCount(
    19,
  );
  const saved = async (name: string) => {
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name }).click();
    const download = await waiting;
    const bytes = await readFile(await download.path());
    return { name: download.suggestedFilename(), bytes };
  };
  const json = await saved('JSON');
  expect(json.name).toMatch(/^handed-out.*\.json$/i);
  expect(JSON.parse(json.bytes.toString('utf8'))).toMatchObject({
    format: 'abyssal.sounding',
    name: 'Handed out',
  });
  expect((await saved('CSV')).bytes.toString('utf8')).toMatch(/^figure,value,unit,verdict,detail\n/);
  const svg = await saved('Save “Heard on each system, note by note” as SVG');
  expect(svg.bytes.toString('utf8')).toMatch(/^<svg [^>]*viewBox/);
  const png = await saved('Save “Lost when summed to mono” as PNG');
  expect([...png.bytes.subarray(0, 4)]).toEqual([0x89, 0x50, 0x4e, 0x47]);
  // Printed it is one page, without what is only for the screen.
  const pdf = await page.pdf({ format: 'A4' });
  expect(pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g)).toHaveLength(1);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
});

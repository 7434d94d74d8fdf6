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

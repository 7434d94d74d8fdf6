import { expect, test } from './abyssal';

test('keys work once a value is entered, and after a click with the mouse', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Trench Growl', 'Keys');
  const field = page.getByRole('textbox', { name: 'Body Cutoff, value', exact: true });
  await field.click();
  await field.fill('400');
  await field.press('Enter');
  await expect(field).toHaveValue('400 Hz');
  await page.keyboard.press('Control+z');
  await expect(field).toHaveValue('150 Hz');
  await page.keyboard.press('Control+y');
  await expect(field).toHaveValue('400 Hz');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  // While it is being typed in, keys are the field's.
  await field.click();
  await page.keyboard.type('G#4');
  await page.keyboard.press('Enter');
  await expect(field).toHaveValue('415 Hz');
  await page.getByRole('button', { name: 'ladder', exact: true }).click();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'ladder', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.keyboard.press('Space');
  await page.keyboard.press('5');
  await expect(page).toHaveURL(/\/line$/);
  await page.keyboard.press('2');
  await page.keyboard.press('BracketRight');
  await expect(page.getByRole('tab', { name: 'Sub' })).toHaveAttribute('aria-selected', 'true');
});

test('a value beyond its bounds is cut, and that is said; a group is entered at its chosen one', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Trench Growl', 'Cut');
  const tempo = page.getByRole('textbox', { name: 'Tempo, value', exact: true });
  await tempo.fill('9999 bpm');
  await tempo.press('Enter');
  await expect(page.getByText('Tempo goes from 40 bpm to 240 bpm; 9999 bpm became 240 bpm.')).toBeVisible();
  const slopes = page.getByRole('group', { name: 'Slope', exact: true }).getByRole('button');
  expect(await slopes.evaluateAll((all) => all.map((each) => (each as HTMLElement).tabIndex))).toEqual([
    -1, -1, -1, 0,
  ]);
  await slopes.nth(3).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(slopes.nth(2)).toBeFocused();
  await expect(slopes.nth(2)).toHaveAttribute('aria-pressed', 'true');
});

test('a sheet says what the station is for and which keys work there; help lines come with focus', async ({
  abyssal,
  page,
}) => {
  await abyssal.openCopyOf('Trench Growl', 'Sheet');
  await page.keyboard.press('?');
  const sheet = page.getByRole('dialog', { name: 'Layers' });
  await expect(sheet).toContainText('What the sound is made of');
  await expect(sheet).toContainText('play from the chosen note');
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
  await page.getByRole('textbox', { name: 'Body Cutoff, value', exact: true }).focus();
  await page.keyboard.press('Shift+Tab');
  await expect(page.getByRole('tooltip')).toContainText('Where the filter acts');
});

test('tags and author are set beside the name, and found by', async ({ abyssal, page }) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Tagged quarry');
  await page.getByRole('button', { name: /^Tags and author/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Tags and author' });
  await dialog.getByRole('combobox', { name: 'Tags' }).fill('basalt');
  await page.keyboard.press('Enter');
  await dialog.getByRole('combobox', { name: 'Author' }).fill('Quarrymen');
  await page.keyboard.press('Escape');
  await abyssal.saved();
  const kept = await abyssal.kept(id);
  expect(kept.tags).toContain('basalt');
  expect(kept.author).toBe('Quarrymen');
  await page.goto('/');
  await page.getByRole('searchbox', { name: 'Search sounds' }).fill('basalt quarrymen f minor');
  await expect(page.getByRole('link', { name: 'Tagged quarry' })).toBeVisible();
});

test('an edit of a tone that is off turns it on, and says so', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Trench Growl', 'Off tone');
  await abyssal.choose('Tone', '2 ·');
  await page.getByRole('group', { name: 'Kind of tone' }).getByRole('button', { name: 'FM' }).click();
  await expect(page.getByText('Tone 2 of Body was off; your edit has turned it on.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Tone 2 on' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Tone 2 on' })).toHaveAttribute('aria-pressed', 'false');
});

test('notes go along with another key where that is wanted, as one step', async ({ abyssal, page }) => {
  const id = await abyssal.openCopyOf('Trench Growl', 'Rekeyed', 'ground');
  await page.getByRole('combobox', { name: 'Key' }).selectOption('G');
  await page
    .getByRole('dialog', { name: 'G minor' })
    .getByRole('button', { name: 'Transpose by +2' })
    .click();
  await abyssal.saved();
  let kept = await abyssal.kept(id);
  expect(kept.ground.key).toBe('G');
  expect(kept.line.notes.map(({ pitch }: { pitch: number }) => pitch)).toEqual([31, 31, 34, 31, 33, 36, 31]);
  await page.getByRole('button', { name: 'Undo' }).click();
  await abyssal.saved();
  kept = await abyssal.kept(id);
  expect([kept.ground.key, kept.line.notes[0].pitch]).toEqual(['F', 29]);
});

test('where the browser gives no sound, play says so within two seconds', async ({ abyssal, page }) => {
  // A context that never runs, as where there is no device.
  await page.addInitScript(() => {
    const Made = AudioContext;
    globalThis.AudioContext = class extends Made {
      constructor(options?: AudioContextOptions) {
        super(options);
        void super.suspend();
      }

      override resume(): Promise<void> {
        return new Promise(() => undefined);
      }
    };
  });
  await abyssal.openCopyOf('Trench Growl', 'Mute browser');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByText(/^The browser is not playing any sound\./)).toBeVisible({ timeout: 2600 });
});

test('a layer is frozen, sounds as before, and thaws with an edit', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Trench Growl', 'Frozen');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  // A load that no test machine can be relied on for is put where the audio thread would put it.
  await page.evaluate(() => {
    setInterval(() => {
      (
        globalThis as never as { abyssal: { audio: { shared: { state: Float64Array } } } }
      ).abyssal.audio.shared.state[4] = 0.9;
    }, 50);
  });
  await page.getByRole('button', { name: 'Freeze', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Freeze Body' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: '1 frozen' })).toBeVisible();
  await page.waitForTimeout(600);
  expect((await abyssal.heard(0.5)).left.some((x) => Math.abs(x) > 0.05)).toBe(true);
  await abyssal.type('Body Cutoff', '300');
  await expect(page.getByRole('button', { name: '1 frozen' })).toBeHidden();
});

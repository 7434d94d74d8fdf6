import { expect, test } from '../abyssal';

test('a harmonic is changed by key', async ({ abyssal, page }) => {
  await abyssal.openCopyOf('Trench Growl', 'Redraw');
  await abyssal.choose('Kind of tone', 'Harmonics');
  await page.getByRole('button', { name: '1/n', exact: true }).click();
  const rung = page.getByRole('slider', { name: 'Harmonic 3', exact: true });
  await expect(rung).toBeVisible();
  await abyssal.measured();
  // From the key to the page laid out anew, script and all: what a frame has to have time for.
  const times = await rung.evaluate(async (element: HTMLElement) => {
    const took: number[] = [];
    element.focus();
    for (let i = 0; i < 60; i++) {
      await new Promise((resolve) => {
        setTimeout(resolve, 250);
      });
      const from = performance.now();
      element.dispatchEvent(
        new KeyboardEvent('keydown', {
          key: i % 2 === 0 ? 'ArrowRight' : 'ArrowLeft',
          bubbles: true,
          cancelable: true,
        }),
      );
      await Promise.resolve();
      document.body.getBoundingClientRect();
      took.push(performance.now() - from);
    }
    return took;
  });
  await expect(rung).toHaveAttribute('aria-valuetext', /dB/);
  times.sort((a, b) => a - b);
  console.log(`\nredraw ${JSON.stringify({ median: times[30], p90: times[54] })}`);
});

import { expect, test } from '../abyssal';

test('the rose is turned by key', async ({ abyssal }) => {
  await abyssal.openCopyOf('Mud Line', 'Turned', 'lock');
  await abyssal.roses();
  const bearing = abyssal.slider('Bearing of the bass');
  await expect(bearing).toBeVisible();
  // A drag changes what a key changes: from the event to the page laid out anew, script and all.
  const times = await bearing.evaluate(async (element: HTMLElement) => {
    const took: number[] = [];
    element.focus();
    for (let i = 0; i < 60; i++) {
      await new Promise((resolve) => {
        setTimeout(resolve, 30);
      });
      const from = performance.now();
      element.dispatchEvent(
        new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true, cancelable: true }),
      );
      await Promise.resolve();
      document.body.getBoundingClientRect();
      took.push(performance.now() - from);
    }
    return took;
  });
  times.sort((a, b) => a - b);
  console.log(`\nrose ${JSON.stringify({ median: times[30], p90: times[54] })}`);
});

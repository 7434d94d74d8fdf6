// Measures one sound in a process of its own, as each host runs it: code that was compiled for another sound
// first is slower for a
// while. Prints JSON: engine (whole loops, and undisturbed) and loop render in times of real time, the block
// of 128 frames at the 99.9th percentile as a share of its time.
import { createEngine, renderLoop } from '@abyssal/core';
import { best, SOUNDS, timed } from './sounds.mjs';

const RATE = 48000;
const sound = SOUNDS[process.argv[2]]();
const left = new Float32Array(128);
const right = new Float32Array(128);
const engine = createEngine(sound, { sampleRateHz: RATE });
engine.play();

// Each run is one loop.
const blocks = Math.ceil(renderLoop(sound, { sampleRateHz: RATE, stems: 'none' }).frames / 128);
const stream = best(12, () => {
  for (let i = 0; i < blocks; i++) engine.render(left, right, 128);
});

// The same loop in stretches of 26 blocks (70 ms), each at the best of its runs: what the machine does while
// its neighbours leave it alone.
const STRETCH = 26;
const least = new Float64Array(Math.ceil(blocks / STRETCH)).fill(Infinity);
for (let round = 0; round < 24; round++) {
  for (let s = 0; s < least.length; s++)
    least[s] = Math.min(
      least[s],
      timed(() => {
        for (let i = 0; i < STRETCH; i++) engine.render(left, right, 128);
      }),
    );
}
const undisturbed = least.reduce((sum, ms) => sum + ms);

let share = Infinity;
for (let round = 0; round < 4; round++) {
  const times = new Float64Array(8000);
  for (let i = 0; i < times.length; i++) {
    times[i] = timed(() => engine.render(left, right, 128));
  }
  times.sort();
  share = Math.min(share, times[Math.floor(0.999 * times.length)] / ((128 / RATE) * 1000));
}

// The loop is run twice: once so that it runs into itself, once to keep.
const { frames } = renderLoop(sound, { sampleRateHz: RATE, stems: 'none' });
const loop = best(8, () => renderLoop(sound, { sampleRateHz: RATE, stems: 'none' }));
console.log(
  JSON.stringify({
    engine: (blocks * 128) / RATE / (stream / 1000),
    undisturbed: (least.length * STRETCH * 128) / RATE / (undisturbed / 1000),
    share,
    loop: (2 * frames) / RATE / (loop / 1000),
  }),
);

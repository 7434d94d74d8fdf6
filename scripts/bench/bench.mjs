// Prints what bin/bench asks for. Each figure is the best of several runs, for other work on the machine only ever makes it worse.
import { execFileSync } from 'node:child_process';
import { createEngine, renderLoop, slackWater, SoftClip, soundingOf, StateVariablePair, trenchGrowl, waveTables, writeAlone } from '@abyssal/core';

const RATE = 48000;
const line = (name, value, wanted) => { console.log(`${name.padEnd(58)} ${value.padStart(14)}   ${wanted}`); };
const best = (seconds, run) => {
  let least = Infinity;
  const until = performance.now() + 1000 * seconds;
  while (performance.now() < until) {
    const from = performance.now();
    run();
    least = Math.min(least, performance.now() - from);
  }
  return least;
};

/** The demo sound with a body of six copies, spread over both sides. */
function sixCopies() {
  const sound = trenchGrowl();
  Object.assign(sound.layers[1].tone, { copies: 6, spreadPct: 60 });
  return sound;
}

/** The engine as every host runs it, block after block; each run is one loop. */
function engineTimesRealTime(sound) {
  const engine = createEngine(sound, { sampleRateHz: RATE });
  const left = new Float32Array(128);
  const right = new Float32Array(128);
  const blocks = Math.ceil(renderLoop(sound, { sampleRateHz: RATE, stems: false }).frames / 128);
  engine.play();
  return (blocks * 128) / RATE / (best(8, () => { for (let i = 0; i < blocks; i++) engine.render(left, right, 128); }) / 1000);
}

/** A loop rendered into memory with kick, bass and sum. It is run twice: once so that it runs into itself, once to keep. */
function loopTimesRealTime(sound) {
  const { frames } = renderLoop(sound, { sampleRateHz: RATE, stems: false });
  return (2 * frames) / RATE / (best(8, () => renderLoop(sound, { sampleRateHz: RATE, stems: false })) / 1000);
}

/** Time of a block of 128 frames at the 99.9th percentile, as a share of the time it lasts. */
function blockShare(sound) {
  const engine = createEngine(sound, { sampleRateHz: RATE });
  const left = new Float32Array(128);
  const right = new Float32Array(128);
  engine.play();
  for (let i = 0; i < 8000; i++) engine.render(left, right, 128);
  let least = Infinity;
  for (let round = 0; round < 4; round++) {
    const times = new Float64Array(8000);
    for (let i = 0; i < times.length; i++) {
      const from = performance.now();
      engine.render(left, right, 128);
      times[i] = performance.now() - from;
    }
    times.sort();
    least = Math.min(least, times[Math.floor(0.999 * times.length)]);
  }
  return least / ((128 / RATE) * 1000);
}

/** Nanoseconds a frame of a saw, a moving filter of two sections and a soft clip, over blocks of 64 frames. */
function innerLoop() {
  const table = waveTables('saw', RATE).tables[2];
  const filter = new StateVariablePair('low');
  const clip = new SoftClip();
  const block = new Float64Array(64);
  const phase = new Int32Array(1);
  const reader = Float64Array.of(3906000, 1);
  const section = Float64Array.of(0.03, 0.0301, 1.85, 0.4);
  const gains = Float64Array.of(3, 3.01, 1);
  const blocks = 15000;
  const took = best(4, () => {
    for (let b = 0; b < blocks; b++) {
      writeAlone(table, block, 0, 64, phase, reader);
      filter.process(block, 0, 64, section);
      clip.process(block, 0, 64, gains);
    }
  });
  return (took * 1e6) / (64 * blocks);
}

line('engine: Trench Growl, mono body', `${engineTimesRealTime(trenchGrowl()).toFixed(0)} x`, 'wanted: 100 times real time');
line('engine: the same with a body of six copies in stereo', `${engineTimesRealTime(sixCopies()).toFixed(0)} x`, 'wanted: 60 times real time');
line('loop into memory, stems of kick and bass: mono body', `${loopTimesRealTime(trenchGrowl()).toFixed(0)} x`, '');
line('loop into memory, stems of kick and bass: six copies', `${loopTimesRealTime(sixCopies()).toFixed(0)} x`, '');

for (const [name, sound] of [['Trench Growl (two bars)', trenchGrowl()], ['the same with six copies in stereo', sixCopies()], ['Slack Water (four bars)', slackWater()]]) {
  const options = { sampleRateHz: RATE };
  const render = best(4, () => renderLoop(sound, options));
  const all = best(6, () => soundingOf(sound, options));
  line(`figures of ${name}, beyond its rendering`, `${(all - render).toFixed(0)} ms`, name.includes('four') ? '' : 'wanted: 150 ms');
}

for (const [name, sound] of [['Trench Growl', trenchGrowl()], ['six copies in stereo', sixCopies()], ['Slack Water', slackWater()]]) {
  line(`audio thread, block at p99.9, ${name}`, `${(100 * blockShare(sound)).toFixed(1)} %`, 'wanted: under 50 % of its time');
}

const ours = innerLoop();
const c = Number(execFileSync(process.argv[2], { encoding: 'utf8' }));
line('inner loop (saw, state-variable filter, soft clip)', `${ours.toFixed(1)} ns`, 'a frame');
line('the same as plain C, -O2', `${c.toFixed(1)} ns`, 'a frame');
line('ratio', (ours / c).toFixed(2), 'wanted: 1.3 or less');

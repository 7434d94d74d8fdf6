import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { slackWater } from '../../demo/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import type { SoundDocument } from '../../document/index.js';
import { readWav, writeWav } from '../../formats/index.js';
import { truePeakDb } from '../../measure/index.js';
import { anyAssets, anySound } from '../../testing/any-sound.js';
import { firstBar } from '../../testing/first-bar.js';
import { run, scratch } from '../../testing/tools.js';
import { renderLoop } from '../hosts/render-loop.js';

const files = scratch();
afterAll(() => {
  files.remove();
});

/**
 * True peak of a loop in dBTP by ffmpeg's meter (ebur128): one round, with the file's own ends, where it is
 * cut off; or two, so that the seam counts.
 */
function peakOf(sound: SoundDocument, sampleRateHz: number, rounds: 1 | 2): number {
  const { left, right } = renderLoop(sound, { sampleRateHz, stems: 'none', assets: anyAssets }).all;
  const wave = (x: Float32Array) =>
    Float32Array.from({ length: rounds * x.length }, (_, i) => x[i % x.length]);
  const file = files.write('loop.wav', writeWav([wave(left), wave(right)], sampleRateHz, '32f'));
  expect(readWav(readFileSync(file)).channels[0].length).toBe(rounds * left.length);
  const summary = run('ffmpeg', [
    '-nostats',
    '-i',
    file,
    '-filter_complex',
    'ebur128=peak=true',
    '-f',
    'null',
    '-',
  ])
    .split('Summary:')
    .pop()!;
  const peak = Number(/Peak:\s+(-?[\d.]+|-inf)/.exec(summary)![1].replace('-inf', '-200'));
  // And our own meter.
  if (peak > -60)
    expect(
      truePeakDb({ channels: [left, right], sampleRateHz, loop: rounds === 2 }).value!,
    ).toBeLessThanOrEqual(sound.output.ceilingDb + 0.2);
  return peak;
}

describe('the ceiling', () => {
  it.each([
    ['Trench Growl', plainGrowl, -6],
    ['Slack Water', slackWater, -1],
  ])('holds the true peak of %s 20 dB too loud, by ffmpeg’s meter', (_name, make, ceilingDb) => {
    const sound = { ...firstBar(make()), output: { levelDb: 12, ceilingDb } };
    expect(peakOf(sound, 48000, 2)).toBeLessThanOrEqual(ceilingDb + 0.2);
  });

  it('holds it for any valid sound, at 44.1 and 48 kHz', () => {
    let loud = 0;
    fc.sample(anySound, { numRuns: 10, seed: 20261127 }).forEach((sound, n) => {
      // Short, and loud: every layer and the kick on, 12 dB up.
      const notes = sound.line.notes.filter(({ tick, ticks }) => tick + ticks <= 1920);
      const peak = peakOf(
        {
          ...sound,
          ground: { ...sound.ground, bars: 1, tempoBpm: 200 },
          line: { notes },
          kick: { ...sound.kick, on: true, hits: [{ tick: 0, velocity: 127 }], levelDb: 6 },
          layers: sound.layers.map((layer) => ({ ...layer, on: true, levelDb: 6 })),
          output: { ...sound.output, levelDb: 12 },
        },
        n % 2 === 0 ? 48000 : 44100,
        1,
      );
      expect(peak).toBeLessThanOrEqual(sound.output.ceilingDb + 0.2);
      if (peak > sound.output.ceilingDb - 1) loud += 1;
    });
    // Enough of them come up to their ceiling for this to say something.
    expect(loud).toBeGreaterThan(3);
  });
});

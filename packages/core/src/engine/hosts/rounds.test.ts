import { cleanBand, cleanLayer, cleanNote, cleanSound, cleanUnit } from '../../document/index.js';
import { UNIT_NAMES, type UnitKind } from '../../kinds/units/index.js';
import { nullDb, RATE } from '../../testing/signals.js';
import { loopFrames } from '../../units/index.js';
import { createEngine } from './engine.js';
import { renderLoop } from './render-loop.js';

/** What turns at a rate of its own, whatever the line does. */
const FREE: readonly UnitKind[] = ['chorus', 'flanger', 'phaser', 'rough delay', 'shift', 'unison'];

function soundWith(kind: UnitKind) {
  const sound = cleanSound();
  return {
    ...sound,
    // The loop is no whole number of blocks, nor of what units count.
    ground: { ...sound.ground, bars: 1, tempoBpm: 187.3 },
    layers: [cleanLayer('body', { id: 'body' })],
    line: {
      notes: [cleanNote({ tick: 0, ticks: 900, pitch: 41 }), cleanNote({ tick: 960, ticks: 500, pitch: 53 })],
    },
    grit: {
      ...sound.grit,
      bands: [cleanBand()],
      after: [cleanUnit('hard clip', { id: 'clip', driveDb: 18 }), cleanUnit(kind, { id: 'unit' })],
    },
  };
}

it.each(UNIT_NAMES.filter((kind) => !FREE.includes(kind)))(
  '%s sounds alike in every round, and as it is bounced',
  (kind) => {
    const sound = soundWith(kind);
    const engine = createEngine(sound, { sampleRateHz: RATE });
    const frames = loopFrames(sound.ground.bars, sound.ground.tempoBpm, RATE);
    const left = new Float32Array(4 * frames);
    engine.play();
    engine.render(left, new Float32Array(4 * frames), 4 * frames);
    const bounced = renderLoop(sound, { sampleRateHz: RATE, stems: 'none' }).all.left;
    const late = engine.latencyFrames;
    // What a delay repeats goes on for longer than a round.
    for (const round of [1, 2])
      expect(nullDb(left.subarray(round * frames + late, (round + 1) * frames + late), bounced)).toBeLessThan(
        -80,
      );
  },
);

it('has no seam where the loop comes round, though a chorus turns at its own rate', () => {
  const sound = soundWith('chorus');
  const body = sound.layers[0];
  body.loudness = { ...body.loudness, releaseMs: 1500 };
  sound.line.notes = [cleanNote({ tick: 960, ticks: 900, pitch: 41 })];
  sound.grit.after = [cleanUnit('chorus', { id: 'unit', wetPct: 100, depthMs: 8, rateHz: 0.9 })];
  const { left } = renderLoop(sound, { sampleRateHz: RATE, stems: 'none' }).bass;
  const frames = left.length;
  const bend = (at: number) =>
    Math.abs(left[at % frames] - 2 * left[(at + frames - 1) % frames] + left[(at + frames - 2) % frames]);
  const around = Array.from({ length: 4000 }, (_, i) => bend(frames - 2000 + i));
  const most = Math.max(...around.slice(0, 1990), ...around.slice(2010));
  expect(Math.max(...around.slice(1990, 2010))).toBeLessThan(1.5 * most);
});

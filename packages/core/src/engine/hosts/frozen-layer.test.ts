import { clipOf } from '../../testing/grit.js';
import { slackWater } from '../../demo/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import type { SoundDocument } from '../../document/index.js';
import { db } from '../../testing/signals.js';
import { loopFrames, toEnd } from '../../units/index.js';
import { createEngine, type Engine } from './engine.js';
import { freezeKey, freezeSteps } from './render-layer.js';

const RATE = 24000;

function take(engine: Engine, frames: number): Float32Array {
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  for (let at = 0; at < frames; at += 128) {
    engine.settle();
    engine.render(left.subarray(at, at + 128), right.subarray(at, at + 128), 128);
  }
  return left;
}
const frozenOf = (sound: SoundDocument, ...ids: string[]) =>
  new Map(ids.map((id) => [id, toEnd(freezeSteps(sound, id, { sampleRateHz: RATE }))]));
const rms = (x: Float32Array) => Math.sqrt(x.reduce((sum, v) => sum + v * v, 0) / x.length);
const blocks = (frames: number) => Math.ceil(frames / 128) * 128;

describe('a frozen layer', () => {
  it.each([
    ['Trench Growl', plainGrowl],
    ['Slack Water', slackWater],
  ])('of %s plays back what it would play, under −60 dB once the loop has come round', (_name, make) => {
    const sound = make();
    const loop = blocks(loopFrames(sound.ground.bars, sound.ground.tempoBpm, RATE));
    const plain = createEngine(sound, { sampleRateHz: RATE });
    const frozen = createEngine(sound, { sampleRateHz: RATE });
    frozen.freeze(frozenOf(sound, ...sound.layers.map(({ id }) => id)));
    plain.play();
    frozen.play();
    // In the first round nothing hangs over from before, in the render it does.
    take(plain, loop);
    take(frozen, loop);
    const a = take(plain, loop);
    const b = take(frozen, loop);
    expect(db(rms(a.map((x, i) => x - b[i])) / rms(a))).toBeLessThan(-60);
  });

  it('falls silent with the line, and still takes live notes', () => {
    const sound = { ...plainGrowl(), kick: { ...plainGrowl().kick, on: false } };
    const engine = createEngine(sound, { sampleRateHz: RATE });
    engine.freeze(frozenOf(sound, ...sound.layers.map(({ id }) => id)));
    engine.play();
    take(engine, 12800);
    engine.stop();
    take(engine, 12800);
    expect(Math.max(...take(engine, 6400).map(Math.abs))).toBeLessThan(1e-3);
    engine.noteOn(31, 100);
    expect(rms(take(engine, 6400))).toBeGreaterThan(0.02);
  });

  it('that is thawed within a note goes on with it', () => {
    const sound = slackWater();
    const engine = createEngine({ ...sound, kick: { ...sound.kick, on: false } }, { sampleRateHz: RATE });
    engine.freeze(frozenOf(sound, ...sound.layers.map(({ id }) => id)));
    engine.play();
    take(engine, 25600);
    const before = rms(take(engine, 6400));
    engine.freeze(new Map());
    take(engine, 3200);
    expect(db(rms(take(engine, 6400)) / before)).toBeGreaterThan(-6);
  });

  it('makes no click where the line jumps', () => {
    const sound = { ...slackWater(), kick: { ...slackWater().kick, on: false } };
    const engine = createEngine(sound, { sampleRateHz: RATE });
    engine.freeze(frozenOf(sound, ...sound.layers.map(({ id }) => id)));
    engine.play();
    const steepest = (x: Float32Array) =>
      x.reduce((most, v, i) => (i === 0 ? most : Math.max(most, Math.abs(v - x[i - 1]))), 0);
    const steady = steepest(take(engine, 12800));
    engine.play(1440);
    expect(steepest(take(engine, 1280))).toBeLessThan(2 * steady + 0.01);
  });

  it('is told by its key whether it may go on: any edit of the layer or of what it follows is another, its switch and other layers are not', () => {
    const sound = plainGrowl();
    const id = sound.layers[0].id;
    const key = (change: (draft: SoundDocument) => void) => {
      const draft = structuredClone(sound);
      change(draft);
      return freezeKey(draft, id, RATE);
    };
    const same = freezeKey(sound, id, RATE);
    expect(
      key((d) => {
        d.layers[0].on = false;
      }),
    ).toBe(same);
    expect(
      key((d) => {
        d.layers[1].levelDb -= 3;
      }),
    ).toBe(same);
    expect(
      key((d) => {
        clipOf(d).driveDb = 30;
      }),
    ).toBe(same);
    expect(
      key((d) => {
        d.layers[0].levelDb -= 1;
      }),
    ).not.toBe(same);
    expect(
      key((d) => {
        d.line.notes[0].pitch += 1;
      }),
    ).not.toBe(same);
    expect(
      key((d) => {
        d.ground.tempoBpm += 1;
      }),
    ).not.toBe(same);
  });
});

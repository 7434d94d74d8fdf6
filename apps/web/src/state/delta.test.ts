import { trenchGrowl, type SoundDocument } from '@abyssal/core';
import fc from 'fast-check';
import { produce, type Draft } from 'immer';
import { applyDelta, deltaOf } from './delta';

const before = trenchGrowl();
const edited = (change: (sound: Draft<SoundDocument>) => void) => produce(before, change);
/** As it comes out of a message. */
const through = (after: SoundDocument) => applyDelta(before, structuredClone(deltaOf(before, after)));

describe('a delta', () => {
  it('of one value names that value alone, and leaves the rest the same objects', () => {
    const after = edited((sound) => {
      sound.layers[1].filters[0].cutoffHz = 321;
    });
    expect(deltaOf(before, after)).toEqual({
      fields: {
        layers: {
          fields: { 1: { fields: { filters: { fields: { 0: { fields: { cutoffHz: { value: 321 } } } } } } } },
        },
      },
    });
    const found = through(after);
    expect(found).toEqual(after);
    expect(found.layers[0]).toBe(before.layers[0]);
    expect(found.line).toBe(before.line);
  });

  it('leads through additions, removals, other kinds and nothing', () => {
    for (const change of [
      () => undefined,
      (sound: Draft<SoundDocument>) => void sound.layers.pop(),
      (sound: Draft<SoundDocument>) => void sound.line.notes.push({ ...sound.line.notes[0], tick: 7 }),
      (sound: Draft<SoundDocument>) => void sound.layers.reverse(),
      (sound: Draft<SoundDocument>) => {
        sound.layers[0].tones[0].source = { ...before.layers[1].tones[0].source };
      },
      (sound: Draft<SoundDocument>) => {
        sound.kick.wav = null;
      },
    ]) {
      const after = edited(change);
      expect(through(after)).toEqual(after);
    }
  });

  it('leads from any tree of JSON to any other', () => {
    const json = fc.jsonValue({ maxDepth: 4 });
    fc.assert(
      fc.property(json, json, (a, b) => {
        expect(applyDelta<unknown>(a, structuredClone(deltaOf(a, b)))).toEqual(b);
      }),
    );
  });
});

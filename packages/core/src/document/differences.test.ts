import { clipOf } from '../testing/grit.js';
import { plainGrowl } from '../testing/plain-growl.js';
import { cleanSound } from './defaults.js';
import { whatDiffers } from './differences.js';
import type { SoundDocument } from './shape.js';

const changed = (change: (sound: SoundDocument) => void): string[] => {
  const after = structuredClone(plainGrowl());
  change(after);
  return whatDiffers(plainGrowl(), after);
};

describe('what differs', () => {
  it('is nothing between equal states', () => {
    expect(changed(() => undefined)).toEqual([]);
  });

  it('names the layer, mover or part that was changed, and counts its values', () => {
    expect(
      changed((sound) => {
        sound.name = 'Other';
        sound.ground.tempoBpm = 100;
        sound.ground.bars = 4;
        sound.layers[1].levelDb = -9;
        sound.line.notes[0].tick += 120;
      }),
    ).toEqual(['name', 'tempo, key and length (2 values)', 'Body', 'line']);
  });

  it('tells what was added, removed and moved about', () => {
    expect(
      changed((sound) => {
        const [layer] = sound.layers.splice(0, 1);
        sound.layers.push({ ...layer, id: 'new', name: 'Knock' });
      }),
    ).toEqual(['Knock added', 'Sub removed']);
    expect(
      changed((sound) => {
        sound.layers.reverse();
      }),
    ).toEqual(['order of layers']);
  });

  it('leaves nothing out: every value of the document is in some part', () => {
    expect(
      changed((sound) => {
        sound.seed += 1;
        clipOf(sound).driveDb = 1;
        sound.output.levelDb = -3;
      }),
    ).toEqual(['clean path and grit', 'output', 'the rest']);
    expect(whatDiffers(plainGrowl(), cleanSound()).length).toBeGreaterThan(6);
  });
});

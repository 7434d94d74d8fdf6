import {
  cleanLayer,
  cleanSound,
  cleanSource,
  cleanTone,
  ebbDrift,
  findLayerProblems,
  findProblems,
  trenchGrowl,
  type ToneKind,
} from '@abyssal/core';
import { freeId } from '../../state/free-id';
import { soloed, toggleSolo } from '../../state/solo';
import { addCopy, linksOf, moveLayer, newLayer, removeLayer, withKind } from './layer-edits';

const KINDS: readonly ToneKind[] = ['shape', 'harmonics', 'frames', 'fm', 'vowel', 'noise', 'sample'];

describe('edits of layers', () => {
  it('a tone that changes its kind keeps what kinds share, and finds its kind’s settings again', () => {
    const tone = cleanTone({
      on: true,
      semitones: 5,
      copies: 4,
      startPhaseDeg: 40,
      source: cleanSource('fm', { scale: 2 }),
    });
    const vowel = withKind(tone, 'vowel', 'x 0');
    expect(vowel).toMatchObject({
      on: true,
      semitones: 5,
      copies: 4,
      startPhaseDeg: 40,
      source: { kind: 'vowel' },
    });
    expect(withKind(vowel, 'fm', 'x 0').source).toMatchObject({ kind: 'fm', scale: 2 });
    // Another tone knows nothing of it.
    expect(withKind(cleanTone(), 'fm', 'x 1').source).toMatchObject({ kind: 'fm', scale: 1 });
    expect(withKind(tone, 'fm', 'x 0')).toBe(tone);
  });

  it('every kind is valid from clean', () => {
    for (const kind of KINDS) {
      const layer = cleanLayer('edge');
      layer.tones[1] = withKind(cleanTone({ on: true }), kind, `clean ${kind}`);
      expect(findLayerProblems(layer)).toEqual([]);
    }
  });

  it('new layers and copies have ids and names of their own, and stay valid', () => {
    expect(newLayer([], 'sub')).toMatchObject({ id: 'sub', name: 'Sub' });
    expect(newLayer(trenchGrowl().layers, 'body')).toMatchObject({ id: 'body-2', name: 'Body 2' });
    expect(freeId([{ id: 'link-1' }, { id: 'link-3' }], (n) => `link-${n}`)).toBe('link-2');
    const sound = structuredClone(trenchGrowl());
    const id = addCopy(sound, sound.layers[1], linksOf(sound, 'body'));
    expect(id).toBe('body-2');
    expect(sound.links.filter(({ target }) => target.startsWith('layers.body-2.'))).toHaveLength(7);
    expect(findProblems(sound)).toEqual([]);
    // Into a sound that has no such mover the links do not go; macros every sound has.
    const other = { ...structuredClone(cleanSound()), movers: [] };
    addCopy(other, sound.layers[1], linksOf(sound, 'body'));
    expect(other.links.map(({ mover }) => mover)).toEqual(['macro-1', 'macro-2', 'macro-2']);
    removeLayer(sound, 1);
    expect(sound.layers.map((layer) => layer.id)).toEqual(['sub', 'body-2']);
    expect(findProblems(sound)).toEqual([]);
  });

  it('layers are moved within their bounds', () => {
    expect(moveLayer(['a', 'b', 'c'], 0, 2)).toEqual(['b', 'c', 'a']);
    expect(moveLayer(['a', 'b', 'c'], 2, -4)).toEqual(['c', 'a', 'b']);
  });
});

describe('listening alone', () => {
  const sound = ebbDrift();
  it('switches the other layers, or the other tones, off in what is heard only', () => {
    expect(soloed(sound, [])).toBe(sound);
    expect(soloed(sound, ['gone'])).toBe(sound);
    expect(soloed(sound, ['body']).layers.map(({ on }) => on)).toEqual([false, true, false]);
    const tone = soloed(sound, ['body.1']);
    expect(tone.layers.map(({ on }) => on)).toEqual([false, true, false]);
    expect(tone.layers[1].tones.map(({ on }) => on)).toEqual([false, true, false]);
    expect(sound.layers.every(({ on }) => on)).toBe(true);
    expect(findProblems(tone)).toEqual([]);
  });

  it('is switched on and off by name', () => {
    expect(toggleSolo(['a'], 'b')).toEqual(['a', 'b']);
    expect(toggleSolo(['a', 'b'], 'a')).toEqual(['b']);
  });
});

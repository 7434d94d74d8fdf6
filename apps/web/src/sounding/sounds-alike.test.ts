import { trenchGrowl } from '@abyssal/core';
import { soundsAlike, withUnheardOf } from './sounds-alike';

const sound = trenchGrowl();

describe('two states of a sound', () => {
  it('sound alike where only what nobody hears differs, and not where anything else does', () => {
    expect(soundsAlike(sound, { ...sound, name: 'Other', author: 'me', tags: ['x'], drawStep: '1/8' })).toBe(
      true,
    );
    expect(soundsAlike(sound, { ...sound, lock: { ...sound.lock, invert: true } })).toBe(false);
    expect(soundsAlike(sound, { ...sound, seed: sound.seed + 1 })).toBe(false);
  });

  it('are put together of what is heard of one and what is not of the other', () => {
    const offered = { ...sound, lock: { ...sound.lock, invert: true } };
    const renamed = { ...sound, name: 'Other', tags: ['x'] };
    expect(withUnheardOf(offered, renamed)).toEqual({ ...offered, name: 'Other', tags: ['x'] });
  });
});

import { cleanSound, cleanWavKick, noteToHz } from '@abyssal/core';
import { nearestCrossing, rootNear, STARTS, startHits, tailOnRoot } from './kick-edits';

describe('the tail on the root', () => {
  const sound = { ...cleanSound(), ground: { ...cleanSound().ground, key: 'G' as const } };

  it('is in the octave nearest to where the tail is', () => {
    expect(rootNear(sound, 47)).toBeCloseTo(noteToHz(31), 6);
    expect(rootNear(sound, 90)).toBeCloseTo(noteToHz(43), 6);
    expect(rootNear(sound, 30)).toBeCloseTo(noteToHz(19), 6);
  });

  it('moves a made kick by its own tail, and a WAV by its tuning', () => {
    expect(tailOnRoot(sound, sound.kick.made.tailHz)!.made.tailHz).toBeCloseTo(noteToHz(31), 2);
    const wav = {
      ...sound,
      kick: {
        ...sound.kick,
        source: 'wav' as const,
        wav: { ...cleanWavKick('a'.repeat(64), 'k.wav'), retuneSt: 1 },
      },
    };
    expect(tailOnRoot(wav, 46.2)!.wav!.retuneSt).toBeCloseTo(1 + 12 * Math.log2(noteToHz(31) / 46.2), 3);
  });
});

describe('common starts', () => {
  it('fall in every bar of the loop', () => {
    const ticks = (name: string, bars: number) =>
      startHits(STARTS.find((start) => start.name === name)!.beats, bars).map(({ tick }) => tick);
    expect(ticks('every beat', 1)).toEqual([0, 480, 960, 1440]);
    expect(ticks('half-time', 2)).toEqual([0, 1920]);
    expect(ticks('broken', 2)).toEqual([0, 1200, 1920, 3120]);
  });
});

describe('the nearest crossing', () => {
  const wave = Float32Array.from({ length: 480 }, (_, i) => Math.sin((2 * Math.PI * (i + 0.5)) / 48));

  it('is where the wave passes through zero, on whichever side is nearer', () => {
    for (const frame of [30, 46, 55, 70, 200]) {
      const at = nearestCrossing(wave, frame, 48);
      expect(Math.abs(wave[at])).toBeLessThan(0.07);
      expect(Math.abs(at - frame)).toBeLessThanOrEqual(13);
    }
  });

  it('is the frame itself where there is none within reach, and never outside the wave', () => {
    expect(nearestCrossing(wave, 36, 4)).toBe(36);
    expect(nearestCrossing(new Float32Array(100).fill(0.5), 50, 40)).toBe(50);
    expect(nearestCrossing(wave, 9999, 3)).toBe(480);
    expect(nearestCrossing(wave, -5, 2)).toBe(0);
  });
});

import { parameter, toPosition, trenchGrowl, type SoundDocument } from '@abyssal/core';
import { whyUnheard } from './unheard';

const row = parameter('layers.*.filters.*.cutoffHz');

/** What is said of the first link of Trench Growl, of its wobble on Body's cutoff. */
function said(
  change: (sound: SoundDocument) => void,
  { cutoffHz = 150, values = [] as readonly number[], loudestHz = null as number | null } = {},
) {
  const sound = structuredClone(trenchGrowl());
  change(sound);
  const at = toPosition(row, cutoffHz);
  return whyUnheard(sound, sound.links[0], sound.movers[0], { row, at, values, loudestHz });
}
const wobbleOf = (sound: SoundDocument) =>
  sound.movers[0] as Extract<(typeof sound.movers)[0], { kind: 'wobble' }>;

describe('what a link cannot be heard for', () => {
  it('is nothing where it can, or where it is off anyway', () => {
    expect(said(() => undefined)).toBeNull();
    expect(
      said((sound) => {
        sound.links[0].on = false;
        sound.movers[0].on = false;
      }),
    ).toBeNull();
  });

  it('is a mover that is off', () => {
    expect(
      said((sound) => {
        sound.movers[0].on = false;
      }),
    ).toBe('Wobble 1 is off.');
  });

  it('is a free wobble that is slower than the loop', () => {
    const free = (rateBeats: number) =>
      said((sound) => {
        Object.assign(wobbleOf(sound), { restart: 'free', rateBeats });
      });
    expect(free(8)).toBeNull();
    expect(free(16)).toBe('Wobble 1 takes longer than the loop: only a part of it is heard.');
    expect(
      said((sound) => {
        Object.assign(wobbleOf(sound), { restart: 'free', rateIn: 'hertz', rateHz: 0.2 });
      }),
    ).toMatch(/^Wobble 1 takes longer/);
  });

  it('is the end of the range', () => {
    expect(said(() => undefined, { cutoffHz: 20000 })).toBe('It is at the top of its range already, 20 kHz.');
    expect(
      said(
        (sound) => {
          sound.links[0].reachPct = -30;
        },
        { cutoffHz: 20 },
      ),
    ).toBe('It is at the bottom of its range already, 20 Hz.');
  });

  it('is a cutoff above all that sounds, by what was measured', () => {
    const high = { values: [0.8, 0.9], loudestHz: 900 };
    expect(said(() => undefined, high)).toBe('The cutoff stays above all that sounds there, up to 900 Hz.');
    expect(said(() => undefined, { ...high, loudestHz: 9000 })).toBeNull();
    expect(said(() => undefined, { ...high, values: [0.3, 0.9] })).toBeNull();
  });
});

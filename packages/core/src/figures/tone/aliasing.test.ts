import {
  cleanLayer,
  cleanLink,
  cleanNote,
  cleanSound,
  cleanSource,
  cleanTone,
  cleanUnit,
  type SoundDocument,
} from '../../document/index.js';
import { aliasingOf } from './aliasing.js';

const RATE = 48000;
/** A held saw without anything else, changed. */
function plain(change: (sound: SoundDocument) => void = () => undefined): SoundDocument {
  const sound = cleanSound();
  const body = cleanLayer('body');
  sound.layers = [{ ...body, filters: body.filters.map((filter) => ({ ...filter, on: false })) }];
  sound.grit = {
    ...sound.grit,
    cleanPath: { ...sound.grit.cleanPath, on: false },
    bands: [{ ...sound.grit.bands[0], units: [] }],
  };
  sound.line.notes = [cleanNote({ tick: 0, ticks: 900, pitch: 36 })];
  change(sound);
  return sound;
}
const of = (change?: (sound: SoundDocument) => void) => aliasingOf(plain(change), RATE);

describe('aliasing', () => {
  it('is next to nothing of a band-limited saw, whatever its pitch', () => {
    for (const pitch of [29, 36, 43, 55])
      expect(
        of((s) => {
          s.line.notes[0].pitch = pitch;
        }).value,
      ).toBeLessThan(-75);
  });

  it('shows what a clip folds back, as little as the design allows for it', () => {
    const clipped = of((s) => {
      s.grit.after = [cleanUnit('hard clip', { id: 'clip', driveDb: 24 })];
      s.line.notes[0].pitch = 72;
    });
    expect(clipped.value).toBeGreaterThan(-120);
    expect(clipped.value).toBeLessThan(-60);
  });

  it('shows a tone that is none of the note’s harmonics for what it is', () => {
    // A fixed tone beside the note, 30 dB under it or so, passes for steady where its tuning is not looked at: ring keeps the note's
    // own pitch but puts sums and differences beside it.
    const ringing = of((s) => {
      s.layers[0].filters[0] = { ...s.layers[0].filters[0], on: true, mode: 'ring', cutoffHz: 777 };
    });
    expect(ringing.value).toBeGreaterThan(-20);
  });

  it('leaves out what moves it: the same with a wobble on its level as without', () => {
    const still = of();
    const moved = of((s) => {
      s.links = [cleanLink({ id: 'l', mover: s.movers[0].id, target: 'layers.body.levelDb', reachPct: 30 })];
    });
    expect(moved).toEqual(still);
  });

  it('cannot be told of a sound without a steady note, and says why', () => {
    const reasons: readonly (readonly [string, (sound: SoundDocument) => void])[] = [
      ['copies of Body are detuned', (s) => void (s.layers[0].tones[0].copies = 3)],
      ['a tone of Body is tuned apart from the note', (s) => void (s.layers[0].tones[0].semitones = 7)],
      ['Body has no sustain', (s) => void (s.layers[0].loudness.sustainPct = 0)],
      [
        'Body has a tone without harmonics of the note',
        (s) => void (s.layers[0].tones[0] = cleanTone({ on: true, source: cleanSource('noise') })),
      ],
      ['the chorus moves by itself', (s) => void (s.grit.after = [cleanUnit('chorus', { id: 'chorus' })])],
      ['what crush folds back is meant', (s) => void (s.grit.after = [cleanUnit('crush', { id: 'crush' })])],
    ];
    for (const [why, change] of reasons)
      expect(of(change)).toEqual({ value: null, reason: `no steady note to look at: ${why}` });
    expect(
      of((s) => {
        s.line.notes = [];
      }).reason,
    ).toBe('the line is empty');
  });
});

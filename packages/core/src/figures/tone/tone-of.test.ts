import {
  cleanBacking,
  cleanLink,
  cleanMover,
  cleanNote,
  cleanSound,
  type SoundDocument,
} from '../../document/index.js';
import { renderLoop } from '../../engine/index.js';
import { measureLoudness } from '../../measure/index.js';
import { noise, sine } from '../../testing/signals.js';
import { toneOf, type ToneFigures, type ToneSignals } from './tone-of.js';

const RATE = 48000;
/** A bass of our own making in the place of a rendered one, over two bars of a line of one note. */
function signalsOf(bass: Float32Array, other?: Partial<ToneSignals>): ToneSignals {
  const stereo = { left: bass, right: bass };
  const silence = new Float32Array(bass.length);
  return {
    sampleRateHz: RATE,
    frames: bass.length,
    bass: stereo,
    kick: { left: silence, right: silence },
    backing: null,
    moved: [],
    ...other,
  };
}
function held(change?: (sound: SoundDocument) => void): SoundDocument {
  const sound = cleanSound();
  sound.ground.tempoBpm = 120;
  sound.line.notes = [cleanNote({ tick: 0, ticks: 3840, pitch: 33 })];
  change?.(sound);
  return sound;
}
const tone = (hz: number, amplitude: number) => sine(hz, 4, { amplitude });
const mix = (...signals: Float32Array[]) =>
  signals[0].map((_, i) => signals.reduce((sum, signal) => sum + signal[i], 0));

describe('the tone of a loop', () => {
  it('has the constant that a steady note stands off by, and none of a note without one', () => {
    const off = tone(55, 0.5).map((x) => x + 0.01);
    expect(toneOf(held(), signalsOf(off)).dcDb.value).toBeCloseTo(-40, 1);
    expect(toneOf(held(), signalsOf(tone(55, 0.5))).dcDb.value).toBeLessThan(-90);
  });

  it('has the loudness of the lows by themselves, of the loop and of each note', () => {
    const bass = mix(tone(55, 0.4), tone(1000, 0.3));
    const found = toneOf(held(), signalsOf(bass));
    const alone = measureLoudness({
      channels: [tone(55, 0.4), tone(55, 0.4)],
      sampleRateHz: RATE,
      loop: true,
    });
    expect(found.subLufs.value).toBeCloseTo(alone.integrated.value!, 1);
    expect(found.notes[0].subLufs.value).toBeCloseTo(alone.integrated.value!, 1);
    expect(toneOf(held(), signalsOf(tone(1000, 0.3))).subLufs.reason).toBe('nothing sounds that low');
  });

  it('tells how much louder the bass is than the kick by octaves, where both sound', () => {
    const kick = mix(tone(60, 0.2), tone(4000, 0.1));
    const found = toneOf(
      held(),
      signalsOf(mix(tone(60, 0.4), tone(500, 0.2)), { kick: { left: kick, right: kick } }),
    );
    const at = (hz: number) => found.againstKick.find(({ centreHz }) => centreHz === hz)!.db;
    expect(at(63)).toBeCloseTo(6.02, 1);
    expect(at(500)).toBeNull();
    expect(at(2000)).toBeNull();
  });

  it('tells of silence why, and measures no number of it', () => {
    const found: ToneFigures = toneOf(held(), signalsOf(new Float32Array(4 * RATE)));
    for (const figure of [found.crestDb, found.mudDb, found.subToBodyDb, found.glare.db, found.dcDb])
      expect(figure.value).toBeNull();
  });
});

describe('masking by backing parts', () => {
  it('is told part by part, with where each hides the bass', () => {
    const hum = 'a'.repeat(64);
    const hiss = 'b'.repeat(64);
    const sound = held((s) => {
      s.backing = [
        { ...cleanBacking('part-1', hum, 'hum.wav'), name: 'Hum' },
        { ...cleanBacking('part-2', hiss, 'hiss.wav'), name: 'Hiss' },
      ];
    });
    const assets = new Map([
      [hum, { channels: [tone(400, 0.9)], sampleRateHz: RATE }],
      [hiss, { channels: [noise(4 * RATE).map((x) => 1e-4 * x)], sampleRateHz: RATE }],
    ]);
    const { backing } = renderLoop(sound, { sampleRateHz: RATE, assets, stems: 'none' });
    const bass = mix(tone(55, 0.4), tone(400, 0.2));
    const [first, second] = toneOf(sound, signalsOf(bass, { backing }), assets).masking;
    expect([first.name, second.name]).toEqual(['Hum', 'Hiss']);
    expect(first.share).toBeCloseTo(0.2, 1);
    expect(first.hidden).toHaveLength(1);
    expect(first.hidden[0][0]).toBeLessThan(400);
    expect(first.hidden[0][1]).toBeGreaterThan(400);
    expect(second.share).toBeLessThan(0.01);
    expect(second.hidden).toEqual([]);
  });
});

describe('wobbles asked for', () => {
  const wobbling = (change?: (sound: SoundDocument) => void) =>
    held((sound) => {
      sound.movers = [cleanMover('wobble', { id: 'wobble-1', rateBeats: 0.5 })];
      sound.links = [
        cleanLink({ id: 'l', mover: 'wobble-1', target: 'layers.body.filters.0.cutoffHz', reachPct: 40 }),
      ];
      change?.(sound);
    });
  const asked = (sound: SoundDocument) => {
    const render = renderLoop(sound, { sampleRateHz: RATE, stems: 'none', traced: true });
    return toneOf(sound, render).notes[0];
  };

  it('are those that carry something, at their rate; the sound itself is found to move so', () => {
    // Half a beat at 120 bpm is 4 Hz.
    const { askedHz, wobbleHz } = asked(wobbling());
    expect(askedHz).toEqual([4]);
    expect(Math.abs(wobbleHz.value! / 4 - 1)).toBeLessThan(0.03);
  });

  it('follow the rate that a note has of its own, and the one that is moved', () => {
    expect(
      asked(
        wobbling((s) => {
          s.line.notes[0].wobbleBeats = 0.25;
        }),
      ).askedHz,
    ).toEqual([8]);
    const moved = asked(
      wobbling((s) => {
        s.lanes = [
          {
            target: 'movers.wobble-1.rateBeats',
            on: true,
            // A quarter of a beat, as a share of 1/24 … 32 beats.
            points: [{ tick: 0, value: Math.log(0.25 * 24) / Math.log(32 * 24), bend: 0, hold: true }],
          },
        ];
      }),
    );
    expect(moved.askedHz[0]).toBeCloseTo(8, 3);
    expect(Math.abs(moved.wobbleHz.value! / 8 - 1)).toBeLessThan(0.03);
  });

  it('are none where the wobble is off, carries nothing or is held still', () => {
    const off = wobbling((s) => {
      s.movers[0].on = false;
    });
    const idle = wobbling((s) => {
      s.links = [];
    });
    const still = wobbling((s) => {
      s.line.notes[0].wobbleBeats = 0;
    });
    for (const sound of [off, idle, still]) expect(asked(sound).askedHz).toEqual([]);
  });
});

import { withoutUnits } from '../../testing/grit.js';
import fc from 'fast-check';
import {
  cleanFilter,
  cleanNote,
  cleanSound,
  cleanSource,
  type Layer,
  type SoundDocument,
  type Tone,
} from '../../document/index.js';
import { lockNotes } from '../../figures/index.js';
import { lowBand } from '../../lock/index.js';
import { findClicks } from '../../measure/index.js';
import { noteToHz } from '../../music/index.js';
import { bareLayer, playNote } from '../../testing/play-note.js';
import { createEngine } from '../hosts/engine.js';
import { renderLoop } from '../hosts/render-loop.js';

const RATE = 48000;
/** A beat at 140 bpm, in frames. */
const BEAT = Math.round((RATE * 60) / 140);

/** One note held over four beats, a kick on each; a layer by itself, without clean path and clip. */
function held(
  restart: Layer['voice']['restart'],
  { pitch = 29, phaseDeg = 0, tick = 0, layer = {} as Partial<Layer>, tone = {} as Partial<Tone> } = {},
): SoundDocument {
  const sound = cleanSound();
  sound.ground = { ...sound.ground, bars: 1, tempoBpm: 140 };
  const bare = bareLayer(
    [{ startPhaseDeg: phaseDeg, source: cleanSource('shape', { shape: 'sine' }), ...tone }],
    layer,
  );
  sound.layers = [{ ...bare, id: 'sub', role: 'sub', levelDb: -6, voice: { ...bare.voice, restart } }];
  sound.links = [];
  Object.assign(sound.grit.cleanPath, { on: false });
  withoutUnits(sound);
  sound.line.notes = [cleanNote({ tick, ticks: 1900 - tick, pitch })];
  // Clear of the ceiling, which both share.
  sound.kick = {
    ...sound.kick,
    levelDb: -14,
    hits: [0, 480, 960, 1440].map((at) => ({ tick: at, velocity: 100 })),
  };
  return sound;
}
const bassOf = (sound: SoundDocument) => renderLoop(sound, { sampleRateHz: RATE }).bass.left;

/** Energy of the difference of two signals over that of the second, dB, in [from, to). */
function nullDb(a: Float32Array, b: Float32Array, from: number, to: number): number {
  let difference = 0;
  let energy = 0;
  for (let i = from; i < to; i++) {
    difference += (a[i] - b[i]) ** 2;
    energy += b[i] ** 2;
  }
  return 10 * Math.log10(difference / energy + 1e-30);
}

describe('a phase that restarts with the kick', () => {
  it.each([28, 30, 33, 40])('is within 10 ms that of a note that begins at the hit (note %i)', (pitch) => {
    const restarted = bassOf(held('note and kick', { pitch }));
    for (const tick of [480, 960, 1440]) {
      const fresh = bassOf(held('note', { pitch, tick }));
      const at = Math.round((tick / 480) * BEAT);
      expect(nullDb(restarted, fresh, at + 0.01 * RATE, at + 0.3 * RATE)).toBeLessThan(-50);
      expect(
        nullDb(bassOf(held('note', { pitch })), fresh, at + 0.01 * RATE, at + 0.3 * RATE),
      ).toBeGreaterThan(-25);
    }
  });

  it('stands to every hit at one bearing, and without restart does not', () => {
    const spread = (sound: SoundDocument) => {
      const { kick, bass } = renderLoop(sound, { sampleRateHz: RATE });
      return lockNotes(sound, lowBand(kick.left, RATE, 120, true), lowBand(bass.left, RATE, 120, true))[0];
    };
    const sound = held('note and kick');
    sound.kick.made.tailHz = 43.654;
    expect(spread(sound).meetings).toHaveLength(4);
    expect(spread(sound).spreadDeg!).toBeLessThan(1);
    const plain = held('note');
    plain.kick.made.tailHz = 43.654;
    expect(spread(plain).spreadDeg!).toBeGreaterThan(90);
  });

  it('makes no click at any phase, pitch and wave, with several tones, copies and a filter', () => {
    const tones: readonly Partial<Tone>[] = [
      {},
      { source: cleanSource('shape', { shape: 'triangle' }) },
      { copies: 5, detuneCents: 12, spreadPct: 80, source: cleanSource('shape', { shape: 'sine' }) },
      { source: cleanSource('fm') },
      { source: cleanSource('vowel') },
      {
        source: cleanSource('harmonics', { ringMs: 200, a: { levelsDb: [0, -8, -14, -20], phasesDeg: [] } }),
      },
      { source: cleanSource('noise') },
    ];
    fc.assert(
      fc.property(
        fc.integer({ min: 26, max: 45 }),
        fc.integer({ min: 0, max: 359 }),
        fc.constantFrom(...tones),
        fc.boolean(),
        (pitch, phaseDeg, tone, filtered) => {
          const layer = filtered
            ? { filters: [cleanFilter({ on: true, cutoffHz: 300, resonancePct: 30 }), cleanFilter()] }
            : {};
          const sound = held('note and kick', { pitch, phaseDeg, tone, layer });
          const { left, right } = renderLoop(sound, { sampleRateHz: RATE }).bass;
          expect(findClicks({ channels: [left, right], sampleRateHz: RATE, loop: true }, [0])).toEqual([]);
        },
      ),
      { numRuns: 40, seed: 3 },
    );
  });

  it.each([28, 33, 45])(
    'turns a sine (note %i) at one level the shorter way round, whatever the turn: sample by sample it is the sine of the phase that is meant',
    (pitch) => {
      const hz = noteToHz(pitch);
      const takes = Math.round(Math.min(0.008, 0.5 / hz) * RATE);
      const turns: number[] = [];
      for (const tempoBpm of [121, 127, 133, 140, 146, 152, 161]) {
        const sound = held('note and kick', { pitch, phaseDeg: 40 });
        sound.ground.tempoBpm = tempoBpm;
        const bass = bassOf(sound);
        const at = Math.round(bass.length / 4);
        const peak = bass.subarray(4000, at).reduce((most, x) => Math.max(most, Math.abs(x)), 0);
        const before = (i: number) => 40 / 360 + (hz * i) / RATE;
        const gap = 40 / 360 - before(at);
        const turn = gap - Math.round(gap);
        turns.push(Math.abs(turn));
        for (let i = at; i < at + takes; i++) {
          const s = (i - at) / takes;
          const phase = before(i) + turn * s ** 3 * (10 - s * (15 - 6 * s));
          expect(Math.abs(bass[i] - peak * Math.sin(2 * Math.PI * phase))).toBeLessThan(0.02 * peak);
        }
      }
      // Nearly half a turn among them, at which a plain cross-fade would pass through silence.
      expect(Math.max(...turns)).toBeGreaterThan(0.35);
    },
  );

  it('leaves alone what has no phase of its own to begin: a free one, noise; and envelopes go on', () => {
    for (const tone of [{ startPhase: 'free' as const }, { source: cleanSource('noise') }]) {
      const change = (restart: Layer['voice']['restart']) => bassOf(held(restart, { tone }));
      expect(nullDb(change('note and kick'), change('note'), 0, 4 * BEAT)).toBeLessThan(-120);
    }
    const falling = (restart: Layer['voice']['restart']) =>
      bassOf(
        held(restart, {
          layer: {
            loudness: {
              delayMs: 0,
              attackMs: 1,
              attackBend: 0,
              holdMs: 0,
              decayMs: 1200,
              decayBend: 0,
              sustainPct: 0,
              releaseMs: 20,
              releaseBend: 0,
            } as Layer['loudness'],
          },
        }),
      );
    const level = (x: Float32Array, beat: number) =>
      Math.sqrt(
        x
          .subarray(beat * BEAT + 2000, beat * BEAT + 2000 + Math.round((8 * RATE) / 43.654))
          .reduce((sum, v) => sum + v * v, 0),
      );
    for (const beat of [1, 2])
      expect(
        Math.abs(20 * Math.log10(level(falling('note and kick'), beat) / level(falling('note'), beat))),
      ).toBeLessThan(0.3);
  });

  it('sounds the same played as rendered, and goes through what a note may do meanwhile', () => {
    const sound = held('note and kick');
    const engine = createEngine(sound, { sampleRateHz: RATE });
    engine.listen('bass', false);
    engine.play();
    const loop = renderLoop(sound, { sampleRateHz: RATE });
    const left = new Float32Array(64);
    const right = new Float32Array(64);
    const loopFrames = loop.bass.left.length;
    const heard = new Float32Array(64 * Math.ceil((1.7 * loopFrames) / 64));
    for (let at = 0; at < heard.length; at += 64) {
      engine.render(left, right, 64);
      heard.set(left, at);
    }
    const late = engine.latencyFrames;
    expect(
      nullDb(heard.subarray(late + loopFrames), loop.bass.left, 200, Math.round(0.6 * loopFrames)),
    ).toBeLessThan(-90);
    // A release, a glide and a note that takes the voice over, each while the phase turns.
    const layer = { ...sound.layers[0], loudness: { ...sound.layers[0].loudness, releaseMs: 40 } };
    for (const what of ['release', 'glide', 'over']) {
      let done = false;
      const { left: played } = playNote(layer, {
        pitch: 29,
        seconds: 0.5,
        document: { kick: sound.kick, layers: [layer] },
        between: (player, timeS) => {
          if (timeS >= 0.2 && !done) {
            done = true;
            player.restart();
          } else if (done && timeS >= 0.2 && timeS < 0.2027) {
            if (what === 'release') player.noteOff(1);
            else player.noteOn(2, 34, 100, what === 'glide');
          }
        },
      });
      expect(done).toBe(true);
      expect(
        findClicks(
          { channels: [Float32Array.from(played)], sampleRateHz: RATE },
          what === 'over' ? [0, 0.202] : [0],
        ),
      ).toEqual([]);
    }
  });
});

import fc from 'fast-check';
import { cleanNote, cleanSound, type LineNote, type SoundDocument } from '../../document/index.js';
import { mudLine, slackWater } from '../../demo/index.js';
import { renderLoop } from '../../engine/index.js';
import { lowBand, wrapDegrees } from '../../lock/index.js';
import { noteToHz } from '../../music/index.js';
import { python } from '../../testing/tools.js';
import { lineLock } from './line-lock.js';
import { meetingStretches, phasePitches } from './meetings.js';
import { beats, everyMeetingAdds, isLock, lockNotes, spreadDeg } from './note-lock.js';

const RATE = 12000;

/**
 * Two bars with a kick on the beats that are named, and the notes that are given; its lowest tone is tuned to
 * a frequency.
 */
function sound(
  notes: readonly Partial<LineNote>[],
  beats: readonly number[],
  { tempoBpm = 120, hz = 0 } = {},
): SoundDocument {
  const made = cleanSound();
  made.ground = { ...made.ground, bars: 2, tempoBpm };
  made.layers = [made.layers[0]];
  if (hz > 0) Object.assign(made.layers[0].tones[0], { pitchIn: 'hertz', fixedHz: hz });
  made.kick = { ...made.kick, hits: beats.map((beat) => ({ tick: 480 * beat, velocity: 127 })) };
  made.line = { notes: notes.map((note) => cleanNote(note)) };
  return made;
}
const framesOf = (document: SoundDocument) => Math.round((8 * 60 * RATE) / document.ground.tempoBpm);
const inBeats = (document: SoundDocument) =>
  meetingStretches(document, framesOf(document), RATE).map((own) =>
    own.map(({ hit, from, to, within }) => [
      hit,
      (from / RATE) * (document.ground.tempoBpm / 60),
      (to / RATE) * (document.ground.tempoBpm / 60),
      within,
    ]),
  );

describe('meetings', () => {
  it('run from the later start to the next hit, the note’s end or the next note, and one begun before the note counts', () => {
    const held = sound([{ tick: 240, ticks: 1200 }], [0, 1, 2, 3]);
    expect(inBeats(held)).toEqual([
      [
        [0, 0.5, 1, false],
        [1, 1, 2, true],
        [2, 2, 3, true],
      ],
    ]);
    const overlapping = sound(
      [
        { tick: 0, ticks: 960 },
        { tick: 480, ticks: 480, pitch: 31 },
      ],
      [0],
    );
    expect(inBeats(overlapping)).toEqual([[[0, 0, 1, true]], [[0, 1, 2, false]]]);
    const several = {
      ...overlapping,
      layers: overlapping.layers.map((layer) => ({
        ...layer,
        voice: { ...layer.voice, notes: 'several' as const },
      })),
    };
    expect(inBeats(several)[0]).toEqual([[0, 0, 2, true]]);
    const lowest = {
      ...overlapping,
      layers: overlapping.layers.map((layer) => ({
        ...layer,
        voice: { ...layer.voice, notes: 'lowest' as const },
      })),
    };
    expect(inBeats(lowest)[0]).toEqual([[0, 0, 2, true]]);
  });

  it('run round the loop: the last hit rings on into its start', () => {
    expect(inBeats(sound([{ tick: 0, ticks: 240 }], [7]))).toEqual([[[0, 0, 0.5, false]]]);
    expect(inBeats(sound([{ tick: 0, ticks: 240 }], []))).toEqual([[]]);
    expect(
      inBeats({ ...sound([{ tick: 0, ticks: 240 }], [0]), kick: { ...sound([], [0]).kick, on: false } }),
    ).toEqual([[]]);
  });

  it('have the phase of their note, of the note before a tie, or with a restart of what sounded at the last hit', () => {
    const pitches = (document: SoundDocument) =>
      phasePitches(document, meetingStretches(document, framesOf(document), RATE));
    const tied = sound(
      [
        { tick: 0, ticks: 960, pitch: 29 },
        { tick: 960, ticks: 960, pitch: 32, tie: true },
      ],
      [0, 1, 2, 3],
    );
    expect(pitches(tied)).toEqual([
      [29, 29],
      [29, 29],
    ]);
    const restarted = {
      ...tied,
      layers: tied.layers.map((layer) => ({
        ...layer,
        voice: { ...layer.voice, restart: 'note and kick' as const },
      })),
    };
    expect(pitches(restarted)).toEqual([
      [29, 29],
      [32, 32],
    ]);
    // The tied note begins after the hit under which it sounds: its phase is that of the note that sounded at
    // the hit.
    const between = sound(
      [
        { tick: 0, ticks: 720, pitch: 29 },
        { tick: 720, ticks: 900, pitch: 32, tie: true },
      ],
      [0, 1, 2, 3],
    );
    expect(pitches({ ...between, layers: restarted.layers })).toEqual([
      [29, 29],
      [29, 32, 32],
    ]);
    // A gap ends the tie, and notes tied all the way round have no start.
    expect(
      pitches(
        sound(
          [
            { tick: 0, ticks: 240, pitch: 29 },
            { tick: 480, ticks: 240, pitch: 32, tie: true },
          ],
          [0, 1],
        ),
      ),
    ).toEqual([[29], [32]]);
    expect(
      pitches(
        sound(
          [
            { tick: 0, ticks: 1920, pitch: 29, tie: true },
            { tick: 1920, ticks: 1920, pitch: 32, tie: true },
          ],
          [0, 4],
        ),
      ),
    ).toEqual([[null], [null]]);
  });

  it('spread by the narrowest arc that holds their bearings', () => {
    expect(spreadDeg([10])).toBeNull();
    expect(spreadDeg([-170, 170])).toBeCloseTo(20, 9);
    expect(spreadDeg([0, 90, 180])).toBeCloseTo(180, 9);
    expect(spreadDeg([10, 130, 250])).toBeCloseTo(240, 9);
  });
});

/**
 * Six hits of a decaying sine of `kickHz` under a sine of `hz` held over all of them, without the engine; and
 * what the formulas say of each meeting.
 */
function heldOver({
  hz,
  kickHz,
  tempoBpm,
  tauS,
  level,
}: {
  hz: number;
  kickHz: number;
  tempoBpm: number;
  tauS: number;
  level: number;
}) {
  const document = sound([{ tick: 240, ticks: 3240 }], [1, 2, 3, 4, 5, 6], { tempoBpm, hz });
  const frames = framesOf(document);
  const beat = (60 * RATE) / tempoBpm;
  // It begins gently, so that the filters spread little of it.
  const attackS = 0.03;
  const envelope = (t: number) =>
    t < 0 ? 0 : Math.min(1, t / attackS) ** 2 * (3 - 2 * Math.min(1, t / attackS)) * Math.exp(-t / tauS);
  const kick = new Float32Array(frames);
  for (let h = 1; h <= 6; h++) {
    // A hit gives way to the next, as a kick does.
    const end = Math.round((h + 1) * beat);
    for (let i = Math.round(h * beat); i < frames; i++)
      kick[i] +=
        envelope((i - h * beat) / RATE) *
        Math.sin((2 * Math.PI * kickHz * (i - h * beat)) / RATE) *
        Math.max(0, Math.min(1, (end - i) / (0.01 * RATE)));
  }
  const bass = Float32Array.from(
    { length: frames },
    (_, i) =>
      level *
      Math.max(0, Math.min(1, (i - 0.5 * beat) / (0.02 * RATE), (7.25 * beat - i) / (0.02 * RATE))) *
      Math.sin((2 * Math.PI * hz * i) / RATE),
  );
  const lows = { kick: lowBand(kick, RATE, 120, true), bass: lowBand(bass, RATE, 120, true) };
  const [note] = lockNotes(document, lows.kick, lows.bass);
  /** The sums of the definition over ideal analytic signals, sample by sample, in the window of 30 dB. */
  const gainOf = (hit: number) => {
    const length = beat / RATE;
    const peak = Math.max(...Array.from({ length: 400 }, (_, i) => envelope((i * length) / 400)));
    let [ek, eb, re] = [0, 0, 0];
    for (let i = 0; i < 20000; i++) {
      const t = (i * length) / 20000;
      const a = envelope(t);
      if (a < peak * 10 ** (-30 / 20)) continue;
      ek += a * a;
      eb += level * level;
      re += a * level * Math.cos(2 * Math.PI * ((hz - kickHz) * t + hz * (hit + 1) * length));
    }
    return 10 * Math.log10(1 + (2 * re) / (ek + eb));
  };
  return { document, note, gainOf, lows };
}

describe('a sine held over hits of a decaying sine', () => {
  it('moves its bearing on from hit to hit by 360°·frac(f·T), and stands at each hit as the formula says (100 of them)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 40, max: 75, noNaN: true }),
        fc.double({ min: 100, max: 170, noNaN: true }),
        fc.double({ min: 0.06, max: 0.14, noNaN: true }),
        fc.double({ min: -0.15, max: 0.15, noNaN: true }),
        fc.double({ min: 0.4, max: 1, noNaN: true }),
        (hz, tempoBpm, tauS, apart, level) => {
          const { note, gainOf } = heldOver({ hz, kickHz: hz * 2 ** (apart / 12), tempoBpm, tauS, level });
          expect(note.meetings.map(({ hit }) => hit)).toEqual([0, 1, 2, 3, 4, 5]);
          const perBeat = (hz * 60) / tempoBpm;
          note.meetings.forEach(({ lock }, m) => {
            if (!isLock(lock)) throw new Error(lock.reason);
            expect(Math.abs(lock.sumGainDb - gainOf(m))).toBeLessThan(0.15);
            const before = m > 0 ? note.meetings[m - 1].lock : null;
            if (before && isLock(before))
              expect(
                Math.abs(wrapDegrees(lock.bearingDeg! - before.bearingDeg! - 360 * (perBeat % 1))),
              ).toBeLessThan(1);
          });
          // The worst of them is the note's figure.
          expect(isLock(note.lock) && note.lock.sumGainDb).toBe(
            Math.min(...note.meetings.map(({ lock }) => (isLock(lock) ? lock.sumGainDb : Infinity))),
          );
        },
      ),
      { numRuns: 100, seed: 5 },
    );
  });

  it('beats where the pitches differ: told with both and never shown as a lock; which cause holds is told apart', () => {
    const { document, note } = heldOver({ hz: 43.654, kickHz: 58.27, tempoBpm: 120, tauS: 0.12, level: 0.8 });
    expect(note.meetings.every(({ lock }) => beats(lock))).toBe(true);
    const { lock } = note;
    if (!isLock(lock) || !lock.noPhase) throw new Error('a lock without a phase is wanted');
    expect(lock.noPhase.kickHz).toBeCloseTo(58.27, 0);
    expect(lock.noPhase.bassHz).toBeCloseTo(43.654, 1);
    expect(Math.abs(lock.noPhase.cents - 1200 * Math.log2(58.27 / 43.654))).toBeLessThan(5);
    expect(Math.abs(lock.noPhase.beatsHz - 14.6)).toBeLessThan(0.2);
    expect(lineLock(document, [note])).toMatchObject({
      worstSumGainDb: null,
      meetings: 6,
      beating: 6,
      withoutPhase: 6,
      adds: false,
      verdict: 'watch',
    });
  });
});

describe('meetings of rendered loops', () => {
  // The definition once more, by SciPy: Kaiser FIR (firwin, kaiserord) and a second-order Butterworth
  // high-pass, both without delay, and scipy.signal.hilbert on three rounds of the loop.
  const program = `
out = []
for kick, bass, meetings in data['loops']:
    rate = data['rate']
    n = len(kick)
    taps, beta = signal.kaiserord(80, (120 / 3) / (rate / 2))
    fir = signal.firwin(taps | 1, 120, window=('kaiser', beta), fs=rate)
    b, a = signal.butter(2, 15, 'high', fs=rate)
    def low(x):
        x = np.tile(np.array(x), 3)
        y = signal.filtfilt(b, a, np.convolve(x, fir, 'same'))
        return signal.hilbert(y)
    k, s = low(kick), low(bass)
    gains = []
    for fr, to in meetings:
        i = slice(n + int(round(fr * rate)), n + int(round(to * rate)))
        ak, ab = k[i], s[i]
        w = (abs(ak) >= abs(ak).max() * 10 ** -1.5) & (abs(ab) >= abs(ab).max() * 10 ** -1.5)
        ek, eb = (abs(ak[w]) ** 2).sum(), (abs(ab[w]) ** 2).sum()
        c = (ab[w] * ak[w].conj()).sum()
        gains.append([10 * np.log10(1 + 2 * c.real / (ek + eb)), np.degrees(np.angle(c)), abs(c) / np.sqrt(ek * eb)])
    out.append(gains)
print(json.dumps(out))`;

  it('are those that SciPy finds: a held note, restarted and not, short ones, and the demo', () => {
    const line = (restart: 'note' | 'note and kick', notes: readonly Partial<LineNote>[]) => {
      const made = cleanSound();
      made.kick.made.tailHz = 44.4;
      made.layers[0].voice.restart = restart;
      made.line.notes = notes.map((note) => cleanNote(note));
      return made;
    };
    const held = [
      { tick: 0, ticks: 1860 },
      { tick: 1920, ticks: 1800, pitch: 31 },
    ];
    const sounds = [
      line('note', held),
      line('note and kick', held),
      line('note', [
        { tick: 240, ticks: 400 },
        { tick: 720, ticks: 900 },
      ]),
      mudLine(),
      slackWater(),
    ];
    const rendered = sounds.map((each) => {
      const { kick, bass } = renderLoop(each, { sampleRateHz: RATE, stems: 'none' });
      const mono = ({ left, right }: typeof kick) => Array.from(left, (x, i) => 0.5 * (x + right[i]));
      const lows = [mono(kick), mono(bass)] as const;
      const low = (x: readonly number[]) => lowBand(x, RATE, 120, true);
      const rate = low(lows[0]).rateHz;
      return {
        lows,
        meetings: lockNotes(each, low(lows[0]), low(lows[1]))
          .flatMap((note) => note.meetings)
          .map((meeting) => ({ ...meeting, fromS: meeting.from / rate, toS: meeting.to / rate })),
      };
    });
    const wanted = python<[number, number, number][][]>(program, {
      rate: RATE,
      loops: rendered.map(({ lows, meetings }) => [...lows, meetings.map(({ fromS, toS }) => [fromS, toS])]),
    });
    let compared = 0;
    rendered.forEach(({ meetings }, s) =>
      meetings.forEach(({ lock }, m) => {
        if (!isLock(lock)) return;
        const [gain, bearing, coherence] = wanted[s][m];
        expect(Math.abs(lock.sumGainDb - gain)).toBeLessThan(0.02);
        expect(Math.abs(lock.coherence - coherence)).toBeLessThan(0.01);
        if (lock.bearingDeg !== null)
          expect(Math.abs(wrapDegrees(lock.bearingDeg - bearing))).toBeLessThan(0.5);
        compared++;
      }),
    );
    expect(compared).toBeGreaterThan(30);
  });
});

describe('ducking', () => {
  it('keeps apart where even a bass that cancelled all the time would take little; whether every meeting adds is asked of the same', () => {
    const { document, lows } = heldOver({
      hz: noteToHz(29),
      kickHz: 58.27,
      tempoBpm: 120,
      tauS: 0.1,
      level: 0.8,
    });
    const ducked = { ...document, duck: { ...document.duck, on: true } };
    const perBeat = lows.bass.re.length / 8;
    const lowered = (holdS: number, depth: number) => {
      const gain = (i: number) =>
        (((i - perBeat) % perBeat) + perBeat) % perBeat < holdS * lows.bass.rateHz ||
        perBeat - ((((i - perBeat) % perBeat) + perBeat) % perBeat) < 0.02 * lows.bass.rateHz
          ? depth
          : 1;
      return {
        ...lows.bass,
        re: lows.bass.re.map((x, i) => x * gain(i)),
        im: lows.bass.im.map((x, i) => x * gain(i)),
      };
    };
    const reasons = (bass: typeof lows.bass) =>
      lockNotes(ducked, lows.kick, bass)[0].meetings.map(({ lock }) => (isLock(lock) ? null : lock.reason));
    expect(reasons(lowered(0.3, 0.02))).toEqual(Array(6).fill('kept apart'));
    expect(reasons(lowered(0.3, 0.7))).toEqual(Array(6).fill(null));
    expect(reasons(lowered(0.02, 0.02))).toEqual(Array(6).fill(null));
    for (const [bass, wanted] of [
      [lowered(0.3, 0.02), true],
      [lows.bass, false],
    ] as const) {
      expect(everyMeetingAdds(ducked, lows.kick, bass, 0.5)).toBe(wanted);
      expect(lineLock(ducked, lockNotes(ducked, lows.kick, bass)).adds).toBe(wanted);
    }
    // The same bass without ducking is not kept apart: it is only soft.
    expect(
      lockNotes(document, lows.kick, lowered(0.3, 0.02))[0].meetings.every(
        ({ lock }) => isLock(lock) || lock.reason !== 'kept apart',
      ),
    ).toBe(true);
  });
});

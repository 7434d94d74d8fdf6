import { noteToHz, parseNote } from '../music/index.js';
import { python } from '../testing/tools.js';
import { harmonicsOf, type Harmonics } from './harmonics.js';
import { listen } from './listen.js';
import { responseDb } from './response.js';
import { SYSTEMS } from './systems.js';

const RATE = 48000;
const NOTES = ['D1', 'F1', 'A1', 'D2', 'F2', 'C3'] as const;
type Note = (typeof NOTES)[number];
const hzOf = (note: Note) => noteToHz(parseNote(note)!);
const system = (id: string) => SYSTEMS.find((each) => each.id === id)!;

/** A note of harmonics at given amplitudes, as it is found in audio. */
function note(f0Hz: number, amplitude: (n: number) => number): Harmonics {
  const signal = new Float32Array(0.2 * RATE);
  for (let n = 1; n <= 40; n++) {
    const level = amplitude(n);
    if (level === 0) continue;
    for (let i = 0; i < signal.length; i++)
      signal[i] += level * Math.sin((2 * Math.PI * n * f0Hz * i) / RATE);
  }
  return harmonicsOf(signal, signal, RATE, f0Hz).harmonics!;
}
const db = (level: number) => 10 ** (level / 20);
type Amplitude = (n: number, hz: number) => number;
const made = new Map<string, Harmonics>();
const verdicts = (id: string, notes: readonly Note[], amplitude: Amplitude) =>
  notes.map((name) => {
    const key = `${amplitude.name} ${name}`;
    const found = made.get(key) ?? note(hzOf(name), (n) => amplitude(n, n * hzOf(name)));
    made.set(key, found);
    return listen(system(id), found).verdict;
  });

const sine = (n: number) => (n === 1 ? db(-9) : 0);
const three = (n: number) => [0, db(-9), db(-15), db(-22)][n] ?? 0;
const saw = (n: number) => db(-9) / n;
/** Butterworth's, 24 dB per octave at 200 Hz. */
const dull = (n: number, hz: number) => saw(n) / Math.sqrt(1 + (hz / 200) ** 8);
const square = (n: number) => (n % 2 === 1 ? db(-9) / n : 0);

// Values of the design's measures, found there with a prototype of its own.
describe('a note on a system', () => {
  it('that is a sine is lost where nothing plays its fundamental, and felt where something does', () => {
    expect(verdicts('phone', NOTES, sine)).toEqual(NOTES.map(() => 'lost'));
    expect(verdicts('laptop', NOTES, sine)).toEqual(['lost', 'lost', 'lost', 'lost', 'lost', 'felt']);
    expect(verdicts('radio', NOTES, sine)).toEqual(['lost', 'lost', 'felt', 'felt', 'felt', 'felt']);
  });

  it('is implied by a second and a third harmonic', () => {
    expect(verdicts('radio', ['D1', 'F1'], three)).toEqual(['implied', 'implied']);
    expect(verdicts('laptop', ['D2', 'F2'], three)).toEqual(['implied', 'implied']);
    expect(verdicts('phone', ['D2', 'F2'], three)).toEqual(['lost', 'lost']);
  });

  it('that is a saw is felt or implied everywhere; a dull one is lost on the phone and implied on the laptop', () => {
    for (const { id } of SYSTEMS) expect(verdicts(id, NOTES, saw)).not.toContain('lost');
    expect(verdicts('phone', NOTES, dull)).toEqual(NOTES.map(() => 'lost'));
    expect(verdicts('laptop', ['D1', 'F1', 'A1', 'D2', 'F2'], dull)).toEqual(Array(5).fill('implied'));
  });

  it('that is a square is implied on the laptop by its fifth and seventh', () => {
    expect(verdicts('laptop', ['D1'], square)).toEqual(['implied']);
  });

  it('of a second and a fourth harmonic alone implies the octave, not itself', () => {
    const even = (n: number) => (n === 2 || n === 4 ? db(-9) : 0);
    expect(verdicts('laptop', ['F2'], even)).toEqual(['lost']);
  });

  it('has a margin of 0 where it only just is heard', () => {
    const f0Hz = hzOf('A1');
    const { marginDb, harmonics } = listen(system('studio'), note(f0Hz, sine));
    expect(marginDb).toBeCloseTo(harmonics[0].splDb - harmonics[0].thresholdDb - 3, 9);
    const softer = (by: number) =>
      listen(
        system('studio'),
        note(f0Hz, (n) => db(by) * sine(n)),
      );
    expect(softer(0.1 - marginDb).verdict).toBe('felt');
    expect(softer(-0.1 - marginDb).verdict).toBe('lost');
  });

  it('is held down to what the system gives at most', () => {
    const loud = listen(
      system('phone'),
      note(800, (n) => (n <= 2 ? 1 : 0)),
    );
    const sum = 10 * Math.log10(loud.harmonics.reduce((all, { splDb }) => all + 10 ** (splDb / 10), 0));
    expect(sum).toBeCloseTo(82, 6);
  });

  it('loses on a mono system what its sides cancel, and on the club stack only below 120 Hz', () => {
    const opposed = (f0Hz: number) => {
      const left = Float32Array.from(
        { length: 0.3 * RATE },
        (_, i) => 0.5 * Math.sin((2 * Math.PI * f0Hz * i) / RATE),
      );
      return harmonicsOf(
        left,
        left.map((x) => -x),
        RATE,
        f0Hz,
      ).harmonics!;
    };
    expect(listen(system('club'), opposed(60)).verdict).toBe('lost');
    expect(listen(system('club'), opposed(200)).verdict).toBe('felt');
    expect(listen(system('studio'), opposed(60)).verdict).toBe('felt');
    expect(listen(system('radio'), opposed(200)).verdict).toBe('lost');
  });
});

// Butterworth's passes of SciPy, and its response of the transfer functions that the design writes down.
it('systems respond as SciPy has their parts one after another', () => {
  const hzs = [20, 31.5, 50, 80, 120, 200, 480, 900, 2500, 5000, 11000, 16000];
  const want = python<number[][]>(
    `
systems, hzs = data
w = 2 * np.pi * np.array(hzs)
def part(p):
    w0 = 2 * np.pi * p['hz']
    if p['kind'].endswith('pass'):
        b, a = signal.butter(p['order'], w0, p['kind'].replace('-', ''), analog=True)
    elif p['kind'] == 'bell':
        A = 10 ** (p['gainDb'] / 40)
        b, a = [1 / w0**2, A / p['q'] / w0, 1], [1 / w0**2, 1 / (A * p['q']) / w0, 1]
    else:
        g = 10 ** (p['gainDb'] / 20)
        b, a = ([1 / w0, g] if p['kind'] == 'low shelf' else [g / w0, 1]), [1 / w0, 1]
    return np.abs(signal.freqs(b, a, w)[1])
print(json.dumps([list(20 * np.log10(np.prod([part(p) for p in s], axis=0))) for s in systems]))
`,
    [SYSTEMS.map(({ response }) => response), hzs],
  );
  SYSTEMS.forEach(({ response }, s) => {
    hzs.forEach((hz, k) => {
      expect(responseDb(response, hz)).toBeCloseTo(want[s][k], 6);
    });
  });
});

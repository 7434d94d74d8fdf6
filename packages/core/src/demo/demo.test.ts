import { chainFigureSteps } from '../chains/index.js';
import { findChainProblems, findProblems, type SoundDocument, type UnitPlace } from '../document/index.js';
import { renderLoop, type Stereo } from '../engine/index.js';
import { soundingOf } from '../figures/index.js';
import { python } from '../testing/tools.js';
import { toEnd } from '../units/index.js';
import {
  demoChains,
  demoSounds,
  hollowPier,
  mudLine,
  slackWater,
  sluiceTalker,
  trenchGrowl,
} from './index.js';

const RATE = 48000;
/** Bands in Hz, by name. */
const BANDS = {
  lows: [20, 110],
  body: [250, 1000],
  mids: [1000, 4000],
  tops: [4000, 12000],
} as const;

interface BandFigures {
  /** Level against the whole, both sides together. */
  readonly levelDb: number;
  /** Level of the sides against the middle. */
  readonly sideDb: number;
  /** From the tenth to the ninetieth of a hundred windows of 20 ms, ordered by their level. */
  readonly movesDb: number;
  /** The slowest strong rate of its level, in Hz. */
  readonly rateHz: number;
}

/** What SciPy finds in the bands of a loop: levels by NumPy's FFT, windows behind Butterworth's band-pass. */
function bandsOf({ left, right }: Stereo): Record<keyof typeof BANDS, BandFigures> {
  const packed = (side: Float32Array) =>
    Buffer.from(side.buffer, side.byteOffset, side.byteLength).toString('base64');
  return python(
    `
import base64
left, right = (np.frombuffer(base64.b64decode(data[side]), np.float32).astype(float) for side in ('left', 'right'))
middle, side = (left + right) / 2, (left - right) / 2
hz = np.fft.rfftfreq(len(left), 1 / data['rate'])
def power(audio, low, high):
    return np.sum(np.abs(np.fft.rfft(audio)[(hz >= low) & (hz < high)]) ** 2)
whole = power(left, 0, 1e9) + power(right, 0, 1e9)
window = data['rate'] // 50
result = {}
for name, (low, high) in data['bands'].items():
    audio = signal.sosfiltfilt(signal.butter(4, [low, high], 'band', fs=data['rate'], output='sos'), np.tile(middle, 3))
    audio = audio[len(middle):2 * len(middle)]
    levels = np.mean(audio[:len(audio) // window * window].reshape(-1, window) ** 2, axis=1)
    decibels = 10 * np.log10(levels + 1e-14)
    rates = np.abs(np.fft.rfft(np.sqrt(levels) - np.mean(np.sqrt(levels))))
    result[name] = dict((key, float(value)) for key, value in {
        'levelDb': 10 * np.log10((power(left, low, high) + power(right, low, high)) / whole),
        'sideDb': 10 * np.log10(power(side, low, high) / power(middle, low, high) + 1e-14),
        'movesDb': np.subtract(*np.percentile(decibels, [90, 10])),
        'rateHz': np.argmax(rates) / (len(levels) * window / data['rate']),
    }.items())
print(json.dumps(result))
`,
    { left: packed(left), right: packed(right), rate: RATE, bands: BANDS },
  );
}

const bassOf = (sound: SoundDocument) => renderLoop(sound, { sampleRateHz: RATE, stems: 'none' }).bass;

describe('the demo record', () => {
  it('is whole, each sound with a name of its own', () => {
    const sounds = demoSounds();
    expect(sounds.flatMap((sound) => findProblems(sound))).toEqual([]);
    expect(new Set(sounds.map(({ name }) => name)).size).toBe(sounds.length);
  });

  it.each([
    ['Trench Growl', trenchGrowl],
    ['Sluice Talker', sluiceTalker],
  ])('%s growls: rough on top, moving in more than one band, wide above the lows alone', (_, make) => {
    const { lows, body, mids, tops } = bandsOf(bassOf(make()));
    expect(mids.levelDb).toBeGreaterThan(-16);
    expect(tops.levelDb).toBeGreaterThan(-30);
    for (const { movesDb } of [body, mids, tops]) expect(movesDb).toBeGreaterThan(6);
    expect(lows.sideDb).toBeLessThan(-30);
    for (const { sideDb } of [body, mids, tops]) expect(sideDb).toBeGreaterThan(-13);
  });

  it.each([
    ['Trench Growl', trenchGrowl],
    ['Sluice Talker', sluiceTalker],
    ['Hollow Pier', hollowPier],
  ])('%s locks and stays whole in mono for all its grit', (_, make) => {
    const { figures } = soundingOf(make(), { sampleRateHz: RATE });
    const figure = (id: string) => figures.find((found) => found.id === id)!;
    expect(figure('kickLock').figure.value).toBeGreaterThan(1);
    expect(figure('lowMono').verdict).toBe('holds');
    expect(figure('highMono').verdict).toBe('holds');
  });

  it('Mud Line has a body that is heard, Slack Water stays a bare sub', () => {
    expect(bandsOf(bassOf(mudLine())).body.levelDb).toBeGreaterThan(-14);
    expect(bandsOf(bassOf(slackWater())).body.levelDb).toBeLessThan(-20);
  });

  it('Hollow Pier wobbles behind its distortion, at the rate of its wobble', () => {
    const { lows, mids, tops } = bandsOf(bassOf(hollowPier()));
    expect(mids.movesDb).toBeGreaterThan(12);
    expect(lows.sideDb).toBeLessThan(-25);
    expect(mids.sideDb).toBeGreaterThan(-10);
    // Once a beat of 140 bpm; a loop of eight beats tells rates an eighth of that apart.
    for (const { rateHz } of [mids, tops]) expect(rateHz).toBeCloseTo(140 / 60, 1);
    // Without the movers what the distortion makes stands still.
    const still = hollowPier();
    for (const mover of still.movers) mover.on = false;
    expect(bandsOf(bassOf(still)).mids.movesDb).toBeLessThan(mids.movesDb / 2);
  });
});

describe('the chains that come with it', () => {
  const STAND: Readonly<Record<string, [SoundDocument, UnitPlace]>> = {
    Barnacle: [mudLine(), { in: 'band', id: 'band-1' }],
    Undertow: [hollowPier(), { in: 'band', id: 'band-1' }],
    'Siren Mouth': [sluiceTalker(), { in: 'band', id: 'band-2' }],
    'Rip Current': [trenchGrowl(), { in: 'band', id: 'band-3' }],
  };

  it('are whole', () => {
    expect(demoChains().flatMap((chain) => findChainProblems(chain))).toEqual([]);
  });

  it.each(demoChains().filter(({ figures }) => figures))('$name does what it says', ({ name, figures }) => {
    const [sound, place] = STAND[name];
    const { units } = toEnd(chainFigureSteps(sound, place, { sampleRateHz: RATE }));
    const [before, after] = [units[0].before, units[units.length - 1].after];
    expect(after.loudnessLufs! - before.loudnessLufs!).toBeCloseTo(figures!.loudnessLu, 1);
    expect(after.crestDb! - before.crestDb!).toBeCloseTo(figures!.crestDb, 1);
  });
});

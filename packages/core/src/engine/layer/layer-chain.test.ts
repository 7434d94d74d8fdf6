import {
  cleanLayer,
  cleanLink,
  cleanNote,
  cleanSound,
  cleanTone,
  cleanUnit,
  type GritUnit,
  type SoundDocument,
} from '../../document/index.js';
import { RATE } from '../../testing/signals.js';
import { createEngine } from '../hosts/engine.js';
import { renderLoop } from '../hosts/render-loop.js';

/** One layer of a sine with units of its own, straight to the sum. */
function layered(chain: GritUnit[], patch: Partial<SoundDocument['layers'][number]> = {}): SoundDocument {
  const sound = cleanSound();
  const layer = cleanLayer('body', { id: 'body' });
  return {
    ...sound,
    ground: { ...sound.ground, bars: 1, tempoBpm: 120 },
    kick: { ...sound.kick, on: false },
    movers: [],
    links: [],
    layers: [
      {
        ...layer,
        tones: [cleanTone({ ...layer.tones[0], on: true }), ...layer.tones.slice(1)],
        filters: layer.filters.map((filter) => ({ ...filter, on: false })),
        loudness: { ...layer.loudness, attackMs: 2, decayMs: 1, sustainPct: 100, releaseMs: 10 },
        levelDb: -6,
        ...patch,
        chain,
      },
    ],
    line: { notes: [cleanNote({ tick: 0, ticks: 480, pitch: 41 })] },
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: false },
      bands: [{ ...sound.grit.bands[0], units: [] }],
    },
    output: { levelDb: -12, ceilingDb: 0 },
  };
}

const bassOf = (sound: SoundDocument) => renderLoop(sound, { sampleRateHz: RATE, stems: 'none' }).bass;
const rms = (x: Float32Array, fromMs: number, toMs: number) => {
  const part = x.subarray(Math.round((fromMs * RATE) / 1000), Math.round((toMs * RATE) / 1000));
  return Math.sqrt(part.reduce((sum, each) => sum + each * each, 0) / part.length);
};
const dB = (ratio: number) => 20 * Math.log10(ratio);

describe('the units of a layer', () => {
  it('come before its level: a layer that is softer is driven as hard', () => {
    const chain = [cleanUnit('hard clip', { id: 'clip', driveDb: 24 })];
    const loud = bassOf(layered(chain, { levelDb: 0 })).left;
    const soft = bassOf(layered(chain, { levelDb: -20 })).left;
    const rest = loud.map((x, i) => x - 10 * soft[i]);
    expect(dB(rms(rest, 0, 2000) / rms(loud, 0, 2000))).toBeLessThan(-80);
    // And it is driven: without the unit it has another wave.
    const plain = bassOf(layered([], { levelDb: 0 })).left;
    expect(dB(rms(loud, 100, 200) / rms(plain, 100, 200))).toBeGreaterThan(3);
  });

  it('ring on after its notes, for as long as they hold something back', () => {
    const echoes = [
      cleanUnit('delay', {
        id: 'echo',
        timing: 'ms',
        ms: 700,
        feedbackPct: 0,
        wetPct: 50,
        pingPong: false,
        driveDb: 0,
      }),
    ];
    const { left } = bassOf(layered(echoes));
    // The note ends at 500 ms; its echo begins at 700.
    expect(rms(left, 560, 680)).toBeLessThan(1e-4);
    expect(dB(rms(left, 800, 1100) / rms(left, 100, 400))).toBeGreaterThan(-8);
    expect(rms(left, 1300, 1900)).toBeLessThan(1e-4);
  });

  it('make it stereo where one of them does, and only then', () => {
    const { left, right } = bassOf(
      layered([cleanUnit('chorus', { id: 'wide', aboveHz: 20, wetPct: 60, spreadPct: 100 })]),
    );
    const side = left.map((x, i) => x - right[i]);
    expect(dB(rms(side, 200, 450) / rms(left, 200, 450))).toBeGreaterThan(-30);
    const mono = bassOf(layered([cleanUnit('tube', { id: 'tube' })]));
    expect(mono.right).toBe(mono.left);
  });

  it('are moved by links, each by its id', () => {
    const drive = (macro: number): SoundDocument => {
      const sound = layered([
        cleanUnit('hard clip', { id: 'a', driveDb: 0 }),
        cleanUnit('tilt', { id: 'b', tiltDb: 0, levelDb: 0 }),
      ]);
      return {
        ...sound,
        macros: sound.macros.map((each, m) => (m === 0 ? { ...each, valuePct: macro } : each)),
        links: [
          cleanLink({
            id: 'to-b',
            mover: 'macro-1',
            target: 'units.b.levelDb',
            reachPct: -50,
            way: 'one way',
          }),
        ],
      };
    };
    const change = dB(rms(bassOf(drive(100)).left, 100, 400) / rms(bassOf(drive(0)).left, 100, 400));
    // Half of the range from −48 to 24 dB.
    expect(change).toBeCloseTo(-36, 0);
  });

  it('are exchanged while the layer plays: others, another order, another kind of the same id', () => {
    const tube = cleanUnit('tube', { id: 'one', driveDb: 12 });
    const states: GritUnit[][] = [
      [tube],
      [],
      [cleanUnit('delay', { id: 'two' }), tube],
      [tube, cleanUnit('delay', { id: 'two' })],
      [cleanUnit('hall', { id: 'one' })],
      [{ ...tube, on: false }],
    ];
    const engine = createEngine(layered(states[0]), { sampleRateHz: RATE });
    const [left, right] = [new Float32Array(128), new Float32Array(128)];
    engine.play();
    let loud = 0;
    for (let block = 0; block < 240; block++) {
      if (block % 40 === 20) engine.update(layered(states[((block / 20) % states.length) | 0]));
      engine.settle();
      engine.render(left, right, 128);
      for (const x of left) {
        expect(Number.isFinite(x)).toBe(true);
        loud = Math.max(loud, Math.abs(x));
      }
    }
    expect(loud).toBeGreaterThan(0.02);
    expect(loud).toBeLessThan(1);
  });
});

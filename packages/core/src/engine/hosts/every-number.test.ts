import {
  cleanLink,
  cleanFilter,
  cleanSource,
  cleanMover,
  FILTER_MODES,
  movableValues,
  moverShape,
  soundingValues,
  toPosition,
  type Filter,
  type Layer,
  type MoverKind,
  type ToneKind,
} from '../../document/index.js';
import { bareLayer, playNote, type NoteOptions } from '../../testing/play-note.js';

const RATE = 24000;
const RECORDING = 'd'.repeat(64);
const assets = new Map([
  [
    RECORDING,
    {
      sampleRateHz: RATE,
      channels: [
        Float32Array.from({ length: 24000 }, (_, i) => 0.5 * Math.sin(i / 9) * Math.exp(-i / 20000)),
      ],
    },
  ],
]);
const zone = {
  asset: RECORDING,
  fileName: 'a.wav',
  rootPitch: 45,
  lowPitch: 0,
  highPitch: 127,
  lowVelocity: 1,
  highVelocity: 127,
  loop: null,
};
const SOURCES = {
  shape: cleanSource('shape', { shape: 'pulse', widthPct: 30 }),
  harmonics: cleanSource('harmonics', { b: { levelsDb: [-20, 0], phasesDeg: [] }, positionPct: 20 }),
  frames: cleanSource('frames', { table: 'growl mouth', positionPct: 30 }),
  fm: (() => {
    const fm = cleanSource('fm');
    return {
      ...fm,
      oscillators: fm.oscillators.map((o, i) => ({ ...o, levelPct: i === 0 ? 80 : 20 })),
      matrix: fm.matrix.map(() => 0.3),
    };
  })(),
  vowel: cleanSource('vowel', { positionPct: 30 }),
  noise: cleanSource('noise'),
  sample: cleanSource('sample', { zones: [zone] }),
} as const;

const options: NoteOptions = { pitch: 45, seconds: 0.4, sampleRateHz: RATE, assets };
const play = (layer: Layer, more: NoteOptions = {}) => playNote(layer, { ...options, ...more });
/** Root mean square of what two plays differ by, over what the first is loud. */
function differs(a: ReturnType<typeof play>, b: ReturnType<typeof play>): number {
  let gap = 0;
  let loud = 0;
  for (let i = 0; i < a.left.length; i++) {
    const [ar, br] = [a.stereo ? a.right[i] : a.left[i], b.stereo ? b.right[i] : b.left[i]];
    gap += (a.left[i] - b.left[i]) ** 2 + (ar - br) ** 2;
    loud += a.left[i] ** 2 + ar ** 2;
  }
  return Math.sqrt(gap / loud);
}

/** A link from a wobble that stands high from the note's start on. */
function linked(layer: Layer, target: string, reachPct: number): NoteOptions {
  const mover = {
    ...cleanMover('wobble'),
    rateIn: 'hertz' as const,
    rateHz: 0.02,
    smoothMs: 0,
    nodes: [
      { x: 0, y: 1, bend: 0 },
      { x: 1, y: 1, bend: 0 },
    ],
  };
  return {
    document: {
      movers: [mover],
      links: [cleanLink({ id: 'l', mover: mover.id, target: `layers.${layer.id}.${target}`, reachPct })],
    },
  };
}

/** Numbers that are not heard in the layer as the test has it, and why. */
const UNHEARD: Readonly<Record<string, string>> = {
  'tones.0.fixedHz': 'the tone follows the note',
  'tones.0.driftHz': 'there is no drift to be sped up',
  'acts.two.amountPct': 'tone 2 is off',
  'acts.three.amountPct': 'tone 3 is off',
  'acts.backPct': 'tone 2 is off',
  'acts.widthPct': 'nothing is switched',
  'acts.smoothPct': 'nothing is switched',
  'feedback.amountPct': 'it is off',
  'feedback.delayMs': 'it is off',
};
/** What is not told apart by a kind: noise has no pitch, and only single cycles have copies. */
function deaf(kind: ToneKind, field: string): boolean {
  if (field in UNHEARD) return true;
  if (kind === 'noise') return /tones\.0\.(cents|detuneCents|spreadPct|driftCents)/.test(field);
  if (kind === 'fm' || kind === 'vowel') return /tones\.0\.(detuneCents|spreadPct)/.test(field);
  return kind === 'sample' && /tones\.0\.(detuneCents|spreadPct|driftCents)/.test(field);
}

describe('every number that movers may reach', () => {
  it.each(Object.keys(SOURCES) as ToneKind[])(
    'of a tone of the kind %s is heard when a mover carries it',
    (kind) => {
      const layer = bareLayer([
        {
          copies: kind === 'shape' || kind === 'frames' || kind === 'harmonics' ? 3 : 1,
          source: SOURCES[kind],
        },
      ]);
      const plain = play(layer);
      expect(Math.max(...plain.left.map(Math.abs))).toBeGreaterThan(0.02);
      for (const { field, row, value } of movableValues(layer, true)) {
        if (deaf(kind, field)) continue;
        const reach = toPosition(row, value) > 0.5 ? -40 : 40;
        const heard = differs(plain, play(layer, linked(layer, field, reach)));
        if (!(heard > 1e-4)) throw new Error(`${field} is not heard: ${heard}`);
      }
    },
  );

  it.each(FILTER_MODES)('of a %s filter is heard when a mover carries it', (mode) => {
    const filter: Filter = {
      ...cleanFilter({ on: true, mode, cutoffHz: 300, resonancePct: 30, widthOct: 0.3 }),
    };
    const layer = bareLayer([{}], { filters: [filter, cleanFilter()] });
    const plain = play(layer);
    for (const { field, row, value } of movableValues(layer, true)) {
      if (!field.startsWith('filters.0.') || (field.endsWith('vowelPct') && mode !== 'vowel')) continue;
      const heard = differs(
        plain,
        play(layer, linked(layer, field, toPosition(row, value) > 0.5 ? -30 : 30)),
      );
      if (!(heard > 1e-3)) throw new Error(`${field} is not heard: ${heard}`);
    }
  });

  it('of what tones do to each other, and of feedback, is heard', () => {
    const layer = bareLayer([{}, { octave: 1, levelDb: -60 }, { octave: 2, levelDb: -60 }], {
      feedback: { on: true, way: 'clip', amountPct: 30, delayMs: 2 },
    });
    const steered: Layer = {
      ...layer,
      acts: {
        ...layer.acts,
        two: { way: 'steer', amountPct: 30 },
        three: { on: '2', way: 'ring', amountPct: 30 },
      },
    };
    const switched: Layer = {
      ...layer,
      acts: { ...layer.acts, three: { on: '1', way: 'alternate', amountPct: 100 }, smoothPct: 20 },
    };
    for (const [each, fields] of [
      [
        steered,
        [
          'acts.two.amountPct',
          'acts.three.amountPct',
          'acts.backPct',
          'feedback.amountPct',
          'feedback.delayMs',
        ],
      ],
      [switched, ['acts.widthPct', 'acts.smoothPct', 'acts.three.amountPct']],
    ] as const) {
      const plain = play(each);
      for (const field of fields)
        expect(
          differs(plain, play(each, linked(each, field, field === 'acts.three.amountPct' ? -30 : 30))),
        ).toBeGreaterThan(1e-3);
    }
  });
});

describe('every kind of mover', () => {
  const filter: Filter = {
    ...cleanFilter({ on: true, mode: 'low', cutoffHz: 300, resonancePct: 30, widthOct: 0.3 }),
  };
  const layer = bareLayer([{ copies: 3, spreadPct: 40, source: SOURCES.shape }], {
    filters: [filter, cleanFilter()],
  });
  const plain = play(layer);
  const fields = soundingValues(layer);

  // Both ways round the value: what stands all the way down carries as well.
  it.each(Object.keys(moverShape.cases) as MoverKind[])(
    '%s carries every number of a layer so that it is heard',
    (kind) => {
      const mover = cleanMover(kind);
      if (mover.kind === 'follower') mover.of = 'self';
      expect(fields.length).toBeGreaterThan(12);
      for (const { field } of fields) {
        if (deaf('shape', field)) continue;
        // What stands at an end of its range is heard to go one way only.
        const heard = [-30, 30].map((reachPct) => {
          const target = `layers.${layer.id}.${field}`;
          const link = cleanLink({ id: 'l', mover: mover.id, target, reachPct, way: 'both ways' });
          return differs(plain, play(layer, { document: { movers: [mover], links: [link] } }));
        });
        if (!(Math.max(...heard) > 1e-4)) throw new Error(`${field} is not heard through ${kind}`);
      }
    },
  );
});

describe('every kind of tone', () => {
  it.each(Object.keys(SOURCES) as ToneKind[])(
    '%s sounds the same at every turn with the same seed, and at the pitch of the note at any rate',
    (kind) => {
      const layer = bareLayer([{ source: SOURCES[kind] }]);
      const one = play(layer);
      const again = play(layer);
      expect(again.left.every((x, i) => x === one.left[i])).toBe(true);
      const loud = (rate: number) => {
        const { left } = play(layer, { sampleRateHz: rate });
        return Math.sqrt(left.reduce((sum, x) => sum + x * x, 0) / left.length);
      };
      // Noise spreads over what the rate has room for; its level is that of the whole.
      for (const rate of [44100, 96000])
        expect(Math.abs(20 * Math.log10(loud(rate) / loud(48000)))).toBeLessThan(1);
    },
  );

  it.each(Object.keys(SOURCES) as ToneKind[])('%s is centred by pan and level as any other', (kind) => {
    const layer = bareLayer([{ source: SOURCES[kind], panPct: 100 }]);
    const { left, right, stereo } = play(layer);
    expect(stereo).toBe(true);
    expect(Math.max(...left.map(Math.abs))).toBeLessThan(1e-9);
    expect(Math.max(...right.map(Math.abs))).toBeGreaterThan(0.02);
    const quiet = play(bareLayer([{ source: SOURCES[kind], levelDb: -60 }]));
    expect(Math.max(...quiet.left.map(Math.abs))).toBe(0);
  });

  it.each(Object.keys(SOURCES) as ToneKind[])(
    '%s keeps a fixed pitch whatever the note, where it has one',
    (kind) => {
      if (kind === 'noise' || kind === 'sample') return;
      const layer = bareLayer([{ source: SOURCES[kind], pitchIn: 'hertz', fixedHz: 110 }]);
      const [low, high] = [play(layer, { pitch: 30 }), play(layer, { pitch: 60 })];
      expect(differs(low, high)).toBeLessThan(1e-6);
    },
  );
});

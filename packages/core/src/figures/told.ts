import { filterMagnitude } from '../kinds/filters/index.js';
import type { Layer, SoundDocument } from '../document/index.js';
import { lowestTone, playsPitch, type LoopRender } from '../engine/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle, samplePeak } from '../measure/index.js';
import { noteName, noteToHz } from '../music/index.js';
import { barBeat, gainToDb, plain, signed } from '../units/index.js';
import type { EdgeClick, NoteFigures } from './passes/pass.js';
import { BELOW_HZ, toneLows, tonesAlone, type ToneOptions } from './tone-alone.js';

/**
 * Something that takes the lows away, told in words: where, what, and whether it is to be watched or is made
 * good elsewhere.
 */
export interface Told {
  readonly place: string;
  readonly text: string;
  readonly verdict: 'holds' | 'watch';
}

/** A sum gain under this is told (from the design). */
const LOST_DB = -1;
/** A Sub whose filter lowers its fundamental by more than this is told. */
const FILTER_DB = -6;
/**
 * A found pitch further from what is asked for than this is told, in cents: a filter that sweeps turns the
 * phases of the harmonics, and moves it by 10 to 20.
 */
const STRAYS_CENTS = 25;
/** A fundamental under this share of the clean path is cut. */
const CUT_UNDER = 0.9;
/** A sample under this is silence. */
const SILENT = 1e-4;
/** What holds less than this of the louder one's energy below 120 Hz has no lows to cancel. */
const LEAST_SHARE = 1e-3;

/**
 * Sum gain of two low bands over the whole, in dB: 10·log10(1 + 2·Re C/(E1 + E2)); null where one has next to
 * no lows.
 */
export function lowSumGainDb(a: LowBand, b: LowBand): number | null {
  let ea = 0;
  let eb = 0;
  let cross = 0;
  for (let i = 0; i < a.re.length; i++) {
    ea += a.re[i] ** 2 + a.im[i] ** 2;
    eb += b.re[i] ** 2 + b.im[i] ** 2;
    cross += a.re[i] * b.re[i] + a.im[i] * b.im[i];
  }
  if (Math.min(ea, eb) < LEAST_SHARE * Math.max(ea, eb) || ea + eb < 1e-9 * a.re.length) return null;
  return 10 * Math.log10(Math.max(1e-12, 1 + (2 * cross) / (ea + eb)));
}

/** Pairs of layers whose lows cancel in a rendered loop with stems. */
export function layersTold(
  document: SoundDocument,
  render: Pick<LoopRender, 'layers' | 'sampleRateHz'>,
): Told[] {
  const lows = render.layers.flatMap(({ id, left, right }) => {
    const layer = document.layers.find((candidate) => candidate.id === id);
    return layer?.on
      ? [{ layer, low: lowBand(middle([left, right]), render.sampleRateHz, BELOW_HZ, true) }]
      : [];
  });
  return lows.flatMap(({ layer, low }, i) =>
    lows.slice(i + 1).flatMap((other) => {
      const gain = lowSumGainDb(low, other.low);
      return gain !== null && gain < LOST_DB
        ? [
            {
              place: `${layer.id} ${other.layer.id}`,
              text: `${layer.name} and ${other.layer.name} cancel each other’s lows: ${plain(gain)} dB together below 120 Hz. Turn the start phase of one.`,
              verdict: 'watch',
            },
          ]
        : [];
    }),
  );
}

/** Tones of a layer whose lows cancel. */
function tonesTold(document: SoundDocument, layer: Layer, options: ToneOptions): Told[] {
  const on = tonesAlone(document, layer);
  const lows = on.map((tone) => toneLows(document, layer, tone, options));
  return on.flatMap((t, i) =>
    on.slice(i + 1).flatMap((other, j) => {
      const gain = lowSumGainDb(lows[i], lows[i + 1 + j]);
      return gain !== null && gain < LOST_DB
        ? [
            {
              place: `${layer.id} ${t} ${other}`,
              text: `${layer.name}: tones ${t + 1} and ${other + 1} cancel each other’s lows: ${plain(gain)} dB together below 120 Hz. Turn the start phase of one.`,
              verdict: 'watch',
            },
          ]
        : [];
    }),
  );
}

/** A Sub whose own filters lower its fundamental, at the note of the line that loses most. */
function subTold(document: SoundDocument, layer: Layer): Told[] {
  if (layer.role !== 'sub' || document.line.notes.length === 0) return [];
  const { octave, semitones } = lowestTone(document);
  const worst = Math.min(
    ...document.line.notes.map(({ pitch }) => {
      const hz = noteToHz(pitch + 12 * octave + semitones, document.ground.a4Hz);
      return layer.filters.reduce((db, filter) => {
        const cutoffHz = Math.min(20000, filter.cutoffHz * 2 ** (((pitch - 29) * filter.followPct) / 1200));
        const magnitude = filter.on ? filterMagnitude({ ...filter, cutoffHz }, hz, 48000) : 1;
        return db + (magnitude === null ? 0 : gainToDb(magnitude) + (filter.on ? filter.levelDb : 0));
      }, 0);
    }),
  );
  return worst < FILTER_DB
    ? [
        {
          place: `${layer.id} filter`,
          text: `${layer.name}’s filter takes its lows away: ${plain(worst)} dB at a fundamental of the line. Open it, or raise its key tracking.`,
          verdict: 'watch',
        },
      ]
    : [];
}

/**
 * A kick that gives its lows to the bass where no Sub can carry them, and has nothing above them: it is not
 * heard at all.
 */
function kickTold({ kick, layers }: SoundDocument, render: Pick<LoopRender, 'kick'>): Told[] {
  if (
    !kick.on ||
    !kick.shared ||
    kick.hits.length === 0 ||
    layers.some(({ on, role }) => on && role === 'sub')
  )
    return [];
  const peak = Math.max(samplePeak([render.kick.left]), samplePeak([render.kick.right]));
  return peak > SILENT
    ? []
    : [
        {
          place: 'kick',
          text: 'The kick is silent: with one oscillator for both, Sub plays its lows, but no Sub is on, and the kick has no click. Add a Sub at Layers, or give the kick its own oscillator at Ground.',
          verdict: 'watch',
        },
      ];
}

/** What in a sound can pull a note from its pitch, of what is switched on. */
function pullsOf({ layers, links, feedback }: SoundDocument): string[] {
  const on = layers.filter((layer) => layer.on);
  const tones = on.flatMap((layer) => layer.tones.filter((tone) => tone.on).map((tone) => ({ layer, tone })));
  return [
    tones.some(({ tone }) => tone.copies > 1 && tone.detuneCents > 0) ? 'copies that beat' : null,
    on.some(
      ({ acts, tones: own }) =>
        (own[1].on && acts.two.way !== 'add') || (own[2].on && acts.three.way !== 'add'),
    )
      ? 'tones that act on each other'
      : null,
    tones.some(({ tone }) => tone.source.kind === 'fm') ? 'FM' : null,
    feedback.on || on.some((layer) => layer.feedback.on) ? 'feedback' : null,
    links.some(({ on: linked, target }) => linked && /\.cents$|\.fixedHz$/.test(target))
      ? 'a mover on the pitch'
      : null,
    tones.some(({ tone }) => tone.pitchIn === 'hertz') ? 'a tone with a fixed pitch' : null,
    tones.some(({ tone }) => tone.driftCents > 0) ? 'drift' : null,
  ].filter((cause) => cause !== null);
}

/**
 * The note whose found pitch strays furthest from what it is asked for, where that is to be heard, and what
 * may pull it.
 */
export function pitchTold(document: SoundDocument, notes: readonly NoteFigures[]): Told[] {
  const strayed = notes.flatMap(({ note, offPitchCents }) =>
    offPitchCents.value !== null && Math.abs(offPitchCents.value) > STRAYS_CENTS
      ? [{ note, cents: offPitchCents.value }]
      : [],
  );
  if (strayed.length === 0) return [];
  const { note, cents } = strayed.reduce((worst, each) =>
    Math.abs(each.cents) > Math.abs(worst.cents) ? each : worst,
  );
  const others =
    strayed.length > 1
      ? `, and so ${strayed.length === 2 ? 'does 1 more note' : `do ${strayed.length - 1} more notes`}`
      : '';
  const pulls = pullsOf(document);
  const causes =
    pulls.length === 0
      ? ''
      : ` It may be ${pulls.length === 1 ? pulls[0] : `${pulls.slice(0, -1).join(', ')} or ${pulls[pulls.length - 1]}`}.`;
  return [
    {
      place: 'pitch',
      text: `${noteName(note.pitch)} sounds ${signed(cents, 0)} ct off its pitch${others}.${causes}`,
      verdict: 'watch',
    },
  ];
}

/** Notes that start or end with a click; where a Knock sounds they start with one on purpose. */
export function clicksTold({ layers }: SoundDocument, clicks: readonly EdgeClick[]): Told[] {
  const knocks = layers.some(({ on, role }) => on && role === 'knock');
  return (['starts', 'ends'] as const).flatMap((edge) => {
    const own = clicks.filter((click) => click.edge === edge);
    if (own.length === 0 || (edge === 'starts' && knocks)) return [];
    const [{ note }] = own;
    const first = `${noteName(note.pitch)} at ${barBeat(note.tick)}`;
    const who =
      own.length === 1
        ? `${first} ${edge}`
        : `${first} and ${own.length - 1} more ${own.length === 2 ? 'note' : 'notes'} ${edge.slice(0, -1)}`;
    return [
      {
        place: `click ${edge}`,
        text: `${who} with a click. ${edge === 'starts' ? 'A longer attack, or a start phase where the wave crosses zero, removes it.' : 'A longer release removes it.'}`,
        verdict: 'watch',
      },
    ];
  });
}

/** Layers whose fundamental lies under the clean path, below which only Sub sounds. */
function cutTold(document: SoundDocument): Told[] {
  const {
    grit: { cleanPath },
    layers,
    line,
    ground,
  } = document;
  if (!cleanPath.on || line.notes.length === 0) return [];
  const carried = layers.some(({ on, role }) => on && role === 'sub');
  return layers.flatMap((layer) => {
    if (!layer.on || layer.role === 'sub') return [];
    const offsets = layer.tones.filter(playsPitch).map(({ octave, semitones }) => 12 * octave + semitones);
    if (offsets.length === 0) return [];
    const lowest = Math.min(...line.notes.map(({ pitch }) => pitch));
    const hz = noteToHz(lowest + Math.min(...offsets), ground.a4Hz);
    if (hz >= CUT_UNDER * cleanPath.frequencyHz) return [];
    const instead = carried
      ? 'Sub plays it instead.'
      : 'No Sub plays it instead: add one, lower the clean path, or switch it off.';
    return [
      {
        place: `${layer.id} clean`,
        text: `${layer.name}’s fundamental on ${noteName(lowest)}, ${hz.toFixed(1)} Hz, is below the clean path at ${Math.round(cleanPath.frequencyHz)} Hz, so it is cut. ${instead}`,
        verdict: carried ? 'holds' : 'watch',
      },
    ];
  });
}

/**
 * What takes the lows of a sound away: tones that cancel each other, and filters; of layers see `layersTold`. Tones found in
 * the cache are not rendered again.
 */
export function toldOf(
  document: SoundDocument,
  render: Pick<LoopRender, 'kick' | 'sampleRateHz'>,
  options: Omit<ToneOptions, 'sampleRateHz'> = {},
): Told[] {
  const { sampleRateHz } = render;
  const on = document.layers.filter((layer) => layer.on);
  return [
    ...kickTold(document, render),
    ...cutTold(document),
    ...on.flatMap((layer) => subTold(document, layer)),
    ...on.flatMap((layer) => tonesTold(document, layer, { ...options, sampleRateHz })),
  ];
}

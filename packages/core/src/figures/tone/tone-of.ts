import type { LineNote, SoundDocument } from '../../document/index.js';
import { renderLoop, type Assets, type LoopRender, type Stereo } from '../../engine/index.js';
import { lowBand } from '../../lock/index.js';
import {
  bandEnvelopes,
  crestDb,
  dcWeighted,
  depthSpectrum,
  energyWithin,
  glareOf,
  known,
  lowLoudness,
  maskingOf,
  middle,
  mudDb,
  powerSpectrum,
  subToBodyDb,
  thirdsOf,
  unknown,
  weightedLows,
  wobbleOf,
  type Figure,
  type Glare,
  type Masking,
  type PowerSpectrum,
} from '../../measure/index.js';
import { gainToDb } from '../../units/index.js';
import { noteStretches, soundingHz, type NoteStretch } from '../passes/meetings.js';
import { aliasingOf } from './aliasing.js';
import { askedWobbles } from './asked-wobble.js';

/** What is found of the tone of one note. */
export interface NoteTone {
  readonly note: LineNote;
  /** Loudness of what it has below Lock's frequency, LUFS. */
  readonly subLufs: Figure;
  /** How fast it wobbles, hertz, and the rates that were asked for. */
  readonly wobbleHz: Figure;
  readonly askedHz: readonly number[];
}

/** How much louder the bass is than the kick in an octave, dB; null where either has next to nothing there. */
export interface BandAgainstKick {
  readonly centreHz: number;
  readonly db: number | null;
}

/** What is found of the tone of a rendered loop. */
export interface ToneFigures {
  readonly subToBodyDb: Figure;
  readonly mudDb: Figure;
  readonly glare: Glare;
  readonly crestDb: Figure;
  readonly dcDb: Figure;
  /** Energy off the harmonics of a steady note, dB against the whole. */
  readonly aliasDb: Figure;
  /** Loudness of the lows by themselves, below Lock's frequency, LUFS. */
  readonly subLufs: Figure;
  readonly notes: readonly NoteTone[];
  readonly masking: readonly (Masking & { readonly id: string; readonly name: string })[];
  readonly againstKick: readonly BandAgainstKick[];
  /** Long-term levels of the bass by thirds of an octave, dB, at `THIRD_OCTAVES_HZ`. */
  readonly thirdsDb: Float64Array;
}

/** What of a rendered loop is looked at. */
export type ToneSignals = Pick<LoopRender, 'sampleRateHz' | 'frames' | 'kick' | 'bass' | 'backing' | 'moved'>;

/** A mean square under this is silence, and a weighted one under it has no loudness to tell, −70 LUFS. */
const SILENT = 1e-10;
const SOFTEST_LUFS = -70;
/** Octaves in which bass and kick are compared. */
const OCTAVE_CENTRES_HZ = [31.5, 63, 125, 250, 500, 1000, 2000, 4000, 8000];
/** What an octave has to hold of the whole to be compared, in power. */
const LEAST_SHARE = 1e-6;
/** A constant so small is none, dBFS; and a note needs so many periods to have one. */
const NO_DC_DB = -140;
const LEAST_PERIODS = 8;

const channelsOf = ({ left, right }: Stereo) => (left === right ? [left] : [left, right]);

/**
 * The constant that the notes stand off by, the greatest of all and of both sides: of each its Hann-weighted mean over as many
 * whole periods as it has, in which no harmonic is left.
 */
function dcOf(bass: Stereo, stretches: readonly NoteStretch[], sampleRateHz: number): Figure {
  const means = stretches.flatMap(({ from, to, periodS }) => {
    const period = periodS * sampleRateHz;
    const periods = Math.floor((to - from) / period);
    const length = Math.round(periods * period);
    if (periods < LEAST_PERIODS) return [];
    return channelsOf(bass).map((side) => Math.abs(dcWeighted(side.subarray(from, from + length))));
  });
  if (means.length === 0) return unknown('no note is long enough');
  return known(Math.max(NO_DC_DB, gainToDb(Math.max(...means))));
}

/** What each backing part hides of the bass: each is rendered by itself where there are several. */
function maskingOfParts(
  document: SoundDocument,
  signals: ToneSignals,
  assets?: Assets,
): ToneFigures['masking'] {
  const { sampleRateHz, bass, backing } = signals;
  if (!backing) return [];
  const levels = ({ left, right }: Stereo) => depthSpectrum(middle([left, right]), sampleRateHz, true);
  const own = levels(bass);
  const parts = document.backing.filter(({ on }) => on);
  const alone = (id: string): Stereo | null =>
    parts.length === 1
      ? backing
      : renderLoop(
          {
            ...document,
            line: { notes: [] },
            kick: { ...document.kick, on: false },
            duck: { ...document.duck, on: false },
            movers: [],
            links: [],
            lanes: [],
            backing: parts.filter((part) => part.id === id),
          },
          { sampleRateHz, assets, stems: 'none', brief: true },
        ).backing;
  return parts.flatMap(({ id, name }) => {
    const part = alone(id);
    return part ? [{ id, name, ...maskingOf(own, levels(part)) }] : [];
  });
}

function againstKick(bass: PowerSpectrum, kick: PowerSpectrum): BandAgainstKick[] {
  const whole = energyWithin(bass, 20, 16000) + energyWithin(kick, 20, 16000);
  return OCTAVE_CENTRES_HZ.map((centreHz) => {
    const [own, other] = [bass, kick].map((each) =>
      energyWithin(each, centreHz * Math.SQRT1_2, centreHz * Math.SQRT2),
    );
    const tells = Math.min(own, other) > LEAST_SHARE * whole && whole > SILENT;
    return { centreHz, db: tells ? 10 * Math.log10(own / other) : null };
  });
}

/**
 * What is found of the tone of a rendered loop, beside what `measurePassSteps` finds of it. A brief look leaves out the aliasing,
 * for which a note is rendered by itself.
 */
export function toneOf(
  document: SoundDocument,
  signals: ToneSignals,
  assets?: Assets,
  brief = false,
): ToneFigures {
  const { sampleRateHz, frames, bass, kick } = signals;
  const channels = channelsOf(bass);
  const spectrum = powerSpectrum({ channels, sampleRateHz, loop: true });
  const mono = middle([bass.left, bass.right]);
  const silent = !(energyWithin(spectrum, 10, 20000) > SILENT);
  const lows = lowBand(mono, sampleRateHz, document.lock.belowHz, true);
  const weighted = weightedLows(lows.re, lows.rateHz, true);
  const loudness = (from?: number, to?: number): Figure => {
    const lufs = lowLoudness(weighted, from, to);
    return lufs > SOFTEST_LUFS ? known(lufs) : unknown('nothing sounds that low');
  };
  const envelopes = bandEnvelopes(mono, sampleRateHz);
  const stretches = noteStretches(document, frames, sampleRateHz);
  const perLow = lows.rateHz / sampleRateHz;
  const lowest = Math.min(...document.line.notes.map(({ pitch }) => soundingHz(document, pitch)));
  const none = unknown('there is only silence');
  return {
    subToBodyDb: silent ? none : subToBodyDb(spectrum),
    mudDb: silent ? none : mudDb(spectrum),
    glare: glareOf(spectrum, Number.isFinite(lowest) ? lowest : 0),
    crestDb: silent ? none : known(crestDb(channels)),
    aliasDb: brief ? unknown('not looked at') : aliasingOf(document, sampleRateHz, assets),
    dcDb: silent ? none : dcOf(bass, stretches, sampleRateHz),
    subLufs: loudness(),
    notes: document.line.notes.map((note, n) => {
      const { from, to } = stretches[n];
      const asked = askedWobbles(document, note, signals, from, to);
      return {
        note,
        subLufs: loudness(Math.floor(from * perLow), Math.max(1, Math.floor(to * perLow))),
        askedHz: asked,
        wobbleHz: wobbleOf(envelopes, from / sampleRateHz, to / sampleRateHz, asked),
      };
    }),
    masking: maskingOfParts(document, signals, assets),
    thirdsDb: thirdsOf(spectrum),
    againstKick: againstKick(
      spectrum,
      powerSpectrum({ channels: channelsOf(kick), sampleRateHz, loop: true }),
    ),
  };
}

import type { SoundDocument } from '../document/index.js';
import { bassNudgeMs, type LoopRender } from '../engine/index.js';
import { decimate } from '../dsp/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { loopTicks } from '../units/index.js';
import {
  findClicks, fundamental, known, measureLoudness, measureMono, middle, truePeakDb, unknown, type Click, type Figure, type LoudnessReport, type MonoReport,
} from '../measure/index.js';
import { noteLevels, type NoteLevels } from './note-levels.js';
import { noteStretches, soundingHz } from './meetings.js';

/** What is found of one note of the line. */
export interface NoteFigures extends NoteLevels {
  /** Pitch found in the note against the written one, cents: beating and steering can pull a bass out of tune. */
  readonly offPitchCents: Figure;
}

/** What is measured of one rendered pass of a loop. */
export interface PassFigures {
  readonly notes: readonly NoteFigures[];
  readonly mono: MonoReport;
  readonly loudness: LoudnessReport;
  readonly truePeakDbtp: Figure;
  readonly evennessDb: Figure;
  readonly clicks: readonly Click[];
  /** Kick and bass below Lock's frequency, as they run through the loop. */
  readonly low: { readonly kick: LowBand; readonly bass: LowBand };
}

/** Notes with a fundamental above this are left out of the evenness. */
const HIGHEST_EVEN_HZ = 100;

/** Longest stretch of a note in which its pitch is looked for, and what is left out at its start for drops and glides, in seconds. */
const PITCH_S = 0.4;
const PITCH_FROM_S = 0.08;
/** Ratio of two semitones. */
const NEAR = 2 ** (2 / 12);
/** Frames of a period in which a pitch is looked for: few enough that only the first partials are left, many enough for a part of a cent. */
const PITCH_FRAMES = 27;

/** The bass before ducking at lower rates, each by a power of two; made when it is first asked for. */
function atLowerRates(bass: Float32Array, sampleRateHz: number): (writtenHz: number) => { samples: Float64Array; rateHz: number } {
  const made = new Map<number, Float64Array>();
  return (writtenHz) => {
    const factor = Math.max(1, 2 ** Math.round(Math.log2(sampleRateHz / (PITCH_FRAMES * writtenHz))));
    let samples = made.get(factor);
    if (!samples) made.set(factor, (samples = decimate(bass, factor, true)));
    return { samples, rateHz: sampleRateHz / factor };
  };
}

/** Cents by which a note's found pitch lies from the written one: the period is looked for within two semitones of it. */
function offPitch({ samples, rateHz }: { samples: Float64Array; rateHz: number }, fromS: number, toS: number, writtenHz: number, glideS: number): Figure {
  const settled = fromS + Math.max(toS - fromS > 3 * PITCH_FROM_S ? PITCH_FROM_S : 0, glideS);
  const from = Math.round(settled * rateHz);
  const to = Math.min(samples.length, Math.round(Math.min(toS, settled + Math.max(PITCH_S, 4.5 / writtenHz)) * rateHz));
  if ((to - from) / rateHz < 4.2 / writtenHz) return unknown('shorter than four periods');
  const found = fundamental(samples.subarray(from, to), rateHz, { minHz: writtenHz / NEAR, maxHz: writtenHz * NEAR, deepest: true });
  if (found.value === null) return found;
  return known(1200 * Math.log2(found.value / writtenHz));
}

function measureNotes(document: SoundDocument, kick: LowBand, bass: LowBand, before: LowBand, lower: ReturnType<typeof atLowerRates>): NoteFigures[] {
  const stretches = noteStretches(document, bass.re.length, bass.rateHz);
  // A glide takes its time, by the octave about as long again.
  const glideS = (1.5 * Math.max(...document.layers.map(({ voice }) => voice.glideMs))) / 1000;
  return noteLevels(document, kick, bass, before).map((levels, n) => {
    const { from, to, periodS } = stretches[n];
    return { ...levels, offPitchCents: offPitch(lower(1 / periodS), from / bass.rateHz, to / bass.rateHz, 1 / periodS, levels.note.tie ? glideS : 0) };
  });
}

function evenness(document: SoundDocument, notes: readonly NoteFigures[]): Figure {
  const levels = notes
    .filter(({ note }) => soundingHz(document, note.pitch) <= HIGHEST_EVEN_HZ)
    .map(({ subLevelDb }) => subLevelDb.value)
    .filter((level) => level !== null);
  if (levels.length === 0) return unknown(notes.length === 0 ? 'the line is empty' : 'no note of the line has its fundamental below 100 Hz and sounds there');
  return known(Math.max(...levels) - Math.min(...levels));
}

/** Measures one pass of a loop, in steps that yield the share done, so that a host can stop. */
export function* measurePassSteps(document: SoundDocument, render: LoopRender): Generator<number, PassFigures> {
  const { sampleRateHz } = render;
  const loop = true;
  const { belowHz } = document.lock;
  const low = {
    kick: lowBand(middle([render.kick.left, render.kick.right]), sampleRateHz, belowHz, loop),
    bass: lowBand(middle([render.bass.left, render.bass.right]), sampleRateHz, belowHz, loop),
  };
  const before = lowBand(render.bassBefore, sampleRateHz, belowHz, loop);
  yield 0.2;
  const notes = measureNotes(document, low.kick, low.bass, before, atLowerRates(render.bassBefore, sampleRateHz));
  yield 0.3;
  const all = { channels: [render.all.left, render.all.right], sampleRateHz, loop };
  const loudness = measureLoudness(all);
  const truePeakDbtp = truePeakDb(all);
  yield 0.5;
  const bass = { channels: [render.bass.left, render.bass.right], sampleRateHz, loop };
  const mono = measureMono(bass);
  yield 0.8;
  const perTick = render.frames / loopTicks(document.ground.bars) / sampleRateHz;
  const asked = document.line.notes.map((note) => note.tick * perTick + bassNudgeMs(document) / 1000);
  const clicks = findClicks(bass, asked);
  yield 1;
  return { notes, mono, loudness, truePeakDbtp, evennessDb: evenness(document, notes), clicks, low };
}

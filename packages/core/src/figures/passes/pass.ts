import type { LineNote, SoundDocument } from '../../document/index.js';
import { bassNudgeMs, type LoopRender } from '../../engine/index.js';
import { decimate } from '../../dsp/index.js';
import { lowBand, type LowBand } from '../../lock/index.js';
import { noteToHz } from '../../music/index.js';
import { loopTicks } from '../../units/index.js';
import {
  findClicks,
  fundamental,
  known,
  measureLoudness,
  measureMono,
  middle,
  truePeakDb,
  unknown,
  type Click,
  type Figure,
  type LoudnessReport,
  type MonoReport,
} from '../../measure/index.js';
import { noteLevels, type NoteLevels } from './note-levels.js';
import { noteStretches, soundingHz } from './meetings.js';

/** What is found of one note of the line. */
export interface NoteFigures extends NoteLevels {
  /**
   * Pitch found in the note, once its glide and its drop are over, against the nearest that its tones are
   * asked for, cents: beating and steering can pull a bass out of tune.
   */
  readonly offPitchCents: Figure;
}

/** A note that starts or ends with a click. */
export interface EdgeClick {
  readonly note: LineNote;
  readonly edge: 'starts' | 'ends';
}

/** What is measured of one rendered pass of a loop. */
export interface PassFigures {
  readonly notes: readonly NoteFigures[];
  readonly mono: MonoReport;
  readonly loudness: LoudnessReport;
  readonly truePeakDbtp: Figure;
  readonly evennessDb: Figure;
  readonly clicks: readonly Click[];
  /** Notes at whose start or end there is a click. */
  readonly edgeClicks: readonly EdgeClick[];
  /** Kick and bass below Lock's frequency, as they run through the loop. */
  readonly low: { readonly kick: LowBand; readonly bass: LowBand };
}

/** Notes with a fundamental above this are left out of the evenness. */
const HIGHEST_EVEN_HZ = 100;

/**
 * Longest stretch of a note in which its pitch is looked for, and what is left out at its start for drops and
 * glides, in seconds.
 */
const PITCH_S = 0.4;
const PITCH_FROM_S = 0.08;
/**
 * Cycles that a note must have for its pitch to be judged: in fewer, its attack and what moves in it pull the
 * period that is found by more than they would be heard to.
 */
const LEAST_CYCLES = 8;
/** Most pitches of its tones that a note is measured against. */
const MOST_ASKED = 6;
/** A click within this of a note's start or end belongs to it, in seconds. */
const EDGE_S = 0.012;
/** Ratio of two semitones. */
const NEAR = 2 ** (2 / 12);
/**
 * Frames of a period in which a pitch is looked for: few enough that only the first partials are left, many
 * enough for a part of a cent.
 */
const PITCH_FRAMES = 27;

/** The bass before ducking at lower rates, each by a power of two; made when it is first asked for. */
function atLowerRates(
  bass: Float32Array,
  sampleRateHz: number,
): (writtenHz: number) => { samples: Float64Array; rateHz: number } {
  const made = new Map<number, Float64Array>();
  return (writtenHz) => {
    const factor = Math.max(1, 2 ** Math.round(Math.log2(sampleRateHz / (PITCH_FRAMES * writtenHz))));
    let samples = made.get(factor);
    if (!samples) made.set(factor, (samples = decimate(bass, factor, true)));
    return { samples, rateHz: sampleRateHz / factor };
  };
}

/**
 * Cents by which a note's found pitch lies from one that it is asked for: the period is looked for within two
 * semitones of it.
 */
function offPitch(
  { samples, rateHz }: { samples: Float64Array; rateHz: number },
  fromS: number,
  toS: number,
  writtenHz: number,
  glideS: number,
): Figure {
  const settled = fromS + Math.max(toS - fromS > 3 * PITCH_FROM_S ? PITCH_FROM_S : 0, glideS);
  const from = Math.round(settled * rateHz);
  const to = Math.min(
    samples.length,
    Math.round(Math.min(toS, settled + Math.max(PITCH_S, (LEAST_CYCLES + 0.3) / writtenHz)) * rateHz),
  );
  if ((to - from) / rateHz < LEAST_CYCLES / writtenHz)
    return unknown(
      glideS > 0 ? 'the glide or drop leaves too few steady cycles' : 'too short to find its pitch',
    );
  const found = fundamental(samples.subarray(from, to), rateHz, {
    minHz: writtenHz / NEAR,
    maxHz: writtenHz * NEAR,
    deepest: true,
  });
  if (found.value === null) return found;
  return known(1200 * Math.log2(found.value / writtenHz));
}

/**
 * What keeps a note from its own pitch at its start: glide and drop, in seconds; the note before it is the
 * one that ends, or began, last before it.
 */
function settlesS({ layers, line }: SoundDocument, note: LineNote): number {
  const order = [...line.notes].sort((a, b) => a.tick - b.tick);
  const before = order[(order.indexOf(note) - 1 + order.length) % order.length];
  return Math.max(
    0,
    ...layers
      .filter(({ on }) => on)
      .map(({ voice, drop }) => {
        const glides = note.tie || voice.glide === 'always';
        const octaves = voice.glideIn === 'octave' ? Math.abs(note.pitch - before.pitch) / 12 : 1;
        return (
          (glides ? voice.glideMs * octaves : 0) / 1000 + (drop.semitones !== 0 ? drop.timeMs / 1000 : 0)
        );
      }),
  );
}

/**
 * The pitches that a note is asked to sound at, in hertz, lowest first: those of all tones that sound and
 * follow the note, with their transposition.
 */
function askedHz({ layers, ground }: SoundDocument, pitch: number): number[] {
  const offsets = layers.flatMap((layer) =>
    layer.on
      ? layer.tones.flatMap(({ on, pitchIn, octave, semitones, cents }) =>
          on && pitchIn === 'note' ? [12 * octave + semitones + cents / 100] : [],
        )
      : [],
  );
  return [...new Set(offsets)]
    .sort((a, b) => a - b)
    .slice(0, MOST_ASKED)
    .map((offset) => noteToHz(pitch + offset, ground.a4Hz));
}

function measureNotes(
  document: SoundDocument,
  kick: LowBand,
  bass: LowBand,
  before: LowBand,
  lower: ReturnType<typeof atLowerRates>,
): NoteFigures[] {
  const stretches = noteStretches(document, bass.re.length, bass.rateHz);
  return noteLevels(document, kick, bass, before).map((levels, n) => {
    const { from, to, periodS } = stretches[n];
    const settles = settlesS(document, levels.note);
    const asked = askedHz(document, levels.note.pitch);
    // Of all that is asked for, the pitch that is found nearest: a body an octave under its sub is no stray
    // sub.
    const found = (asked.length > 0 ? asked : [1 / periodS]).map((hz) =>
      offPitch(lower(hz), from / bass.rateHz, to / bass.rateHz, hz, settles),
    );
    const nearest = found.reduce((best, each) =>
      each.value !== null && (best.value === null || Math.abs(each.value) < Math.abs(best.value))
        ? each
        : best,
    );
    return { ...levels, offPitchCents: nearest };
  });
}

function evenness(document: SoundDocument, notes: readonly NoteFigures[]): Figure {
  const levels = notes
    .filter(({ note }) => soundingHz(document, note.pitch) <= HIGHEST_EVEN_HZ)
    .map(({ subLevelDb }) => subLevelDb.value)
    .filter((level) => level !== null);
  if (levels.length === 0)
    return unknown(notes.length === 0 ? 'the line is empty' : 'no note has a fundamental below 100 Hz');
  return known(Math.max(...levels) - Math.min(...levels));
}

/** Measures one pass of a loop, in steps that yield the share done, so that a host can stop. */
export function* measurePassSteps(
  document: SoundDocument,
  render: LoopRender,
): Generator<number, PassFigures> {
  const { sampleRateHz } = render;
  const loop = true;
  const { belowHz } = document.lock;
  const low = {
    kick: lowBand(middle([render.kick.left, render.kick.right]), sampleRateHz, belowHz, loop),
    bass: lowBand(middle([render.bass.left, render.bass.right]), sampleRateHz, belowHz, loop),
  };
  const before = lowBand(render.bassBefore, sampleRateHz, belowHz, loop);
  yield 0.2;
  const notes = measureNotes(
    document,
    low.kick,
    low.bass,
    before,
    atLowerRates(render.bassBefore, sampleRateHz),
  );
  yield 0.3;
  const all = { channels: [render.all.left, render.all.right], sampleRateHz, loop };
  const loudness = measureLoudness(all);
  const truePeakDbtp = truePeakDb(all);
  yield 0.5;
  const bass = { channels: [render.bass.left, render.bass.right], sampleRateHz, loop };
  const mono = measureMono(bass);
  yield 0.8;
  const perTick = render.frames / loopTicks(document.ground.bars) / sampleRateHz;
  const nudgeS = bassNudgeMs(document) / 1000;
  const found = findClicks(bass);
  const loopS = render.frames / sampleRateHz;
  const at = (timeS: number) =>
    found.some((click) => {
      const apart = Math.abs((((click.timeS - timeS) % loopS) + loopS) % loopS);
      return Math.min(apart, loopS - apart) <= EDGE_S;
    });
  const { notes: written } = document.line;
  const edgeClicks = written.flatMap((note): EdgeClick[] => [
    ...(at(note.tick * perTick + nudgeS) ? [{ note, edge: 'starts' } as const] : []),
    // Where another note begins as it ends, the click is that one's.
    ...(at((note.tick + note.ticks) * perTick + nudgeS) &&
    !written.some(({ tick }) => tick === note.tick + note.ticks)
      ? [{ note, edge: 'ends' } as const]
      : []),
  ]);
  const asked = written.map((note) => note.tick * perTick + nudgeS);
  const clicks = findClicks(bass, asked);
  yield 1;
  return {
    notes,
    mono,
    loudness,
    truePeakDbtp,
    evennessDb: evenness(document, notes),
    clicks,
    edgeClicks,
    low,
  };
}

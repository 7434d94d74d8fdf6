import type { SoundDocument } from '../document/index.js';
import { renderLoopSteps, type Assets } from '../engine/index.js';
import { KEPT_APART, lockNotes, ONE_WAVE, type NoteLock } from '../figures/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle } from '../measure/index.js';
import { toEnd } from '../units/index.js';

/** How a whole line stands to the kick. */
export interface LineLock {
  /** Sum gain of the worst note that has one, dB; null where none has. */
  readonly worstSumGainDb: number | null;
  /** Its MIDI note number. */
  readonly worstPitch: number | null;
  /** Notes that meet the kick, and of those the ones that cannot cancel, for they are kept apart on purpose or are one wave with it, and the ones without a common phase. */
  readonly meeting: number;
  readonly keptApart: number;
  readonly oneWave: number;
  readonly withoutPhase: number;
}

/** Sums up the locks of a line. */
export function lineLock(locks: readonly NoteLock[]): LineLock {
  const measured = locks.flatMap(({ note, lock }) => ('sumGainDb' in lock ? [{ pitch: note.pitch, lock }] : []));
  const worst = measured.reduce<(typeof measured)[number] | null>((least, each) => (least === null || each.lock.sumGainDb < least.lock.sumGainDb ? each : least), null);
  const count = (reason: string) => locks.filter(({ lock }) => 'reason' in lock && lock.reason === reason).length;
  const [keptApart, oneWave] = [count(KEPT_APART), count(ONE_WAVE)];
  return {
    worstSumGainDb: worst?.lock.sumGainDb ?? null, worstPitch: worst?.pitch ?? null,
    meeting: measured.length + keptApart + oneWave, keptApart, oneWave, withoutPhase: measured.filter(({ lock }) => lock.bearingDeg === null).length,
  };
}

/** A line's locks as rendered, and the low bands in which they were measured. */
export interface MeasuredLine { readonly locks: readonly NoteLock[]; readonly kick: LowBand; readonly bass: LowBand }

/** Renders a sound and measures the locks of its line, in steps that yield the share done of the render. */
export function* measureLineSteps(document: SoundDocument, sampleRateHz: number, assets?: Assets): Generator<number, MeasuredLine> {
  const render = yield* renderLoopSteps(document, { sampleRateHz, assets, stems: false });
  const kick = lowBand(middle([render.kick.left, render.kick.right]), sampleRateHz, document.lock.belowHz, true);
  const bass = lowBand(middle([render.bass.left, render.bass.right]), sampleRateHz, document.lock.belowHz, true);
  return { locks: lockNotes(document, kick, bass), kick, bass };
}

/** Renders and measures a line at once; see `measureLineSteps`. */
export function measureLine(document: SoundDocument, sampleRateHz: number, assets?: Assets): MeasuredLine {
  return toEnd(measureLineSteps(document, sampleRateHz, assets));
}

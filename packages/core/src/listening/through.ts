import { responseDb, type PlaybackSystem } from '../translation/index.js';
import { minimumPhase } from './minimum-phase.js';
import { roomNoise } from './room-noise.js';

/** How sound goes through a system: its filters for what both sides share and for what they differ in, and its limits. */
export interface Through {
  readonly middle: Float32Array;
  readonly side: Float32Array;
  /** Greatest mean square of a side that it plays, as heard before any gain: a sine of amplitude 1 has a half. */
  readonly mostSquare: number;
  /** The room's noise, as loud against what is played as there. */
  readonly noise: { readonly left: Float32Array; readonly right: Float32Array };
  /** What makes it as loud as the sound is by itself, and as loud as it is beside the loudest of the program's systems, dB. */
  readonly matchedDb: number;
  readonly trueDb: number;
}

/** Blocks of the audio thread, and taps of a filter: enough for a high-pass of 24 dB an octave at 30 Hz. */
export const THROUGH_BLOCK = 128;
const TAPS = 8192;
/** How steeply sides part where only the lows are mono: order of a high-pass. */
const PARTS_ORDER = 12;
/** Peaks of the sine for which a system's playing level is given, dBFS. */
const REFERENCE_DBFS = -18;
/** Levels at which systems are heard beside each other are those against this, dB SPL: the club's. */
const LOUDEST_DB = 98;

/**
 * How sound goes through a system at a sample rate. What is heard is the response that is computed of it.
 *
 * @param matchedDb gain that makes it as loud as the sound is by itself; see `matchedGainDb`.
 */
export function throughSystem(system: PlaybackSystem, sampleRateHz: number, matchedDb: number): Through {
  const { response, monoBelowHz, playsDb, mostDb, noiseDb } = system;
  const gain = (hz: number) => 10 ** (responseDb(response, Math.max(1, hz)) / 20);
  const middle = minimumPhase(gain, sampleRateHz, TAPS);
  const side =
    monoBelowHz === Infinity
      ? new Float64Array(THROUGH_BLOCK)
      : monoBelowHz === 0
        ? middle
        : minimumPhase(
            (hz) => gain(hz) / Math.sqrt(1 + (monoBelowHz / Math.max(1, hz)) ** (2 * PARTS_ORDER)),
            sampleRateHz,
            TAPS,
          );
  const fullScaleDb = playsDb - REFERENCE_DBFS;
  return {
    middle: Float32Array.from(middle),
    side: Float32Array.from(side),
    mostSquare: 0.5 * 10 ** ((mostDb - fullScaleDb) / 10),
    noise: roomNoise(noiseDb, fullScaleDb, sampleRateHz),
    matchedDb,
    trueDb: playsDb - LOUDEST_DB,
  };
}

import {
  atRate,
  FormatError,
  fundamental,
  isLock,
  kickTail,
  lowBand,
  measureLock,
  middle,
  NO_LOCK_WORDS,
  noPhaseWords,
} from '@abyssal/core';
import { loadWav } from './files.js';

/**
 * Measures how the bass in one WAV stands to the kick in another, both from their first frame: a pair of
 * files is one meeting.
 */
export async function lock(kickPath: string, bassPath: string, flags: { below: string }) {
  const belowHz = Number(flags.below);
  if (!(belowHz >= 60 && belowHz <= 250)) throw new FormatError(`--below ${flags.below}: give 60 to 250 Hz`);
  const [kickWav, bassWav] = await Promise.all([loadWav(kickPath), loadWav(bassPath)]);
  const rate = Math.max(kickWav.sampleRateHz, bassWav.sampleRateHz);
  const kickSignal = middle(atRate(kickWav, rate));
  const bassSignal = middle(atRate(bassWav, rate));
  const frames = Math.max(kickSignal.length, bassSignal.length);
  const filled = (signal: Float32Array) => {
    const out = new Float32Array(frames);
    out.set(signal);
    return out;
  };
  const kick = lowBand(filled(kickSignal), rate, belowHz);
  const bass = lowBand(filled(bassSignal), rate, belowHz);
  const pitch = fundamental(bassSignal, rate).value;
  const found = measureLock(kick, bass, 0, bass.re.length, pitch ? 1 / pitch : 1 / belowHz);
  const tail = kickTail(kickSignal, rate);
  const locked = isLock(found) ? found : null;
  if (!isLock(found)) process.stderr.write(`no lock: ${NO_LOCK_WORDS[found.reason]}\n`);
  else if (found.noPhase) process.stderr.write(`no bearing: ${noPhaseWords(found.noPhase)}\n`);
  const finite = (value: number | undefined) =>
    value !== undefined && Number.isFinite(value) ? value : null;
  return {
    belowHz,
    sumGainDb: finite(locked?.sumGainDb),
    bestSumGainDb: finite(locked?.bestSumGainDb),
    bearingDeg: locked?.bearingDeg ?? null,
    bestTurnDeg: locked?.bestTurnDeg ?? null,
    nudgeMs: pitch ? (locked?.nudgeMs ?? null) : null,
    coherence: locked?.coherence ?? null,
    noPhase: locked?.noPhase ?? null,
    kickTail: {
      hz: tail?.hz ?? null,
      note: tail?.note ?? null,
      cents: tail?.cents ?? null,
      steady: tail?.steady ?? null,
    },
  };
}

import { BUTTERWORTH_4, prewarp, StateVariablePair } from '../dsp/index.js';
import { gainToDb, powerToDb } from '../units/index.js';
import { samplePeak } from './levels.js';
import type { Audio } from './audio.js';

export interface Click {
  readonly timeS: number;
  readonly prominenceDb: number;
}

const FRAME_S = 0.003;
const HOP_S = 0.0015;
const AROUND_S = 0.04;
const NEAR_S = 0.006;
const STANDS_OUT_DB = 12;
const FLOOR_DB = -54;
const ASKED_S = 0.01;

/**
 * Finds clicks: frames of 3 ms of the signal above 2 kHz (fourth-order Butterworth) that stand 12 dB above
 * the greatest frame
 * in the 40 ms on each side, the nearest 6 ms left out, and no lower than 54 dB under the sample peak. Hits
 * that were
 * asked for (`askedS`, within 10 ms) are left out. One entry for each click, at its greatest frame.
 */
export function findClicks(
  { channels, sampleRateHz, loop = false }: Audio,
  askedS: readonly number[] = [],
): Click[] {
  const n = channels[0].length;
  const peakDb = gainToDb(samplePeak(channels));
  if (peakDb < -120) return [];
  const hop = Math.max(1, Math.round(HOP_S * sampleRateHz));
  const size = Math.round(FRAME_S * sampleRateHz);
  const count = loop ? Math.ceil(n / hop) : Math.max(1, Math.ceil((n - size) / hop) + 1);
  const power = new Float64Array(count);
  const g = prewarp(2000, sampleRateHz);
  const section = Float64Array.of(g, g, 1 / BUTTERWORTH_4[0], 1 / BUTTERWORTH_4[1]);
  for (const channel of new Set(channels)) {
    const high = new StateVariablePair('high');
    const x = Float64Array.from(channel);
    if (loop) {
      const before = x.slice(-Math.min(n, Math.round(0.05 * sampleRateHz)));
      high.process(before, 0, before.length, section);
    }
    high.process(x, 0, n, section);
    for (let f = 0; f < count; f++) {
      let sum = 0;
      for (let i = 0; i < size; i++) {
        let at = f * hop + i;
        if (at >= n) {
          if (!loop) break;
          at -= n;
        }
        sum += x[at] * x[at];
      }
      power[f] = Math.max(power[f], sum / size);
    }
  }
  const around = Math.round(AROUND_S / HOP_S);
  const near = Math.round(NEAR_S / HOP_S);
  const lengthS = n / sampleRateHz;
  const found: Click[] = [];
  for (let f = 0; f < count; f++) {
    const level = powerToDb(power[f]);
    if (level < peakDb + FLOOR_DB) continue;
    let greatest = 0;
    let highestNear = true;
    for (let d = -around; d <= around; d++) {
      let at = f + d;
      if (at < 0 || at >= count) {
        if (!loop) continue;
        at = (at + count) % count;
      }
      if (Math.abs(d) > near) greatest = Math.max(greatest, power[at]);
      else if (power[at] > power[f] || (power[at] === power[f] && d < 0)) highestNear = false;
    }
    const prominenceDb = level - powerToDb(Math.max(greatest, 1e-30));
    if (!highestNear || prominenceDb < STANDS_OUT_DB) continue;
    const timeS = (f * hop + size / 2) / sampleRateHz;
    const asked = askedS.some((at) => {
      const apart = Math.abs(at - timeS);
      return (loop ? Math.min(apart, lengthS - apart) : apart) <= ASKED_S;
    });
    if (!asked) found.push({ timeS, prominenceDb: Math.min(prominenceDb, 120) });
  }
  return found;
}

import {
  CHAIN_FORMAT,
  numbersOfUnit,
  type ChainFile,
  type GritFile,
  type GritUnit,
} from '../../document/index.js';
import { BLOCK, STEP } from '../../dsp/index.js';
import type { UnitHears, UnitStart } from '../../kinds/units/index.js';
import { BandsStage } from '../units/bands-stage.js';
import { UnitChain } from '../units/unit-chain.js';

/** What a chain is run with beside the audio. */
export interface GritRunOptions {
  readonly sampleRateHz: number;
  readonly tempoBpm?: number;
  readonly seed?: number;
  /** Whether what comes late is left so; else the delay of the chain is taken off. */
  readonly late?: boolean;
}

const numbersOf = (units: readonly GritUnit[]) =>
  units.flatMap((unit) => numbersOfUnit(unit).map(({ value }) => value));

const NOTHING_HEARD = (tempoBpm: number): UnitHears => ({
  hz: new Float64Array(1),
  tempo: Float64Array.of(tempoBpm),
  ahead: Float64Array.of(Infinity),
  side: () => null,
});

/** The parts of a chain or of all of grit, ready to run, with the numbers that they read. */
function made(grit: ChainFile | GritFile, start: UnitStart) {
  const numbers: number[] = [];
  const chain = (units: readonly GritUnit[], stereo: boolean) => {
    const at = numbers.length;
    numbers.push(...numbersOf(units));
    return new UnitChain(units, { ...start, stereo }, at);
  };
  if (grit.format === CHAIN_FORMAT) {
    const only = chain(grit.units, start.stereo);
    return { stage: null, after: only, numbers: Float64Array.from(numbers), lateFrames: only.lateFrames };
  }
  const ats = grit.bands.map(({ levelDb, widthPct, wetPct, units }) => {
    const at = numbers.length;
    numbers.push(levelDb, widthPct, wetPct, ...numbersOf(units));
    return at;
  });
  const setups = grit.bands.map((band, b) => ({
    ...band,
    mono: b === 0 && grit.bands.length > 1 && grit.monoLows,
  }));
  const stage = new BandsStage(setups, start, ats);
  const after = chain(grit.after, stage.stereo);
  return {
    stage,
    after,
    numbers: Float64Array.from(numbers),
    lateFrames: stage.lateFrames + after.lateFrames,
  };
}

/**
 * Runs a chain, or all of grit, over audio of one or two channels; what it gives is as long and, where its sides
 * differ, has two. Nothing is played: what follows a note follows F1, and nothing waits for one.
 */
export function runGrit(
  grit: ChainFile | GritFile,
  channels: readonly ArrayLike<number>[],
  { sampleRateHz, tempoBpm = 140, seed = 1, late = false }: GritRunOptions,
): Float32Array[] {
  const mono = channels.length < 2;
  const { stage, after, numbers, lateFrames } = made(grit, {
    sampleRateHz,
    seed,
    stereo: !mono,
    hears: NOTHING_HEARD(tempoBpm),
  });
  const frames = channels[0].length;
  const off = late ? 0 : lateFrames;
  const out = [new Float32Array(frames), new Float32Array(frames)];
  const left = new Float64Array(BLOCK);
  const right = new Float64Array(BLOCK);
  const crossoversHz = grit.format === CHAIN_FORMAT ? [] : grit.crossoversHz;
  for (let at = 0; at < frames + off; at += STEP) {
    for (let i = 0; i < STEP; i++) {
      left[i] = at + i < frames ? channels[0][at + i] : 0;
      right[i] = mono ? left[i] : at + i < frames ? channels[1][at + i] : 0;
    }
    stage?.process(left, right, 0, STEP, numbers, crossoversHz);
    after.process(left, right, 0, STEP, numbers);
    const stereo = after.stereo;
    for (let i = 0; i < STEP; i++) {
      const place = at + i - off;
      if (place < 0 || place >= frames) continue;
      out[0][place] = left[i];
      out[1][place] = stereo ? right[i] : left[i];
    }
  }
  return after.stereo ? out : [out[0]];
}

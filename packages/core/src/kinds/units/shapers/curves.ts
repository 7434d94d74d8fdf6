import { BentCurve, FoldCurve, HardCurve, SineFoldCurve, SoftCurve, TubeCurve } from '../../../dsp/index.js';
import { number } from '../../../schema/schema.js';
import { movable } from '../../../schema/shape-parts.js';
import { sideField } from '../kind/unit-kind.js';
import { LEVEL_ALONE, shaperKind, type OwnCurve } from './shaper.js';

/** x/√(1+x²). */
export const softClip = shaperKind({
  kind: 'soft clip',
  label: 'Soft clip',
  chance: { weight: 3, within: {} },
  purpose: 'Rounds peaks off: odd harmonics that come in gently.',
  curve: () => new SoftCurve(),
});

/** Held between −1 and 1. */
export const hardClip = shaperKind({
  kind: 'hard clip',
  label: 'Hard clip',
  chance: { weight: 2, within: { driveDb: [3, 12] } },
  purpose: 'Cuts peaks off flat: bright odd harmonics.',
  curve: () => new HardCurve(),
});

/** How far the lower half may go at full lean. */
const LEAST_BELOW = 0.15;

class LeaningTube extends TubeCurve implements OwnCurve {
  private readonly own = new Float64Array(1);

  take(numbers: Float64Array, at: number): void {
    this.own[0] = 1 - (1 - LEAST_BELOW) * (numbers[at] / 100);
    this.set(this.own);
  }
}

/** x/√(1+x²) above 0, and the same towards a nearer end below. */
export const tube = shaperKind({
  kind: 'tube',
  label: 'Tube',
  chance: { weight: 4, within: { leanPct: [20, 90] } },
  purpose: 'Rounds one half of the wave more than the other: the second harmonic first.',
  fields: {
    leanPct: number('Lean', '%', 0, 100, 50, 'How much more the lower half is rounded.', {
      ...movable,
      step: 0.5,
    }),
  },
  curve: () => new LeaningTube(),
  leans: (numbers, at) => numbers[at],
});

/** x folded back at ±1. */
export const fold = shaperKind({
  kind: 'fold',
  label: 'Fold',
  chance: { weight: 2, within: { driveDb: [3, 14], wetPct: [30, 80] } },
  purpose: 'Folds peaks back into the wave: buzzing harmonics that move with the level.',
  times: 8,
  curve: () => new FoldCurve(),
});

/** sin(πx/2). */
export const sineFold = shaperKind({
  kind: 'sine fold',
  label: 'Sine fold',
  chance: { weight: 2, within: { driveDb: [3, 14], wetPct: [30, 80] } },
  purpose: 'Folds peaks back without corners: a throaty tone, like FM of itself.',
  times: 8,
  curve: () => new SineFoldCurve(),
});

class Rectifier extends BentCurve implements OwnCurve {
  private readonly own = Float64Array.of(0, 0, 1, 1);

  take(numbers: Float64Array, at: number): void {
    this.own[1] = -numbers[at] / 100;
    this.set(this.own);
  }
}

/** x above 0; below it nothing (half) to −x (full). */
export const rectify = shaperKind({
  kind: 'rectify',
  label: 'Rectify',
  chance: { weight: 1, within: { wetPct: [20, 60], foldPct: [20, 100] } },
  purpose: 'Turns the lower half of the wave up: the octave above.',
  fields: {
    foldPct: number('Half to full', '%', 0, 100, 100, 'How much of the lower half comes back upward.', {
      ...movable,
      step: 0.5,
    }),
  },
  curve: () => new Rectifier(),
  leans: () => 100,
});

/** How steeply a comparison goes from one side to the other: silence stays silent. */
const COMPARE_SLOPE = 1000;

class Comparison extends BentCurve implements OwnCurve {
  constructor() {
    super();
    this.set(Float64Array.of(1 / COMPARE_SLOPE, 0, COMPARE_SLOPE, 0));
  }
}

/** 1 above what it is compared with, −1 below. */
export const compare = shaperKind({
  kind: 'compare',
  label: 'Compare',
  purpose: 'A square wave wherever the signal stands above a level, or above another band.',
  fields: { with: sideField(LEVEL_ALONE) },
  against: 'with',
  curve: () => new Comparison(),
  leans: () => 100,
});

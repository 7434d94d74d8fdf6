import { parameter, type Duck, type SoundDocument } from '../document/index.js';
import { Ceiling, CrossoverSide, prewarp, SOFT_CLIP_DELAY, SoftClipTwice } from '../dsp/index.js';
import { dbToGain } from '../units/index.js';
import { BLOCK } from './chunk.js';
import { DelayBank, DelayLine } from './delay-line.js';
import { Ducker, duckGain } from './duck.js';
import { DuckStage } from './duck-stage.js';
import { Feedback } from './feedback.js';
import { bankLinks } from './layer-player.js';
import { MoverBank } from './mover-bank.js';
import { ParameterBank } from './parameter-bank.js';
import { StemTap } from './stem-tap.js';

const FIELDS = ['grit.clip.driveDb', 'grit.clip.levelDb', 'grit.cleanPath.frequencyHz', 'output.levelDb', 'output.ceilingDb', 'kick.levelDb', 'kick.wav.gainDb', 'feedback.amountPct', 'feedback.delayMs'] as const;
const ROWS = FIELDS.map(parameter);
const DRIVE = 0;
const AFTER = 1;
const CROSSOVER = 2;
const LEVEL = 3;
const CEILING = 4;
const KICK_LEVEL = 5;
const KICK_GAIN = 6;
/** Amount, then delay. */
const FEEDBACK = 7;
/** Time constant by which the whole sound's feedback ends after the last layer. */
const FEEDBACK_ENDS_S = 0.06;

function values({ grit, output, kick, feedback }: SoundDocument): number[] {
  return [
    grit.clip.driveDb, grit.clip.levelDb, grit.cleanPath.frequencyHz, output.levelDb, output.ceilingDb,
    kick.levelDb, kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0, feedback.amountPct, feedback.delayMs,
  ];
}

/** What the mix is given of a layer or the kick, a block at a time; where it is silent the blocks hold nothing of worth. */
export interface Block { readonly silent: boolean; readonly left: Float64Array; readonly right: Float64Array }
export interface LayerBlock extends Block { readonly role: string }

/** Frames by which the kick must come late to be in step with the bass in the mix. */
export const KICK_DELAY = SOFT_CLIP_DELAY;

/**
 * From layers and kick to the sum: clean path and clip, level, ducking, ceiling. With the clean path on, everything but what
 * Sub has below the crossover goes through a Linkwitz–Riley high-pass and the clip; Sub's lows go past it in mono. All
 * ways are delayed alike, so that crossover and kick stay in step.
 */
export class Mix {
  readonly latencyFrames: number;
  readonly kickLeft = new Float64Array(BLOCK);
  readonly kickRight: Float64Array;
  readonly bassLeft = new Float64Array(BLOCK);
  readonly bassRight: Float64Array;
  /** The backing parts, summed. */
  readonly backLeft = new Float64Array(BLOCK);
  readonly backRight = new Float64Array(BLOCK);
  /** The bass before ducking and ceiling, in mono: (L+R)/2. */
  readonly bassBefore = new Float64Array(BLOCK);
  readonly taps: readonly StemTap[];
  private readonly clean = new Float64Array(BLOCK);
  private readonly peaks = new Float64Array(BLOCK);
  private readonly ceilingGain = new Float64Array(BLOCK);
  private readonly highLeft = new CrossoverSide('high');
  private readonly highRight = new CrossoverSide('high');
  private readonly low = new CrossoverSide('low');
  private readonly clipLeft = new SoftClipTwice();
  private readonly clipRight = new SoftClipTwice();
  private readonly waitLeft = new DelayLine(SOFT_CLIP_DELAY);
  private readonly waitRight = new DelayLine(SOFT_CLIP_DELAY);
  private readonly waitClean = new DelayLine(SOFT_CLIP_DELAY);
  /** Holds bass, kick and the bass before ducking back until the ceiling has looked ahead. */
  private readonly end: DelayBank;
  private readonly ceiling: Ceiling;
  private readonly ducker: Ducker;
  /** Where ducking acts on more than the level; null where it does not. */
  private readonly duckStage: DuckStage | null;
  private duck: Duck;
  readonly hasBacking: boolean;
  /** −1 where the bass is turned about, else 1. */
  private readonly sign = Float64Array.of(1);
  private readonly movers: MoverBank;
  private readonly bank: ParameterBank;
  /** At the end of the last step: warped crossover, drive, bass gain with and without ducking, kick gain, level after the clip, ceiling. */
  private readonly last = new Float64Array(7);
  /** The same at its start. */
  private readonly before = new Float64Array(7);
  /** Warped crossover and drive at the start and the end of the step. */
  private readonly crossover = new Float64Array(2);
  private readonly drive = new Float64Array(2);
  /** The numbers for which those were computed. */
  private readonly seen = new Float64Array(FIELDS.length).fill(NaN);
  private readonly cleanPath: boolean;
  private readonly clipOn: boolean;
  /** The whole sound's way back to itself; null where it is off. */
  private readonly feedback: Feedback | null;
  private readonly sounding = new Float64Array(1);
  private sounds = false;

  /** Where bass or kick cannot differ between the sides, their right block is their left one. */
  constructor(document: SoundDocument, private readonly stereo: boolean, private readonly kickStereo: boolean, private readonly sampleRateHz: number, seed: number, stems: boolean, hardHoldMs: number) {
    this.cleanPath = document.grit.cleanPath.on;
    this.clipOn = document.grit.clip.on;
    this.feedback = document.feedback.on ? new Feedback(document.feedback.way, sampleRateHz) : null;
    this.ceiling = new Ceiling(sampleRateHz);
    const end = this.ceiling.delayFrames;
    this.latencyFrames = SOFT_CLIP_DELAY + end;
    this.kickRight = kickStereo ? new Float64Array(BLOCK) : this.kickLeft;
    this.bassRight = stereo ? new Float64Array(BLOCK) : this.bassLeft;
    this.end = new DelayBank(end, [this.bassLeft, this.kickLeft, this.bassBefore, ...(stereo ? [this.bassRight] : []), ...(kickStereo ? [this.kickRight] : []), ...(document.backing.length > 0 ? [this.backLeft, this.backRight] : [])]);
    this.duck = document.duck;
    this.sign[0] = document.lock.invert ? -1 : 1;
    this.hasBacking = document.backing.length > 0;
    this.ducker = new Ducker(document.duck, sampleRateHz, hardHoldMs);
    this.duckStage = document.duck.on && (document.duck.hard || document.duck.acts !== 'level') ? new DuckStage(document.duck, sampleRateHz) : null;
    this.movers = new MoverBank(document.movers, document.ground.tempoBpm, sampleRateHz, seed);
    this.bank = new ParameterBank(ROWS, values(document), bankLinks(document, null, FIELDS), sampleRateHz);
    this.taps = stems ? document.layers.map((layer) => new StemTap(layer.role === 'sub', this.cleanPath, end, this.duckStage ? document.duck : null, sampleRateHz)) : [];
    this.measureGains(0);
  }

  set(document: SoundDocument): void {
    this.duck = document.duck;
    this.sign[0] = document.lock.invert ? -1 : 1;
    this.seen[LEVEL] = NaN;
    this.ducker.set(document.duck);
    this.duckStage?.set(document.duck);
    this.movers.set(document.movers, document.ground.tempoBpm);
    this.bank.setTargets(values(document));
    this.bank.setLinks(bankLinks(document, null, FIELDS));
  }

  copyFrom(other: Mix): void {
    for (const part of ['highLeft', 'highRight', 'low'] as const) this[part].copyFrom(other[part]);
    for (const part of ['clipLeft', 'clipRight'] as const) this[part].copyFrom(other[part]);
    for (const part of ['waitLeft', 'waitRight', 'waitClean'] as const) this[part].copyFrom(other[part]);
    this.end.copyFrom(other.end);
    this.ceiling.copyFrom(other.ceiling);
    this.ducker.copyFrom(other.ducker);
    if (other.duckStage) this.duckStage?.copyFrom(other.duckStage);
    this.movers.copyFrom(other.movers);
    this.bank.copyFrom(other.bank);
    this.last.set(other.last);
    this.last[5] = this.clipOn ? other.last[5] : 1;
    if (other.feedback) this.feedback?.copyFrom(other.feedback);
    else this.feedback?.comeIn();
    this.sounding.set(other.sounding);
    this.seen.fill(NaN);
  }

  /** Gain of the ducking at the end of the last step, whatever it acts on. */
  get ducking(): number {
    return duckGain(this.duck, this.ducker.share[0]);
  }

  /** Ducking begins for a hit. */
  beginDuck(): void {
    this.ducker.hit();
  }

  noteOn(tie: boolean): void {
    this.movers.noteOn(tie);
  }

  noteOff(): void {
    this.movers.noteOff();
  }

  /** Moves the numbers on by `frames` and computes the gains there; only those whose numbers changed. */
  private measureGains(frames: number): void {
    const { last, seen, ducker } = this;
    const { value } = this.bank;
    if (frames > 0) {
      this.bank.step(frames, this.movers);
      ducker.step(frames);
    }
    if (value[CROSSOVER] !== seen[CROSSOVER]) last[0] = prewarp(value[CROSSOVER], this.sampleRateHz);
    if (value[DRIVE] !== seen[DRIVE]) last[1] = dbToGain(value[DRIVE]);
    if (value[LEVEL] !== seen[LEVEL]) last[3] = this.sign[0] * dbToGain(value[LEVEL]);
    if (value[KICK_LEVEL] !== seen[KICK_LEVEL] || value[KICK_GAIN] !== seen[KICK_GAIN]) last[4] = dbToGain(value[KICK_LEVEL] + value[KICK_GAIN]);
    if (value[AFTER] !== seen[AFTER]) last[5] = this.clipOn ? dbToGain(value[AFTER]) : 1;
    if (value[CEILING] !== seen[CEILING]) last[6] = dbToGain(value[CEILING]);
    last[2] = ducker.share[0] === 0 || this.duckStage ? last[3] : last[3] * duckGain(this.duck, ducker.share[0]);
    for (let i = 0; i < seen.length; i++) seen[i] = value[i];
  }

  /** Mixes the next `frames` samples of the layers, the kick and the backing parts into this mix's own blocks; `side` is what ducking follows. */
  process(layers: readonly LayerBlock[], kick: Block, backing: readonly Block[], side: Block | null, frames: number): void {
    const { last, stereo, kickStereo } = this;
    for (let i = 0; i < last.length; i++) this.before[i] = last[i];
    if (side) this.ducker.follow(side.left, side.right, side.silent, frames);
    this.measureGains(frames);
    this.crossover[0] = this.before[0];
    this.crossover[1] = last[0];
    this.drive[0] = this.before[1];
    this.drive[1] = last[1];
    this.gather(layers, frames);
    if (this.feedback) this.feedBack(frames);
    this.shape(frames);
    this.level(frames);
    if (this.duckStage) this.duckStage.process(this.bassLeft, this.bassRight, this.stereo, frames, this.ducker.share);
    this.takeKick(kick, frames);
    if (this.hasBacking) this.takeBacking(backing, frames);

    const { bassLeft, bassRight, kickLeft, kickRight, backLeft, backRight, hasBacking, peaks, ceilingGain } = this;
    let highest = 0;
    const both = stereo || kickStereo || hasBacking;
    for (let i = 0; i < frames; i++) {
      let peak = Math.abs(bassLeft[i] + kickLeft[i]);
      if (both) {
        const other = Math.abs(bassRight[i] + kickRight[i]);
        if (other > peak) peak = other;
      }
      if (hasBacking) {
        // Neither the sound by itself nor what is heard with the parts stands above the ceiling.
        const withLeft = Math.abs(bassLeft[i] + kickLeft[i] + backLeft[i]);
        const withRight = Math.abs(bassRight[i] + kickRight[i] + backRight[i]);
        if (withLeft > peak) peak = withLeft;
        if (withRight > peak) peak = withRight;
      }
      peaks[i] = peak;
      if (peak > highest) highest = peak;
    }
    this.ceiling.peak[0] = highest;
    this.ceiling.peak[1] = last[6];
    const acts = this.ceiling.gains(peaks, ceilingGain, frames);
    this.end.process(frames);
    if (acts) {
      times(bassLeft, ceilingGain, frames);
      if (stereo) times(bassRight, ceilingGain, frames);
      times(kickLeft, ceilingGain, frames);
      if (kickStereo) times(kickRight, ceilingGain, frames);
      if (hasBacking) {
        times(backLeft, ceilingGain, frames);
        times(backRight, ceilingGain, frames);
      }
    }
    for (let t = 0; t < this.taps.length; t++) this.taps[t].finish(this.before[2], last[2], this.ducker.share, acts ? ceilingGain : null, frames);
  }

  /** Sums the layers, and Sub once more in mono for the clean path. */
  private gather(layers: readonly LayerBlock[], frames: number): void {
    const { bassLeft, bassRight, clean, stereo, cleanPath } = this;
    let sounds = false;
    let sub = false;
    for (let l = 0; l < layers.length; l++) {
      const { silent, role, left, right } = layers[l];
      if (this.taps.length > 0) this.taps[l].take(left, right, silent, frames, this.crossover);
      if (silent) continue;
      // The first that sounds is copied, the others are added: that saves filling the blocks with zeros.
      if (sounds) {
        for (let i = 0; i < frames; i++) bassLeft[i] += left[i];
        if (stereo) for (let i = 0; i < frames; i++) bassRight[i] += right[i];
      } else {
        for (let i = 0; i < frames; i++) bassLeft[i] = left[i];
        if (stereo) for (let i = 0; i < frames; i++) bassRight[i] = right[i];
      }
      sounds = true;
      if (!cleanPath || role !== 'sub') continue;
      if (sub) for (let i = 0; i < frames; i++) clean[i] += 0.5 * (left[i] + right[i]);
      else for (let i = 0; i < frames; i++) clean[i] = 0.5 * (left[i] + right[i]);
      sub = true;
    }
    this.sounds = sounds;
    if (!sounds) {
      for (let i = 0; i < frames; i++) bassLeft[i] = 0;
      if (stereo) for (let i = 0; i < frames; i++) bassRight[i] = 0;
    }
    if (!sub) for (let i = 0; i < frames; i++) clean[i] = 0;
  }

  /** The bass comes back to itself before crossover and clip. */
  private feedBack(frames: number): void {
    // Once no layer sounds any more it dies away: a loop that sounds by itself would never end.
    this.sounding[0] = this.sounds ? 1 : this.sounding[0] * Math.exp(-frames / (FEEDBACK_ENDS_S * this.sampleRateHz));
    this.feedback!.process(this.bassLeft, this.bassRight, 0, frames, this.bank.value, FEEDBACK, this.sounding, this.stereo);
  }

  /** Crossover and clip; where there is no clip, a delay of the same length. */
  private shape(frames: number): void {
    const { bassLeft, bassRight, clean, stereo, crossover, drive } = this;
    if (this.cleanPath) {
      this.low.process(clean, frames, crossover);
      this.waitClean.process(clean, frames);
      this.highLeft.process(bassLeft, frames, crossover);
      if (stereo) this.highRight.process(bassRight, frames, crossover);
    }
    if (this.clipOn) {
      this.clipLeft.process(bassLeft, frames, drive);
      if (stereo) this.clipRight.process(bassRight, frames, drive);
    } else {
      this.waitLeft.process(bassLeft, frames);
      if (stereo) this.waitRight.process(bassRight, frames);
    }
  }

  /** Joins clean and clipped, and sets the level with ducking; keeps the mono of it before ducking. */
  private level(frames: number): void {
    const level0 = this.before[2];
    const before0 = this.before[3];
    const after0 = this.before[5];
    const { bassLeft, bassRight, bassBefore, clean, stereo, last } = this;
    const levelStep = (last[2] - level0) / frames;
    const beforeStep = (last[3] - before0) / frames;
    const afterStep = (last[5] - after0) / frames;
    let level = level0;
    let before = before0;
    let after = after0;
    for (let i = 0; i < frames; i++) {
      level += levelStep;
      before += beforeStep;
      after += afterStep;
      const left = clean[i] + after * bassLeft[i];
      if (stereo) {
        const right = clean[i] + after * bassRight[i];
        bassBefore[i] = before * 0.5 * (left + right);
        bassRight[i] = level * right;
      } else bassBefore[i] = before * left;
      bassLeft[i] = level * left;
    }
  }

  private takeBacking(backing: readonly Block[], frames: number): void {
    const { backLeft, backRight } = this;
    for (let i = 0; i < frames; i++) backLeft[i] = backRight[i] = 0;
    for (let b = 0; b < backing.length; b++) {
      const { silent, left, right } = backing[b];
      if (silent) continue;
      for (let i = 0; i < frames; i++) {
        backLeft[i] += left[i];
        backRight[i] += right[i];
      }
    }
  }

  private takeKick(kick: Block, frames: number): void {
    const gain0 = this.before[4];
    const { kickLeft, kickRight, last, kickStereo } = this;
    const step = (last[4] - gain0) / frames;
    let gain = gain0;
    if (kick.silent) {
      for (let i = 0; i < frames; i++) kickLeft[i] = 0;
      if (kickStereo) for (let i = 0; i < frames; i++) kickRight[i] = 0;
      return;
    }
    for (let i = 0; i < frames; i++) {
      gain += step;
      kickLeft[i] = gain * kick.left[i];
      if (kickStereo) kickRight[i] = gain * kick.right[i];
    }
  }
}

function times(samples: Float64Array, gains: Float64Array, frames: number): void {
  for (let i = 0; i < frames; i++) samples[i] *= gains[i];
}

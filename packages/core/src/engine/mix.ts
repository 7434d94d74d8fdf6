import { parameter, type SoundDocument } from '../document/index.js';
import { Ceiling, CrossoverSide, prewarp, TWICE_DELAY } from '../dsp/index.js';
import { dbToGain } from '../units/index.js';
import { CHUNK } from './chunk.js';
import { ClipStage } from './clip-stage.js';
import { DelayLine } from './delay-line.js';
import { Ducker } from './duck.js';
import { bankLinks } from './layer-player.js';
import { MoverBank } from './mover-bank.js';
import { ParameterBank } from './parameter-bank.js';

const FIELDS = ['grit.clip.driveDb', 'grit.clip.levelDb', 'grit.cleanPath.frequencyHz', 'output.levelDb', 'output.ceilingDb', 'kick.levelDb', 'kick.wav.gainDb', 'duck.depthDb'] as const;
const ROWS = FIELDS.map(parameter);
const DRIVE = 0;
const AFTER = 1;
const CROSSOVER = 2;
const LEVEL = 3;
const CEILING = 4;
const KICK_LEVEL = 5;
const KICK_GAIN = 6;
const DEPTH = 7;

function values({ grit, output, kick, duck }: SoundDocument): number[] {
  return [
    grit.clip.driveDb, grit.clip.levelDb, grit.cleanPath.frequencyHz, output.levelDb, output.ceilingDb,
    kick.levelDb, kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0, duck.depthDb,
  ];
}

/** A layer's own way through the crossover, for its stem: taken before the clip. */
class StemTap {
  readonly left = new Float64Array(CHUNK);
  readonly right = new Float64Array(CHUNK);
  private readonly highLeft = new CrossoverSide('high');
  private readonly highRight = new CrossoverSide('high');
  private readonly low = new CrossoverSide('low');
  private readonly clean = new Float64Array(CHUNK);
  private readonly delayLeft: DelayLine;
  private readonly delayRight: DelayLine;

  constructor(private readonly sub: boolean, private readonly cleanPath: boolean, delay: number) {
    this.delayLeft = new DelayLine(delay);
    this.delayRight = new DelayLine(delay);
  }

  process(sourceLeft: Float64Array, sourceRight: Float64Array, frames: number, g0: number, g1: number): void {
    const { left, right, clean } = this;
    for (let i = 0; i < frames; i++) {
      left[i] = sourceLeft[i];
      right[i] = sourceRight[i];
    }
    if (this.cleanPath) {
      if (this.sub) {
        for (let i = 0; i < frames; i++) clean[i] = 0.5 * (left[i] + right[i]);
        this.low.process(clean, frames, g0, g1);
      }
      this.highLeft.process(left, frames, g0, g1);
      this.highRight.process(right, frames, g0, g1);
      if (this.sub) for (let i = 0; i < frames; i++) { left[i] += clean[i]; right[i] += clean[i]; }
    }
    this.delayLeft.process(left, frames);
    this.delayRight.process(right, frames);
  }
}

/** What the mix is given of each layer, a control step at a time. */
export interface LayerBlock { readonly role: string; readonly left: Float64Array; readonly right: Float64Array }

/**
 * From layers and kick to the sum: clean path and clip, level, ducking, ceiling. With the clean path on, everything but what
 * Sub has below the crossover goes through a Linkwitz–Riley high-pass and the clip; Sub's lows go past it in mono. All
 * ways are delayed alike, so that crossover and kick stay in step.
 */
export class Mix {
  readonly latencyFrames: number;
  readonly kickLeft = new Float64Array(CHUNK);
  readonly kickRight = new Float64Array(CHUNK);
  readonly bassLeft = new Float64Array(CHUNK);
  readonly bassRight = new Float64Array(CHUNK);
  /** The bass before ducking and ceiling, in mono: (L+R)/2. */
  readonly bassBefore = new Float64Array(CHUNK);
  readonly taps: readonly StemTap[];
  private readonly clean = new Float64Array(CHUNK);
  private readonly peaks = new Float64Array(CHUNK);
  private readonly ceilingGain = new Float64Array(CHUNK);
  private readonly highLeft = new CrossoverSide('high');
  private readonly highRight = new CrossoverSide('high');
  private readonly low = new CrossoverSide('low');
  private readonly clipLeft = new ClipStage();
  private readonly clipRight = new ClipStage();
  private readonly waitLeft = new DelayLine(TWICE_DELAY);
  private readonly waitRight = new DelayLine(TWICE_DELAY);
  private readonly waitClean = new DelayLine(TWICE_DELAY);
  private readonly waitKickLeft: DelayLine;
  private readonly waitKickRight: DelayLine;
  private readonly waitBefore: DelayLine;
  private readonly endBassLeft: DelayLine;
  private readonly endBassRight: DelayLine;
  private readonly endKickLeft: DelayLine;
  private readonly endKickRight: DelayLine;
  private readonly ceiling: Ceiling;
  private readonly ducker: Ducker;
  private readonly movers: MoverBank;
  private readonly bank: ParameterBank;
  /** At the end of the last step: warped crossover, drive, bass gain with and without ducking, kick gain, level after the clip. */
  private readonly last = new Float64Array(6);
  private readonly cleanPath: boolean;
  private readonly clipOn: boolean;

  constructor(document: SoundDocument, private readonly stereo: boolean, private readonly sampleRateHz: number, seed: number, stems: boolean) {
    this.cleanPath = document.grit.cleanPath.on;
    this.clipOn = document.grit.clip.on;
    this.ceiling = new Ceiling(sampleRateHz);
    const end = this.ceiling.delayFrames;
    this.latencyFrames = TWICE_DELAY + end;
    this.waitKickLeft = new DelayLine(TWICE_DELAY);
    this.waitKickRight = new DelayLine(TWICE_DELAY);
    this.waitBefore = new DelayLine(end);
    this.endBassLeft = new DelayLine(end);
    this.endBassRight = new DelayLine(end);
    this.endKickLeft = new DelayLine(end);
    this.endKickRight = new DelayLine(end);
    this.ducker = new Ducker(document.duck, sampleRateHz);
    this.movers = new MoverBank(document.movers, document.ground.tempoBpm, sampleRateHz, seed);
    this.bank = new ParameterBank(ROWS, values(document), bankLinks(document, null, FIELDS), sampleRateHz);
    this.taps = stems ? document.layers.map((layer) => new StemTap(layer.role === 'sub', this.cleanPath, this.latencyFrames)) : [];
    this.measureGains(0, 0);
  }

  set(document: SoundDocument): void {
    this.ducker.set(document.duck);
    this.movers.set(document.movers, document.ground.tempoBpm);
    this.bank.setTargets(values(document));
    this.bank.setLinks(bankLinks(document, null, FIELDS));
  }

  copyFrom(other: Mix): void {
    for (const part of ['highLeft', 'highRight', 'low'] as const) this[part].copyFrom(other[part]);
    for (const part of ['clipLeft', 'clipRight'] as const) this[part].copyFrom(other[part]);
    for (const part of ['waitLeft', 'waitRight', 'waitClean', 'waitKickLeft', 'waitKickRight', 'waitBefore', 'endBassLeft', 'endBassRight', 'endKickLeft', 'endKickRight'] as const) {
      this[part].copyFrom(other[part]);
    }
    this.ceiling.copyFrom(other.ceiling);
    this.ducker.copyFrom(other.ducker);
    this.movers.copyFrom(other.movers);
    this.bank.copyFrom(other.bank);
    this.last.set(other.last);
  }

  hit(): void {
    this.ducker.hit();
  }

  noteOn(tie: boolean): void {
    this.movers.noteOn(tie);
  }

  noteOff(): void {
    this.movers.noteOff();
  }

  private measureGains(frames: number, duckDb: number): void {
    const { last } = this;
    const { value } = this.bank;
    if (frames > 0) this.bank.step(frames, this.movers);
    last[0] = prewarp(value[CROSSOVER], this.sampleRateHz);
    last[1] = dbToGain(value[DRIVE]);
    last[2] = dbToGain(value[LEVEL] + duckDb);
    last[3] = dbToGain(value[LEVEL]);
    last[4] = dbToGain(value[KICK_LEVEL] + value[KICK_GAIN]);
    last[5] = this.clipOn ? dbToGain(value[AFTER]) : 1;
  }

  /** Mixes the next `frames` samples of the layers and the kick into this mix's own blocks. */
  process(layers: readonly LayerBlock[], kickLeft: Float64Array, kickRight: Float64Array, frames: number): void {
    const { last, bassLeft, bassRight, bassBefore, clean, stereo } = this;
    this.movers.step(frames);
    const g0 = last[0];
    const drive0 = last[1];
    let level = last[2];
    let before = last[3];
    let kick = last[4];
    let after = last[5];
    this.measureGains(frames, this.ducker.step(frames, this.bank.value[DEPTH]));
    const g1 = last[0];

    for (let i = 0; i < frames; i++) bassLeft[i] = bassRight[i] = clean[i] = 0;
    for (let l = 0; l < layers.length; l++) {
      const { role, left, right } = layers[l];
      for (let i = 0; i < frames; i++) bassLeft[i] += left[i];
      if (stereo) for (let i = 0; i < frames; i++) bassRight[i] += right[i];
      if (role === 'sub') for (let i = 0; i < frames; i++) clean[i] += 0.5 * (left[i] + right[i]);
      if (this.taps.length > 0) this.taps[l].process(left, right, frames, g0, g1);
    }
    if (this.cleanPath) {
      this.low.process(clean, frames, g0, g1);
      this.highLeft.process(bassLeft, frames, g0, g1);
      if (stereo) this.highRight.process(bassRight, frames, g0, g1);
    }
    if (this.clipOn) {
      this.clipLeft.process(bassLeft, frames, drive0, last[1]);
      if (stereo) this.clipRight.process(bassRight, frames, drive0, last[1]);
    } else {
      this.waitLeft.process(bassLeft, frames);
      if (stereo) this.waitRight.process(bassRight, frames);
    }
    if (this.cleanPath) this.waitClean.process(clean, frames);
    else for (let i = 0; i < frames; i++) clean[i] = 0;

    const levelStep = (last[2] - level) / frames;
    const beforeStep = (last[3] - before) / frames;
    const kickStep = (last[4] - kick) / frames;
    const afterStep = (last[5] - after) / frames;
    const { peaks, ceilingGain } = this;
    const kickL = this.kickLeft;
    const kickR = this.kickRight;
    for (let i = 0; i < frames; i++) {
      kickL[i] = kickLeft[i];
      kickR[i] = kickRight[i];
    }
    this.waitKickLeft.process(kickL, frames);
    this.waitKickRight.process(kickR, frames);
    for (let i = 0; i < frames; i++) {
      level += levelStep;
      before += beforeStep;
      kick += kickStep;
      after += afterStep;
      const left = clean[i] + after * bassLeft[i];
      const right = stereo ? clean[i] + after * bassRight[i] : left;
      bassBefore[i] = before * 0.5 * (left + right);
      bassLeft[i] = level * left;
      bassRight[i] = level * right;
      kickL[i] *= kick;
      kickR[i] *= kick;
      const a = Math.abs(bassLeft[i] + kickL[i]);
      const b = Math.abs(bassRight[i] + kickR[i]);
      peaks[i] = a > b ? a : b;
    }
    this.ceiling.gains(peaks, ceilingGain, frames, dbToGain(this.bank.value[CEILING]));
    this.waitBefore.process(bassBefore, frames);
    this.endBassLeft.process(bassLeft, frames);
    this.endBassRight.process(bassRight, frames);
    this.endKickLeft.process(kickL, frames);
    this.endKickRight.process(kickR, frames);
    for (let i = 0; i < frames; i++) {
      const gain = ceilingGain[i];
      bassLeft[i] *= gain;
      bassRight[i] *= gain;
      kickL[i] *= gain;
      kickR[i] *= gain;
    }
    for (let t = 0; t < this.taps.length; t++) {
      const { left, right } = this.taps[t];
      for (let i = 0; i < frames; i++) {
        const gain = level * ceilingGain[i];
        left[i] *= gain;
        right[i] *= gain;
      }
    }
  }
}

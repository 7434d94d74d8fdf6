import { parameter, type Duck, type SoundDocument } from '../../document/index.js';
import {
  BETWEEN_REACH,
  BLOCK,
  Ceiling,
  DelayBank,
  prewarp,
  SOFT_CLIP_DELAY,
  STEP,
  TruePeakFollower,
} from '../../dsp/index.js';
import { dbToGain } from '../../units/index.js';
import {
  PLAYED_ACCENT,
  PLAYED_NUMBER,
  PLAYED_PITCH,
  PLAYED_RATE,
  PLAYED_TIE,
  PLAYED_VELOCITY,
  BY_KICK,
} from '../../kinds/movers/index.js';
import { Ducker, duckGain } from './duck.js';
import { DuckStage } from './duck-stage.js';
import { FeedbackLoop } from '../layer/feedback.js';
import { GritStage } from '../units/grit-stage.js';
import { bankLanes, bankLinks, slotsOf } from '../movers/bank-links.js';
import type { Heard } from '../movers/heard.js';
import { MoverBank, ticksPerFrame } from '../movers/mover-bank.js';
import { ParameterBank } from '../movers/parameter-bank.js';
import { Switches, switchRules } from '../movers/switches.js';
import { NOWHERE, stepFor } from '../layer/layer-player.js';
import { GainLine } from './gain-line.js';
import { StemTap } from './stem-tap.js';

const FIELDS = [
  'grit.clip.driveDb',
  'grit.clip.levelDb',
  'grit.cleanPath.frequencyHz',
  'output.levelDb',
  'output.ceilingDb',
  'kick.levelDb',
  'kick.wav.gainDb',
  'feedback.amountPct',
  'feedback.delayMs',
] as const;
const ROWS = FIELDS.map(parameter);
const slotOf = slotsOf(null, FIELDS);
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
    grit.clip.driveDb,
    grit.clip.levelDb,
    grit.cleanPath.frequencyHz,
    output.levelDb,
    output.ceilingDb,
    kick.levelDb,
    kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0,
    feedback.amountPct,
    feedback.delayMs,
  ];
}

/**
 * What the mix is given of a layer or the kick, a block at a time; where it is silent the blocks hold nothing
 * of worth.
 */
export interface Block {
  readonly silent: boolean;
  readonly left: Float64Array;
  readonly right: Float64Array;
}
export interface LayerBlock extends Block {
  readonly role: string;
}

/** Frames by which the kick must come late to be in step with the bass in the mix. */
export const KICK_DELAY = SOFT_CLIP_DELAY;

/** Stems of the layers: none, each layer's share after the clip, or each dry, as it goes into it. */
export type Stems = 'none' | 'shares' | 'dry';

/**
 * From layers and kick to the sum: clean path and clip (`GritStage`), level, ducking, ceiling. All ways are
 * delayed alike, so that bass and kick stay in
 * step.
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
  /** The ceiling, and the greatest true peak of the step. */
  private readonly levels = new Float64Array(2);
  /** Left and right of the sound, then of what is heard with the backing parts. */
  private readonly followers = Array.from({ length: 4 }, () => new TruePeakFollower(BLOCK));
  private readonly ceilingGain = new Float64Array(BLOCK);
  private readonly grit: GritStage;
  /**
   * The bass before the whole sound's feedback, then what that adds, for the stems; later the sum of bass and
   * kick.
   */
  private readonly addedLeft = new Float64Array(BLOCK);
  private readonly addedRight = new Float64Array(BLOCK);
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
  /** Place in its bank of what a target means. */
  readonly slotOf = slotOf;
  readonly movers: MoverBank;
  readonly bank: ParameterBank;
  /** Whether the clip is there. */
  private readonly switches: Switches;
  private readonly heard: Heard | null;
  /** Ticks a frame; the bass's own peak of late; frames of a control step; notes held. */
  private perFrame: Float64Array;
  private readonly peak = new Float64Array(1);
  private stepFrames = STEP;
  private readonly held = new Int32Array(1);
  private readonly drive = new GainLine();
  private readonly after = new GainLine();
  /**
   * At the end of the last step: warped crossover, drive, bass gain with and without ducking, kick gain,
   * level after the clip, ceiling.
   */
  private readonly last = new Float64Array(7);
  /** The same at its start. */
  private readonly before = new Float64Array(7);
  private readonly numbers = {
    crossover: new Float64Array(2),
    drive: new Float64Array(2),
    after: new Float64Array(2),
    there: null as Float64Array | null,
    drives: null as Float64Array | null,
    afters: null as Float64Array | null,
  };
  /** The numbers for which those were computed. */
  private readonly seen = new Float64Array(FIELDS.length).fill(NaN);
  private readonly cleanPath: boolean;
  private readonly clipOn: boolean;
  /** The whole sound's way back to itself; null where it is off. */
  private readonly feedback: FeedbackLoop | null;
  private readonly sounding = new Float64Array(1);
  private sounds = false;

  /** Where bass or kick cannot differ between the sides, their right block is their left one. */
  constructor(
    document: SoundDocument,
    private readonly stereo: boolean,
    private readonly kickStereo: boolean,
    private readonly sampleRateHz: number,
    seed: number,
    stems: Stems,
    hardHoldMs: number,
    { heard = null, watched = false }: { heard?: Heard | null; watched?: boolean } = {},
  ) {
    this.cleanPath = document.grit.cleanPath.on;
    this.clipOn = document.grit.clip.on;
    this.grit = new GritStage(this.clipOn ? 'clips' : 'waits', this.cleanPath);
    this.feedback = document.feedback.on ? new FeedbackLoop(document.feedback.way, sampleRateHz) : null;
    this.ceiling = new Ceiling(sampleRateHz);
    const end = this.ceiling.delayFrames + BETWEEN_REACH;
    this.latencyFrames = SOFT_CLIP_DELAY + end;
    this.kickRight = kickStereo ? new Float64Array(BLOCK) : this.kickLeft;
    this.bassRight = stereo ? new Float64Array(BLOCK) : this.bassLeft;
    this.end = new DelayBank(end, [
      this.bassLeft,
      this.kickLeft,
      this.bassBefore,
      ...(stereo ? [this.bassRight] : []),
      ...(kickStereo ? [this.kickRight] : []),
      ...(document.backing.length > 0 ? [this.backLeft, this.backRight] : []),
    ]);
    this.duck = document.duck;
    this.sign[0] = document.lock.invert ? -1 : 1;
    this.hasBacking = document.backing.length > 0;
    this.ducker = new Ducker(document.duck, sampleRateHz, hardHoldMs);
    this.duckStage =
      document.duck.on && (document.duck.hard || document.duck.acts !== 'level')
        ? new DuckStage(document.duck, sampleRateHz)
        : null;
    this.heard = heard;
    this.perFrame = ticksPerFrame(document, sampleRateHz);
    this.movers = new MoverBank(document, { sampleRateHz, seed, layerId: null, all: watched });
    this.stepFrames = stepFor(this.movers.fastestHz, sampleRateHz);
    this.bank = new ParameterBank(ROWS, values(document), sampleRateHz);
    this.bank.begin(bankLinks(document, slotOf), bankLanes(document, slotOf), this.movers);
    this.switches = new Switches(1, sampleRateHz);
    this.takeSwitches(document);
    this.switches.begin(this.movers);
    this.taps =
      stems === 'none'
        ? []
        : document.layers.map(
            (layer) =>
              new StemTap(
                layer.role === 'sub',
                stereo,
                this.cleanPath,
                this.clipOn && stems === 'shares',
                end,
                this.duckStage ? document.duck : null,
                sampleRateHz,
              ),
          );
    this.measureGains(0);
  }

  set(document: SoundDocument): void {
    this.duck = document.duck;
    this.sign[0] = document.lock.invert ? -1 : 1;
    this.seen[LEVEL] = NaN;
    this.ducker.set(document.duck);
    this.duckStage?.set(document.duck);
    const moved = this.movers.set(document);
    this.perFrame = ticksPerFrame(document, this.sampleRateHz);
    this.stepFrames = stepFor(this.movers.fastestHz, this.sampleRateHz);
    this.bank.setTargets(values(document));
    this.bank.setLinks(bankLinks(document, slotOf), bankLanes(document, slotOf), this.movers, moved);
    this.takeSwitches(document);
  }

  private takeSwitches(document: SoundDocument): void {
    const rules = switchRules(document, ({ what }) => (what === 'clip' ? 0 : -1));
    this.switches.set([true], rules);
    this.numbers.there = this.clipOn && rules.length > 0 ? Float64Array.of(1, this.switches.level[0]) : null;
  }

  copyFrom(other: Mix): void {
    this.grit.copyFrom(other.grit);
    this.end.copyFrom(other.end);
    this.ceiling.copyFrom(other.ceiling);
    this.followers.forEach((follower, f) => {
      follower.copyFrom(other.followers[f]);
    });
    this.ducker.copyFrom(other.ducker);
    if (other.duckStage) this.duckStage?.copyFrom(other.duckStage);
    this.movers.copyFrom(other.movers);
    this.bank.copyFrom(
      other.bank,
      FIELDS.map((_, i) => i),
      this.movers,
    );
    this.switches.copyFrom(other.switches);
    this.peak.set(other.peak);
    this.held.set(other.held);
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

  /** The loop comes round: a bounce of it begins and ends here. */
  comeRound(): void {
    for (const follower of this.followers) follower.cut(SOFT_CLIP_DELAY);
  }

  /** A note begins in some layer; see `LayerPlayer.noteOn`. */
  noteOn(
    source: number,
    pitch: number,
    velocity: number,
    tie: boolean,
    accent: number,
    rate: number,
    number: number,
  ): void {
    const { note } = this.movers.inputs;
    note[PLAYED_PITCH] = pitch;
    note[PLAYED_VELOCITY] = velocity;
    note[PLAYED_ACCENT] = accent;
    note[PLAYED_RATE] = rate;
    note[PLAYED_NUMBER] = number;
    note[PLAYED_TIE] = tie && this.held[0] > 0 ? 1 : 0;
    this.held[0]++;
    this.movers.noteOn(source, number >= 0);
  }

  noteOff(): void {
    if (this.held[0] > 0) this.held[0]--;
    if (this.held[0] === 0) this.movers.noteOff();
  }

  /** Nothing is held any more. */
  releaseAll(): void {
    this.held[0] = 0;
    this.movers.noteOff();
  }

  /** The kick strikes, for the `number`-th time in the loop. */
  kick(number: number): void {
    this.movers.struck(BY_KICK, number);
  }

  /** Moves the numbers on by `frames` and computes the gains there; only those whose numbers changed. */
  private measureGains(frames: number, place = NOWHERE): void {
    const { last, seen, ducker, movers, bank, switches, numbers } = this;
    const { value } = bank;
    if (frames > 0) {
      if (numbers.there) numbers.there[0] = switches.level[0];
      if (movers.runs) this.moveOn(frames, place);
      else {
        movers.wait(frames);
        bank.step(frames, movers);
        numbers.drives = numbers.afters = null;
      }
      switches.step(frames, movers);
      if (numbers.there) numbers.there[1] = switches.level[0];
      ducker.step(frames);
    }
    if (value[CROSSOVER] !== seen[CROSSOVER]) last[0] = prewarp(value[CROSSOVER], this.sampleRateHz);
    if (value[DRIVE] !== seen[DRIVE]) last[1] = dbToGain(value[DRIVE]);
    if (value[LEVEL] !== seen[LEVEL]) last[3] = this.sign[0] * dbToGain(value[LEVEL]);
    if (value[KICK_LEVEL] !== seen[KICK_LEVEL] || value[KICK_GAIN] !== seen[KICK_GAIN])
      last[4] = dbToGain(value[KICK_LEVEL] + value[KICK_GAIN]);
    if (value[AFTER] !== seen[AFTER]) last[5] = this.clipOn ? dbToGain(value[AFTER]) : 1;
    if (value[CEILING] !== seen[CEILING]) last[6] = dbToGain(value[CEILING]);
    last[2] =
      ducker.share[0] === 0 || this.duckStage ? last[3] : last[3] * duckGain(this.duck, ducker.share[0]);
    for (let i = 0; i < seen.length; i++) seen[i] = value[i];
  }

  /**
   * Moves the numbers on in control steps, with the movers; drive and level after the clip are followed frame by
   * frame where they are carried.
   */
  private moveOn(frames: number, place: number): void {
    const { bank, movers, heard, stepFrames, perFrame, numbers, drive, after } = this;
    const { value } = bank;
    const drives = bank.carries(DRIVE, DRIVE + 1);
    const afters = this.clipOn && bank.carries(AFTER, AFTER + 1);
    drive.begin(value[DRIVE]);
    after.begin(value[AFTER]);
    for (let from = 0; from < frames; from += stepFrames) {
      const to = from + stepFrames < frames ? from + stepFrames : frames;
      movers.stand(place < 0 ? place : place + from, to - from, perFrame);
      if (heard && movers.hears && from % STEP === 0) movers.hear(heard, from / STEP);
      if (movers.hearsSelf) movers.hearSelf(this.peak);
      movers.step(to - from);
      bank.step(to - from, movers);
      if (drives) drive.runTo(value[DRIVE], from, to);
      if (afters) after.runTo(value[AFTER], from, to);
    }
    numbers.drives = drive.frames;
    numbers.afters = after.frames;
  }

  /** Takes down the peak of the bass before the clip, for movers that follow it. */
  private listen(frames: number): void {
    const { bassLeft, bassRight, peak } = this;
    peak[0] = 0;
    for (let i = 0; i < frames; i++) {
      const l = bassLeft[i] < 0 ? -bassLeft[i] : bassLeft[i];
      const r = bassRight[i] < 0 ? -bassRight[i] : bassRight[i];
      if (l > peak[0]) peak[0] = l;
      if (r > peak[0]) peak[0] = r;
    }
  }

  /**
   * Mixes the next `frames` samples of the layers, the kick and the backing parts into this mix's own blocks;
   * `side` is what ducking follows.
   */
  process(
    layers: readonly LayerBlock[],
    kick: Block,
    backing: readonly Block[],
    side: Block | null,
    frames: number,
    place = NOWHERE,
  ): void {
    const { last, stereo, kickStereo } = this;
    for (let i = 0; i < last.length; i++) this.before[i] = last[i];
    if (side) this.ducker.follow(side.left, side.right, side.silent, frames);
    this.measureGains(frames, place);
    const { crossover, drive, after } = this.numbers;
    crossover[0] = this.before[0];
    crossover[1] = last[0];
    drive[0] = this.before[1];
    drive[1] = last[1];
    after[0] = this.before[5];
    after[1] = last[5];
    const sub = this.gather(layers, frames);
    if (this.movers.hearsSelf) this.listen(frames);
    if (this.feedback) this.feedBack(frames);
    this.grit.process(this.bassLeft, this.bassRight, stereo, this.clean, sub, frames, this.numbers);
    for (let t = 0; t < this.taps.length; t++) this.taps[t].shape(this.grit, frames, this.numbers);
    this.level(frames);
    if (this.duckStage)
      this.duckStage.process(this.bassLeft, this.bassRight, this.stereo, frames, this.ducker.share);
    this.takeKick(kick, frames);
    if (this.hasBacking) this.takeBacking(backing, frames);

    const { bassLeft, bassRight, kickLeft, kickRight, backLeft, backRight, hasBacking, ceilingGain } = this;
    this.followPeaks(frames);
    const acts = this.ceiling.gains(this.peaks, ceilingGain, frames);
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
    for (let t = 0; t < this.taps.length; t++)
      this.taps[t].finish(this.before[2], last[2], this.ducker.share, acts ? ceilingGain : null, frames);
  }

  /**
   * Tells the ceiling the true peaks: of the sound by itself, and of what is heard with the backing parts.
   */
  private followPeaks(frames: number): void {
    const {
      bassLeft,
      bassRight,
      kickLeft,
      kickRight,
      backLeft,
      backRight,
      hasBacking,
      peaks,
      levels,
      followers,
      stereo,
      kickStereo,
    } = this;
    for (let i = 0; i < frames; i++) peaks[i] = 0;
    levels[0] = this.last[6];
    levels[1] = 0;
    followers[0].process(bassLeft, kickLeft, frames, peaks, levels);
    const both = stereo || kickStereo || hasBacking;
    if (both) followers[1].process(bassRight, kickRight, frames, peaks, levels);
    if (hasBacking) {
      const { addedLeft, addedRight } = this;
      for (let i = 0; i < frames; i++) {
        addedLeft[i] = bassLeft[i] + kickLeft[i];
        addedRight[i] = bassRight[i] + kickRight[i];
      }
      followers[2].process(addedLeft, backLeft, frames, peaks, levels);
      followers[3].process(addedRight, backRight, frames, peaks, levels);
    }
    this.ceiling.peak[0] = levels[1];
    this.ceiling.peak[1] = levels[0];
  }

  /** Sums the layers, and Sub once more in mono for the clean path; says whether there is any. */
  private gather(layers: readonly LayerBlock[], frames: number): boolean {
    const { bassLeft, bassRight, clean, stereo, cleanPath } = this;
    let sounds = false;
    let sub = false;
    for (let l = 0; l < layers.length; l++) {
      const { silent, role, left, right } = layers[l];
      if (this.taps.length > 0) this.taps[l].take(left, right, silent, frames);
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
    return sub;
  }

  /** The bass comes back to itself before crossover and clip. */
  private feedBack(frames: number): void {
    // Once no layer sounds any more it dies away: a loop that sounds by itself would never end.
    this.sounding[0] = this.sounds
      ? 1
      : this.sounding[0] * Math.exp(-frames / (FEEDBACK_ENDS_S * this.sampleRateHz));
    const { taps, bassLeft, bassRight, addedLeft, addedRight, stereo } = this;
    if (taps.length > 0) {
      addedLeft.set(bassLeft);
      addedRight.set(bassRight);
    }
    this.feedback!.process(bassLeft, bassRight, 0, frames, this.bank.value, FEEDBACK, this.sounding, stereo);
    if (taps.length > 0) this.shareFeedback(frames);
  }

  /**
   * What comes back belongs to no layer: each stem takes as much of it as its layer has of the power of late.
   */
  private shareFeedback(frames: number): void {
    const { taps, bassLeft, bassRight, addedLeft, addedRight } = this;
    for (let i = 0; i < frames; i++) {
      addedLeft[i] = bassLeft[i] - addedLeft[i];
      addedRight[i] = bassRight[i] - addedRight[i];
    }
    let whole = 0;
    for (let t = 0; t < taps.length; t++) whole += taps[t].power[0];
    for (let t = 0; t < taps.length; t++)
      taps[t].add(addedLeft, addedRight, whole > 0 ? taps[t].power[0] / whole : 1 / taps.length, frames);
  }

  /** Sets the level with ducking; keeps the mono of it before ducking. */
  private level(frames: number): void {
    const { bassLeft, bassRight, bassBefore, stereo, last } = this;
    const levelStep = (last[2] - this.before[2]) / frames;
    const beforeStep = (last[3] - this.before[3]) / frames;
    let level = this.before[2];
    let before = this.before[3];
    for (let i = 0; i < frames; i++) {
      level += levelStep;
      before += beforeStep;
      const left = bassLeft[i];
      if (stereo) {
        const right = bassRight[i];
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

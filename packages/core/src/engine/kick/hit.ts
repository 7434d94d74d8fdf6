import type { MadeKick } from '../../document/index.js';
import { bendInPlace, BLOCK, prewarp, SoftClip, waveBank } from '../../dsp/index.js';
import { dbToGain } from '../../units/index.js';
import type { Recording } from '../base/recording.js';
import { FixedRateNoise, NOISE_RATE_HZ } from './fixed-rate-noise.js';

/**
 * Time in which a hit that gives way to the next fades, that of a cut at its length, and that of a sampled
 * click's end, in seconds.
 */
const YIELD_S = 0.003;
const CUT_MS = 5;
const CLICK_END_MS = 2;
/** Time in which a wave that does not begin at zero rises, in ms, and what counts as zero. */
const RISE_MS = 0.6;
const BEGINS_AT_ZERO = 1e-3;
/** A square under this is a sine. */
const LEAST_SQUARE_PCT = 1e-6;
/** How far a soft square is driven at most, and how often a fold passes the crest at most. */
const SQUAREST = 6;
const FOLDS = 4;
/** A sharp skew would fold back into the band: the cycle is never shorter than this share on one side. */
const SKEWEST = 0.45;

// Places in the state.
export const ON = 0;
const PLACE = 1;
const PHASE = 2;
const INCREMENT = 3;
const VELOCITY = 4;
const FADE = 5;
const FADE_STEP = 6;
const BODY = 7;
const CLICK = 8;
const HZ = 9;
/** Progress in the drop or the decay, and the bend after it. */
const PROGRESS = 10;
/** Share of the click's shape at the start of the step. */
const SHAPE = 12;
/** Pitch halfway through the step. */
const HALFWAY_HZ = 13;
/** 1 where the body begins apart from zero, and so rises. */
const RISES = 14;

/** One hit of a kick. */
export class Hit {
  readonly state = new Float64Array(15);
  private readonly clip = new SoftClip();
  /** Every hit has the same click, and the same noise in its body. */
  private readonly clickNoise: FixedRateNoise;
  private readonly bodyNoise: FixedRateNoise;
  private readonly noise = new Float64Array(BLOCK);
  private readonly work = new Float64Array(BLOCK);
  private readonly table: Float32Array;
  /** Warped centre twice, and 1/Q, of a band. */
  private readonly section = new Float64Array(3);
  private readonly gains = new Float64Array(3);

  constructor(
    private readonly sampleRateHz: number,
    seed: number,
  ) {
    this.table = waveBank('sine', sampleRateHz / 2).table(0, 0);
    this.clickNoise = new FixedRateNoise(seed, 5, sampleRateHz);
    this.bodyNoise = new FixedRateNoise(seed, 6, sampleRateHz);
  }

  copyFrom(other: Hit): void {
    this.state.set(other.state);
    this.clip.copyFrom(other.clip);
    this.clickNoise.copyFrom(other.clickNoise);
    this.bodyNoise.copyFrom(other.bodyNoise);
  }

  start(velocity: number, delayFrames: number): void {
    this.state.fill(0);
    this.state[PLACE] = -delayFrames;
    this.state[ON] = 1;
    this.state[VELOCITY] = velocity / 127;
    this.state[FADE] = 1;
    this.clip.reset();
    this.clickNoise.start();
    this.bodyNoise.start();
  }

  /** Frames of this step that pass before the hit begins. */
  wait(frames: number): number {
    const before = -this.state[PLACE];
    if (before <= 0) return 0;
    const skip = before < frames ? before : frames;
    this.state[PLACE] += skip;
    return skip;
  }

  giveWay(): void {
    if (this.state[ON] === 1 && this.state[FADE_STEP] === 0)
      this.state[FADE_STEP] = -1 / (YIELD_S * this.sampleRateHz);
  }

  /** Finds the pitch at a frame of a drop by frequency: along bent lines of semitones. */
  private tune(made: MadeKick, frame: number): void {
    const { state } = this;
    const ms = (frame * 1000) / this.sampleRateHz;
    const knee = made.settleMs > 0 ? made.kneeHz : made.tailHz;
    if (ms >= made.dropMs + made.settleMs) {
      state[HZ] = made.tailHz;
      return;
    }
    const first = ms < made.dropMs;
    state[PROGRESS] = first ? ms / made.dropMs : (ms - made.dropMs) / made.settleMs;
    state[PROGRESS + 1] = first ? made.dropBend : made.settleBend;
    bendInPlace(state, PROGRESS);
    state[HZ] = first
      ? knee * Math.pow(made.startHz / knee, 1 - state[PROGRESS])
      : made.tailHz * Math.pow(knee / made.tailHz, 1 - state[PROGRESS]);
  }

  /** Finds the phase at a frame of a drop by phase, and keeps it; see `displacementLeft`. */
  private displace(made: MadeKick, frame: number): void {
    const { state } = this;
    const ms = (frame * 1000) / this.sampleRateHz;
    const knee = made.settleMs > 0 ? made.kneePct / 100 : 0;
    let left = 0;
    if (ms < made.dropMs) {
      state[PROGRESS] = ms / made.dropMs;
      state[PROGRESS + 1] = made.dropBend;
      bendInPlace(state, PROGRESS);
      left = 1 + (knee - 1) * state[PROGRESS];
    } else if (ms < made.dropMs + made.settleMs) {
      state[PROGRESS] = (ms - made.dropMs) / made.settleMs;
      state[PROGRESS + 1] = made.settleBend;
      bendInPlace(state, PROGRESS);
      left = knee * (1 - state[PROGRESS]);
    }
    const phase = made.startDeg / 360 + (made.tailHz * frame) / this.sampleRateHz - made.dropCycles * left;
    state[PHASE] = phase - Math.floor(phase);
  }

  /** Writes the body's wave of the frames from `start` on, without level, to the start of `work`. */
  private writeBody(made: MadeKick, start: number, frames: number, shakes: number, shaped: number): void {
    const { state, work, noise, table, sampleRateHz } = this;
    const size = table.length - 1;
    const byPhase = made.dropBy === 'phase';
    // The pitch runs through the step along the parabola through its start, its middle and its end, and the
    // phase by the trapezoids under it: then the tail's phase is the same at every rate.
    let increment = state[INCREMENT];
    const rise = state[HZ] / sampleRateHz - increment;
    const sag = (2 * (rise - 2 * (state[HALFWAY_HZ] / sampleRateHz - increment))) / (frames * frames);
    let step = rise / frames - sag * (frames - 1);
    const shapeStep = (shaped - state[SHAPE]) / frames;
    let shape = state[SHAPE];
    const folds = made.clickShape === 'fold';
    let at = state[PHASE];
    for (let i = 0; i < frames; i++) {
      if (byPhase) {
        this.displace(made, start + i);
        at = state[PHASE];
      }
      let phase = at;
      at += increment + 0.5 * step;
      if (at >= 1) at -= 1;
      increment += step;
      step += 2 * sag;
      shape += shapeStep;
      if (shakes === 1) {
        phase += noise[i];
        phase -= Math.floor(phase);
        if (!folds && shape > 0) {
          const middle = 0.5 - SKEWEST * shape;
          phase = phase < middle ? (0.5 * phase) / middle : 0.5 + (0.5 * (phase - middle)) / (1 - middle);
        }
      }
      const x = phase * size;
      const whole = x | 0;
      // A phase a hair under 0 wraps to 1 exactly: that is the place 0.
      const k = whole & (size - 1);
      const y = table[k] + (x - whole) * (table[k + 1] - table[k]);
      work[i] = shakes === 1 && folds && shape > 0 ? Math.sin((Math.PI / 2) * y * (1 + FOLDS * shape)) : y;
    }
    state[PHASE] = at;
    state[SHAPE] = shaped;
    state[INCREMENT] = state[HZ] / sampleRateHz;
    // So little of it is none, and the quotient below would be that of two numbers that have no digits left.
    if (made.squarePct < LEAST_SQUARE_PCT) return;
    const drive = (SQUAREST * made.squarePct) / 100;
    const full = 1 / Math.tanh(drive);
    for (let i = 0; i < frames; i++) work[i] = full * Math.tanh(drive * work[i]);
  }

  /** Noise through a resonance that falls as the body's pitch would. */
  private writeNoiseBody(made: MadeKick, frames: number): void {
    const { state, work, section, sampleRateHz } = this;
    section[0] = prewarp(state[INCREMENT] * sampleRateHz, NOISE_RATE_HZ);
    section[1] = prewarp(state[HZ], NOISE_RATE_HZ);
    section[2] = 2 * Math.sinh((Math.LN2 / 2) * made.noiseWidthOct);
    this.bodyNoise.fill(work, frames, section);
    state[INCREMENT] = state[HZ] / sampleRateHz;
    // A narrower band passes less of the noise; its level is made up for by its width (the power of a band is
    // as its width).
    const up = Math.sqrt((0.25 * NOISE_RATE_HZ) / (state[HZ] * section[2]));
    for (let i = 0; i < frames; i++) work[i] *= up * section[2];
  }

  /** Adds a made kick; without its body where the bass carries that. */
  addMade(
    made: MadeKick,
    bodyless: boolean,
    click: Recording | null,
    left: Float64Array,
    skip: number,
    until: number,
  ): void {
    const frames = until - skip;
    const { state, noise, work, section, sampleRateHz } = this;
    const shakes = made.click === 'phase' && made.clickDb > -60 ? 1 : 0;
    const clickGain = made.click === 'none' || made.clickDb <= -60 ? 0 : dbToGain(made.clickDb);
    const start = state[PLACE];
    if (start === 0) {
      this.tune(made, 0);
      state[INCREMENT] = state[HZ] / sampleRateHz;
      state[PHASE] = made.startDeg / 360 - Math.floor(made.startDeg / 360);
      state[BODY] = state[VELOCITY];
      state[CLICK] = clickGain * (shakes === 1 ? 1 : state[VELOCITY]);
      state[SHAPE] = shakes === 1 ? made.clickShapePct / 100 : 0;
      const begins = Math.sin(
        2 * Math.PI * (made.startDeg / 360 - (made.dropBy === 'phase' ? made.dropCycles : 0)),
      );
      state[RISES] = made.body === 'tone' && (begins > BEGINS_AT_ZERO || begins < -BEGINS_AT_ZERO) ? 1 : 0;
    }
    state[PLACE] += frames;
    const ms = (state[PLACE] * 1000) / sampleRateHz;
    this.tune(made, start + 0.5 * frames);
    state[HALFWAY_HZ] = state[HZ];
    this.tune(made, state[PLACE]);
    const decayed = (ms - made.holdMs) / made.decayMs;
    state[PROGRESS] = decayed < 0 ? 0 : decayed > 1 ? 1 : decayed;
    state[PROGRESS + 1] = made.decayBend;
    bendInPlace(state, PROGRESS);
    const level = 1 - state[PROGRESS];
    state[FADE] = Math.max(0, state[FADE] + frames * state[FADE_STEP]);
    const toCut = (made.lengthMs - ms) / CUT_MS;
    const kept = (toCut < 1 ? (toCut > 0 ? toCut : 0) : 1) * state[FADE];
    const body = level * state[VELOCITY] * kept;
    const fallen = 1 - ms / made.clickMs;
    const clickLevel = fallen > 0 ? fallen * fallen : 0;
    const clickTo = clickGain * clickLevel * (shakes === 1 ? 1 : state[VELOCITY] * kept);
    const noisy = (made.click === 'noise' || shakes === 1) && state[CLICK] > 0;
    if (noisy) {
      section[0] = section[1] = prewarp(made.clickHz, NOISE_RATE_HZ);
      // Q of a band whose −3 dB points lie the given octaves apart (Bristow-Johnson's cookbook).
      section[2] = 2 * Math.sinh((Math.LN2 / 2) * made.clickWidthOct);
      this.clickNoise.fill(noise, frames, section);
      const clickStep = (clickTo - state[CLICK]) / frames;
      let at = state[CLICK];
      for (let i = 0; i < frames; i++) {
        at += clickStep;
        noise[i] *= at;
      }
    } else if (shakes === 1) for (let i = 0; i < frames; i++) noise[i] = 0;
    // PROGRESS is used again below: the levels above are taken by now.
    if (made.body === 'tone')
      this.writeBody(made, start, frames, shakes, shakes === 1 ? (made.clickShapePct / 100) * clickLevel : 0);
    else this.writeNoiseBody(made, frames);
    if (bodyless) for (let i = 0; i < frames; i++) work[i] = 0;
    const gainStep = (body - state[BODY]) / frames;
    let gain = state[BODY];
    for (let i = 0; i < frames; i++) {
      gain += gainStep;
      work[i] *= gain;
    }
    if (state[RISES] === 1) this.rise(start, frames);
    if (noisy && shakes === 0) for (let i = 0; i < frames; i++) work[i] += noise[i];
    else if (made.click === 'sample' && click && clickGain > 0)
      this.addClick(click, start, frames, ms, made.clickMs, clickGain * state[VELOCITY] * kept);
    if (made.driveDb > 0) {
      const { gains } = this;
      gains[0] = gains[1] = dbToGain(made.driveDb);
      gains[2] = 1 / Math.sqrt(gains[1]);
      this.clip.process(work, 0, frames, gains);
    }
    for (let i = 0; i < frames; i++) left[skip + i] += work[i];
    state[BODY] = body;
    state[CLICK] = clickTo;
    if (
      ((body === 0 && clickTo === 0) || state[FADE] === 0 || toCut <= 0) &&
      !(made.click === 'sample' && click && ms < made.clickMs && toCut > 0)
    )
      state[ON] = 0;
  }

  /** A wave that begins at its crest would be a bare step: it rises along half a raised cosine. */
  private rise(start: number, frames: number): void {
    const { work, state } = this;
    const takes = (RISE_MS / 1000) * this.sampleRateHz;
    for (let i = 0; i < frames && start + i < takes; i++)
      work[i] *= 0.5 - 0.5 * Math.cos((Math.PI * (start + i)) / takes);
    if (start + frames >= takes) state[RISES] = 0;
  }

  private addClick(
    click: Recording,
    start: number,
    frames: number,
    ms: number,
    clickMs: number,
    gain: number,
  ): void {
    const { work } = this;
    const [first] = click.channels;
    const rest = (clickMs - ms) / CLICK_END_MS;
    const fade = rest < 1 ? (rest > 0 ? rest : 0) : 1;
    for (let i = 0; i < frames && start + i < first.length; i++) work[i] += gain * fade * first[start + i];
  }

  addRecording(
    recording: Recording,
    left: Float64Array,
    right: Float64Array,
    stereo: boolean,
    skip: number,
    until: number,
  ): void {
    const { state } = this;
    const frames = until - skip;
    const first = recording.channels[0];
    const from = state[PLACE];
    const count = Math.min(frames, first.length - from);
    for (let i = 0; i < count; i++) {
      const fade = state[FADE] + i * state[FADE_STEP];
      const gain = fade > 0 ? state[VELOCITY] * fade : 0;
      left[skip + i] += gain * first[from + i];
      if (stereo) right[skip + i] += gain * recording.channels[1][from + i];
    }
    state[FADE] = Math.max(0, state[FADE] + frames * state[FADE_STEP]);
    state[PLACE] = from + frames;
    if (state[PLACE] >= first.length || state[FADE] === 0) state[ON] = 0;
  }
}

import { BLOCK } from '../../dsp/index.js';
import type { Layer } from '../../document/index.js';
import { Voice, type VoiceContext } from './voice.js';

/**
 * Bounds of the time in which a phase begins anew, in seconds; within them half a period of the lowest tone.
 */
const SHORTEST_S = 0.003;
const LONGEST_S = 0.008;
const TONES = 3;
/** A turn under this, in cycles, is none. */
const LEAST_TURN = 1e-6;

// Places in the state: half the turn in radians, frames that it has gone and frames that it takes; 0 frames
// while nothing turns.
const HALF = 0;
const GONE = 1;
const TAKES = 2;

/**
 * A voice whose phase may begin anew while its note goes on. For that moment it is three: A as it was, B as a
 * note that begins here, and M halfway between them on the
 * shorter way round. With ψ running from −h to h, h half the turn, and u = sin ψ/sin h, the weights ½(u² −
 * u), cos ψ − u²·cos h and ½(u² + u) of A, M and B give a
 * sine of one level whose phase goes from A's to B's without a break: (w_B − w_A)·sin h = sin ψ and (w_A +
 * w_B)·cos h + w_M = cos ψ. What lies above the lowest tone is
 * cross-faded by the same weights. ψ has neither corner nor bend at its ends, so that nothing clicks.
 */
export class TurningVoice {
  private current: Voice;
  /** The two others; null where the layer's phase begins with the note alone. */
  private readonly spare: {
    middle: Voice;
    fresh: Voice;
    readonly middleLeft: Float64Array;
    readonly middleRight: Float64Array;
    readonly freshLeft: Float64Array;
    readonly freshRight: Float64Array;
  } | null;
  private readonly state = new Float64Array(3);
  private readonly turns = new Float64Array(TONES);

  constructor(
    layer: Layer,
    private readonly context: VoiceContext,
  ) {
    this.current = new Voice(layer, context);
    this.spare =
      layer.voice.restart === 'note'
        ? null
        : {
            middle: new Voice(layer, context),
            fresh: new Voice(layer, context),
            middleLeft: new Float64Array(BLOCK),
            middleRight: new Float64Array(BLOCK),
            freshLeft: new Float64Array(BLOCK),
            freshRight: new Float64Array(BLOCK),
          };
  }

  private get turning(): boolean {
    return this.state[TAKES] > 0;
  }

  get active(): boolean {
    return this.current.active;
  }

  get held(): boolean {
    return this.current.held;
  }

  get pitch(): number {
    return this.current.pitch;
  }

  /** The pitch that it stands at or glides to. */
  get pitchTo(): number {
    return this.current.pitchTo;
  }

  get level(): number {
    return this.current.level;
  }

  set(layer: Layer, a4Hz: number): void {
    this.current.set(layer, a4Hz);
    this.spare?.middle.set(layer, a4Hz);
    this.spare?.fresh.set(layer, a4Hz);
  }

  copyFrom(other: TurningVoice): void {
    this.state.fill(0);
    if (!other.turning || !other.spare) this.current.copyFrom(other.current);
    else if (!this.spare) this.current.copyFrom(other.spare.fresh);
    else {
      this.current.copyFrom(other.current);
      this.spare.middle.copyFrom(other.spare.middle);
      this.spare.fresh.copyFrom(other.spare.fresh);
      this.state.set(other.state);
    }
  }

  prefetch(): boolean {
    return this.current.prefetch();
  }

  start(asked: Float64Array, phases: Float64Array, values: Float64Array): void {
    this.state[TAKES] = 0;
    this.current.start(asked, phases, values);
  }

  /**
   * Begins the phase of each tone anew at `phases` cycles while the note goes on; a tone with a phase below 0
   * keeps its own. Nothing happens while it does so already.
   */
  restart(phases: Float64Array, values: Float64Array): void {
    const { current, spare, state, turns } = this;
    if (!spare || this.turning || !current.held) return;
    const lowest = current.turnsTo(phases, turns);
    if (lowest < 0) return;
    let most = 0;
    for (let t = 0; t < TONES; t++) if (Math.abs(turns[t]) > most) most = Math.abs(turns[t]);
    if (most < LEAST_TURN) return;
    spare.middle.copyFrom(current);
    spare.middle.rephase(phases, turns, 0.5, values);
    spare.fresh.copyFrom(current);
    spare.fresh.rephase(phases, turns, 0, values);
    state[HALF] = Math.PI * turns[lowest];
    state[GONE] = 0;
    state[TAKES] = Math.max(
      1,
      Math.round(
        Math.min(LONGEST_S, Math.max(SHORTEST_S, 0.5 / current.hzOf(lowest))) * this.context.sampleRateHz,
      ),
    );
  }

  glideTo(asked: Float64Array): void {
    this.current.glideTo(asked);
    if (!this.spare || !this.turning) return;
    this.spare.middle.glideTo(asked);
    this.spare.fresh.glideTo(asked);
  }

  carryKick(fromMs: number): void {
    this.current.carryKick(fromMs);
    if (!this.spare || !this.turning) return;
    this.spare.middle.carryKick(fromMs);
    this.spare.fresh.carryKick(fromMs);
  }

  touch(asked: Float64Array): void {
    this.current.touch(asked);
    if (!this.spare || !this.turning) return;
    this.spare.middle.touch(asked);
    this.spare.fresh.touch(asked);
  }

  release(): void {
    this.current.release();
    if (!this.spare || !this.turning) return;
    this.spare.middle.release();
    this.spare.fresh.release();
  }

  giveWay(): void {
    this.current.giveWay();
    if (!this.spare || !this.turning) return;
    this.spare.middle.giveWay();
    this.spare.fresh.giveWay();
  }

  /** Writes the samples from `start` up to `end`; see `Voice.write`. */
  write(
    left: Float64Array,
    right: Float64Array,
    start: number,
    end: number,
    values: Float64Array,
    gains: Float64Array,
  ): void {
    this.current.write(left, right, start, end, values, gains);
    const { spare, state } = this;
    if (!spare || state[TAKES] === 0) return;
    const { middleLeft, middleRight, freshLeft, freshRight } = spare;
    const { stereo } = this.context;
    spare.middle.write(middleLeft, middleRight, start, end, values, gains);
    spare.fresh.write(freshLeft, freshRight, start, end, values, gains);
    const half = state[HALF];
    const sine = Math.sin(half);
    const cosine = Math.cos(half);
    const takes = state[TAKES];
    let gone = state[GONE];
    for (let i = start; i < end; i++) {
      const s = gone < takes ? gone / takes : 1;
      gone += 1;
      const way = 2 * s * s * s * (10 - s * (15 - 6 * s)) - 1;
      const psi = half * way;
      // For a small turn sin ψ/sin h is the way itself.
      const u = sine < 1e-4 && sine > -1e-4 ? way : Math.sin(psi) / sine;
      const old = 0.5 * (u * u - u);
      const begun = 0.5 * (u * u + u);
      const between = Math.cos(psi) - u * u * cosine;
      left[i] = old * left[i] + between * middleLeft[i] + begun * freshLeft[i];
      if (stereo) right[i] = old * right[i] + between * middleRight[i] + begun * freshRight[i];
    }
    state[GONE] = gone;
    if (gone < takes) return;
    const was = this.current;
    this.current = spare.fresh;
    spare.fresh = was;
    state[TAKES] = 0;
  }
}

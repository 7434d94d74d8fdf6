import { resolveTarget, type Layer, type SoundDocument } from '../document/index.js';
import { Random } from '../dsp/index.js';
import { dbToGain } from '../units/index.js';
import { BLOCK, STEP } from './chunk.js';
import { CONTROL_LEFT_0, CONTROL_LEFT_1, CONTROL_NUMBERS, CONTROL_RIGHT_0, CONTROL_RIGHT_1 } from './control.js';
import { LAYER_FIELDS, LAYER_ROWS, layerValues, LEVEL, PAN } from './layer-parameters.js';
import { MoverBank } from './mover-bank.js';
import { ParameterBank, type BankLink } from './parameter-bank.js';
import { Voice } from './voice.js';

/** Notes held at once that are remembered for last-note order. */
const STACK = 32;
/** Live notes count from here, so that they never meet a note of the line. */
export const LIVE_SOURCE = 10_000_000;

/** The links of a document that reach the fields of one part (a layer, or the mix), as places in its bank. */
export function bankLinks(document: SoundDocument, layerId: string | null, fields: readonly string[]): BankLink[] {
  const out: BankLink[] = [];
  for (const link of document.links) {
    const target = resolveTarget(document, link.target);
    const mover = document.movers.findIndex((candidate) => candidate.id === link.mover);
    if (!link.on || !target || target.layerId !== layerId || mover < 0) continue;
    const slot = fields.indexOf(target.field);
    if (slot >= 0) out.push({ slot, mover, reach: link.reachPct / 100 });
  }
  return out;
}

/** Degrees of the note's fundamental by which a layer starts further on, for the turn that the Lock station sets. */
function turnCycles(document: SoundDocument, layer: Layer): number {
  const lowest = document.layers.find((candidate) => candidate.role === 'sub' && candidate.on) ?? layer;
  const ratio = (tone: Layer['tone']) => Math.pow(2, tone.octave + tone.semitones / 12);
  return (document.lock.turnDeg / 360) * (ratio(layer.tone) / ratio(lowest.tone));
}

/** Whether a layer can differ between left and right, now or by a link. */
export function isStereo(document: SoundDocument, layer: Layer): boolean {
  const reached = (field: string) => document.links.some((link) => link.target === `layers.${layer.id}.${field}`);
  const spread = layer.tone.copies > 1 && (layer.tone.spreadPct > 0 || reached('tone.spreadPct'));
  return spread || layer.panPct !== 0 || reached('panPct');
}

/**
 * A layer playing: one note at a time, the last one held having the say. Every layer runs its movers itself, so that a layer can
 * be rendered alone and sound exactly as it does among the others.
 */
export class LayerPlayer {
  readonly left = new Float64Array(BLOCK);
  /** The same block as `left` where the two sides cannot differ. */
  readonly right: Float64Array;
  readonly stereo: boolean;
  /** Whether nothing sounds; the blocks are then not written. */
  silent = true;
  private readonly movers: MoverBank;
  private readonly bank: ParameterBank;
  private readonly random: Random;
  private front: Voice;
  private back: Voice;
  private readonly heldSource = new Int32Array(STACK);
  private readonly heldPitch = new Float64Array(STACK);
  private readonly heldVelocity = new Float64Array(STACK);
  private readonly counts = new Int32Array(1);
  /**
   * Pitch of the last note (below 0 before the first), gains of the two sides at the end of the last step; then level, pan
   * and switch for which the last two gains were computed.
   */
  private readonly last = Float64Array.of(-1, 0, 0, NaN, NaN, NaN, 0, 0);
  private turn: number;
  private readonly control = new Float64Array(CONTROL_NUMBERS);
  private readonly scratchLeft = new Float64Array(BLOCK);
  private readonly scratchRight = new Float64Array(BLOCK);

  constructor(document: SoundDocument, private layer: Layer, sampleRateHz: number, seed: number) {
    const stream = document.layers.indexOf(layer);
    this.movers = new MoverBank(document.movers, document.ground.tempoBpm, sampleRateHz, seed);
    this.bank = new ParameterBank(LAYER_ROWS, layerValues(layer), bankLinks(document, layer.id, LAYER_FIELDS), sampleRateHz);
    this.random = new Random(seed, 10 + stream);
    this.front = new Voice(layer, document.ground.a4Hz, sampleRateHz);
    this.back = new Voice(layer, document.ground.a4Hz, sampleRateHz);
    this.stereo = isStereo(document, layer);
    this.right = this.stereo ? new Float64Array(BLOCK) : this.left;
    this.turn = turnCycles(document, layer);
    this.gains();
  }

  get id(): string {
    return this.layer.id;
  }

  get role(): Layer['role'] {
    return this.layer.role;
  }

  /** Takes other numbers for a document of the same structure. */
  set(document: SoundDocument, layer: Layer): void {
    this.layer = layer;
    this.movers.set(document.movers, document.ground.tempoBpm);
    this.bank.setTargets(layerValues(layer));
    this.bank.setLinks(bankLinks(document, layer.id, LAYER_FIELDS));
    this.front.set(layer, document.ground.a4Hz);
    this.back.set(layer, document.ground.a4Hz);
    this.turn = turnCycles(document, layer);
  }

  /** Goes on from where another player of the same layer stands. */
  copyFrom(other: LayerPlayer): void {
    this.movers.copyFrom(other.movers);
    this.bank.copyFrom(other.bank);
    this.random.copyFrom(other.random);
    this.front.copyFrom(other.front);
    this.back.copyFrom(other.back);
    this.heldSource.set(other.heldSource);
    this.heldPitch.set(other.heldPitch);
    this.heldVelocity.set(other.heldVelocity);
    this.counts.set(other.counts);
    this.last.set(other.last);
  }

  noteOn(source: number, pitch: number, velocity: number, tie: boolean): void {
    const goesOn = (tie || this.layer.voice.trigger === 'legato') && this.front.held;
    this.movers.noteOn(goesOn);
    this.hold(source, pitch, velocity);
    const { voice, tone } = this.layer;
    if (goesOn) {
      this.front.glideTo(pitch);
      this.front.touch(velocity);
    } else {
      const glides = (tie || voice.glide === 'always') && this.last[0] >= 0;
      const from = glides ? (this.front.active ? this.front.pitch : this.last[0]) : pitch;
      const spare = this.back;
      this.front.giveWay();
      this.back = this.front;
      this.front = spare;
      const free = tone.startPhase === 'free' ? this.random.next() : 0;
      const phase = tone.startPhaseDeg / 360 + this.turn + free + 8;
      this.front.start(pitch, velocity, phase - Math.floor(phase), from, this.bank.value);
    }
    this.last[0] = pitch;
  }

  noteOff(source: number): void {
    const count = this.counts[0];
    let at = -1;
    for (let i = 0; i < count; i++) if (this.heldSource[i] === source) at = i;
    if (at < 0) return;
    const wasLast = at === count - 1;
    for (let i = at; i < count - 1; i++) {
      this.heldSource[i] = this.heldSource[i + 1];
      this.heldPitch[i] = this.heldPitch[i + 1];
      this.heldVelocity[i] = this.heldVelocity[i + 1];
    }
    this.counts[0] = count - 1;
    if (!wasLast) return;
    if (count - 1 > 0) {
      this.front.glideTo(this.heldPitch[count - 2]);
      this.front.touch(this.heldVelocity[count - 2]);
      this.last[0] = this.heldPitch[count - 2];
    } else {
      this.front.release();
      this.movers.noteOff();
    }
  }

  /** The sources of the notes held, oldest first. */
  heldSources(): number[] {
    return Array.from(this.heldSource.subarray(0, this.counts[0]));
  }

  /** Ends every held note whose source lies in [from, to). */
  releaseSources(from: number, to: number): void {
    for (let i = this.counts[0] - 1; i >= 0; i--) {
      const source = this.heldSource[i];
      if (source >= from && source < to) this.noteOff(source);
    }
  }

  private hold(source: number, pitch: number, velocity: number): void {
    let count = this.counts[0];
    if (count === STACK) {
      this.heldSource.copyWithin(0, 1);
      this.heldPitch.copyWithin(0, 1);
      this.heldVelocity.copyWithin(0, 1);
      count--;
    }
    this.heldSource[count] = source;
    this.heldPitch[count] = pitch;
    this.heldVelocity[count] = velocity;
    this.counts[0] = count + 1;
  }

  private gains(): void {
    const { last } = this;
    const { value } = this.bank;
    const on = this.layer.on ? 1 : 0;
    if (value[LEVEL] !== last[3] || value[PAN] !== last[4] || on !== last[5]) {
      last[3] = value[LEVEL];
      last[4] = value[PAN];
      last[5] = on;
      const gain = on * dbToGain(value[LEVEL]);
      last[6] = gain * (1 - value[PAN] / 100);
      last[7] = gain * (1 + value[PAN] / 100);
    }
    last[1] = last[6];
    last[2] = last[7];
  }

  /** Writes the next `frames` (at most `BLOCK`) samples to `left` and `right`; nothing where the layer is silent. */
  render(frames: number): void {
    this.silent = !this.front.active && !this.back.active;
    for (let from = 0; from < frames; from += STEP) this.step(from, from + STEP < frames ? from + STEP : frames);
  }

  private step(from: number, to: number): void {
    const { left, right, stereo, last, bank, front, back, control } = this;
    bank.step(to - from, this.movers);
    control[CONTROL_LEFT_0] = last[1];
    control[CONTROL_RIGHT_0] = last[2];
    this.gains();
    control[CONTROL_LEFT_1] = last[1];
    control[CONTROL_RIGHT_1] = last[2];
    if (this.silent) return;
    if (front.active) {
      front.write(left, right, from, to, bank.value, control, stereo);
    } else {
      for (let i = from; i < to; i++) left[i] = 0;
      if (stereo) for (let i = from; i < to; i++) right[i] = 0;
    }
    if (back.active) {
      const { scratchLeft, scratchRight } = this;
      back.write(scratchLeft, scratchRight, from, to, bank.value, control, stereo);
      for (let i = from; i < to; i++) left[i] += scratchLeft[i];
      if (stereo) for (let i = from; i < to; i++) right[i] += scratchRight[i];
    }
  }
}

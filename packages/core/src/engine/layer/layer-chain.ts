import type { Layer, SoundDocument } from '../../document/index.js';
import { PLAYED_PITCH } from '../../kinds/movers/index.js';
import { unitKindOf } from '../../kinds/units/index.js';
import type { Assets } from '../base/recording.js';
import type { ChainTape } from '../units/chain-tape.js';
import { NO_MARKS, type NoteMarks } from '../units/note-marks.js';
import { heardByUnits, Overheard } from '../sides/overheard.js';
import { UnitChain } from '../units/unit-chain.js';
import type { UnitSlot } from '../units/unit-slot.js';
import { isStereo } from './layer-sides.js';
import { SIDE_LEFT_0, SIDE_LEFT_1, SIDE_RIGHT_0, SIDE_RIGHT_1 } from './voice.js';

/** What comes out of a chain below this is silence, and what it may be silent for besides what its units wait. */
const SILENCE = 1e-6;
const LEAST_WAIT_S = 0.05;

/** What a layer's chain is made with. */
interface LayerChainOptions {
  readonly sampleRateHz: number;
  readonly seed: number;
  readonly assets: Assets;
}

/** A layer's own units, in front of its level, with what they listen to. */
export class LayerChain {
  /** Those of its units that are on. */
  readonly ids: readonly string[];
  readonly overheard: Overheard;
  /** Where the notes of the line begin. */
  marks: NoteMarks = NO_MARKS;
  private readonly rate: number;
  private readonly slots: readonly UnitSlot[];
  private readonly chain: UnitChain;
  /** Whether there is anything to run. */
  private recorded = false;
  private readonly hears: {
    readonly hz: Float64Array;
    readonly tempo: Float64Array;
    readonly ahead: Float64Array;
  };
  /** Frames since anything came out of it, and for how many it may be silent with more to come. */
  private readonly quiet = Float64Array.of(Infinity);
  private waitFrames: number;
  private readonly a4Hz: Float64Array;
  private units: Layer['chain'];

  /** @param at place of the first number of its first unit. */
  constructor(
    document: SoundDocument,
    layer: Layer,
    at: number,
    { sampleRateHz, seed, assets }: LayerChainOptions,
  ) {
    this.units = layer.chain;
    this.a4Hz = Float64Array.of(document.ground.a4Hz);
    this.hears = {
      hz: new Float64Array(1),
      tempo: Float64Array.of(document.ground.tempoBpm),
      ahead: Float64Array.of(Infinity),
    };
    this.overheard = new Overheard(document, heardByUnits(layer.chain), sampleRateHz, assets);
    this.chain = new UnitChain(
      layer.chain,
      // What goes in has as many sides as what comes out: its voices write both where any unit does.
      {
        sampleRateHz,
        seed,
        stereo: isStereo(document, layer),
        hears: { ...this.hears, side: (name) => this.overheard.block(name) },
      },
      at,
    );
    this.ids = [...this.chain.slots.keys()];
    this.slots = [...this.chain.slots.values()];
    this.rate = sampleRateHz;
    this.waitFrames = this.waitsFor(document, layer);
  }

  /** Frames for which it may be silent with more to come. */
  private waitsFor({ ground }: SoundDocument, { chain }: Layer): number {
    const waits = chain.map((unit) =>
      unit.on ? (unitKindOf(unit.kind).waitsS?.(unit, ground.tempoBpm) ?? 0) : 0,
    );
    return (waits.reduce((sum, each) => sum + each, 0) + LEAST_WAIT_S) * this.rate;
  }

  /** Takes other numbers for units of the same structure. */
  set(document: SoundDocument, layer: Layer): void {
    if (layer.chain !== this.units) this.chain.set(layer.chain);
    this.units = layer.chain;
    this.hears.tempo[0] = document.ground.tempoBpm;
    this.a4Hz[0] = document.ground.a4Hz;
    this.overheard.set(document);
    this.waitFrames = this.waitsFor(document, layer);
  }

  copyFrom(other: LayerChain): void {
    this.chain.copyFrom(other.chain);
    this.hears.hz.set(other.hears.hz);
    this.overheard.copyFrom(other.overheard);
    this.quiet.set(other.quiet);
  }

  /** Writes down what its units do from now on, over so many frames. */
  record(frames: number): ChainTape {
    this.recorded = true;
    return this.chain.record(frames);
  }

  /** Whether it changes what goes through it, or writes it down. */
  get runs(): boolean {
    return !this.chain.empty || this.recorded;
  }

  /** Whether it still has something to let out. */
  get rings(): boolean {
    return !this.chain.empty && this.quiet[0] < this.waitFrames;
  }

  /** Tells its units what comes in the next `frames`: the line stands at `place`. */
  await(place: number, frames: number): void {
    if (!this.runs) return;
    this.chain.await(this.marks, place);
    this.overheard.render(frames);
  }

  /** How far each unit is there at the start (0) or the end (1) of a step; the first stands at `levels[at]`. */
  stand(end: 0 | 1, levels: Float64Array, at: number): void {
    const { slots } = this;
    for (let u = 0; u < slots.length; u++) slots[u].there[end] = levels[at + u];
  }

  /** Takes the pitch that sounds from a note, where one does. */
  hear(note: Float64Array): void {
    const pitch = note[PLAYED_PITCH];
    if (pitch > 0) this.hears.hz[0] = this.a4Hz[0] * Math.exp((Math.LN2 / 12) * (pitch - 69));
  }

  /**
   * Works on the samples from `from` up to `to` of a layer, then sets its level: `gains` are those of both sides at
   * both ends of the step, `numbers` those of its units among others.
   */
  process(
    left: Float64Array,
    right: Float64Array,
    stereo: boolean,
    from: number,
    to: number,
    numbers: Float64Array,
    gains: Float64Array,
  ): void {
    this.chain.process(left, right, from, to, numbers);
    let loud = 0;
    for (let s = 0; s < (stereo ? 2 : 1); s++) {
      const samples = s === 0 ? left : right;
      let gain = gains[s === 0 ? SIDE_LEFT_0 : SIDE_RIGHT_0];
      const step = (gains[s === 0 ? SIDE_LEFT_1 : SIDE_RIGHT_1] - gain) / (to - from);
      for (let i = from; i < to; i++) {
        const x = samples[i];
        if (x > loud) loud = x;
        else if (-x > loud) loud = -x;
        gain += step;
        samples[i] = gain * x;
      }
    }
    this.quiet[0] = loud > SILENCE ? 0 : this.quiet[0] + (to - from);
  }
}

import { actsShape, placesOf, type Acts, type Layer, type Way } from '../../document/index.js';
import { BLOCK, HALF_BAND_DOWN_DELAY, HalfBandDown, HalfBandUp, STEP } from '../../dsp/index.js';
import { CycleTone } from './cycle-tone.js';
import { FmTone } from './fm-tone.js';
import { Dull, Late, ToneSwitch, SWITCH_DELAY } from './switch.js';
import { SYNC_DELAY, SyncReader } from './sync-reader.js';
import type { ToneGenerator } from './tone.js';

/** Frequency swing of FM at full amount, as a multiple of the tone's own frequency. */
const FM_FULL = 6;
/** Displacement of a steered phase at full amount, in cycles. */
const STEER_FULL = 1;
/** Semitones by which hard sync moves the pitch at full amount. */
const SYNC_FULL = 36;
/**
 * Swing of a tone's frequency that two tones which steer each other are given room for, as a multiple of the
 * other's frequency at full amount.
 */
const BACK_SWING = 4 * Math.PI;
/**
 * A tone is made this dull before it steers another, in hertz: the sidebands of its upper harmonics would
 * reach beyond what can be held.
 */
const STEERS_BELOW_HZ = 4000;
const UPPER = 2 * STEP;
/** Running means are taken off with this corner, in hertz. */
const CENTRE_HZ = 5;

const ACTS = placesOf(actsShape);
/**
 * Places of the amounts, in the order in which they stand in `amount`: tone 2's, tone 3's, that of 1 back on
 * 2, width and smoothing of the switch.
 */
const AMOUNTS = [ACTS.two.amountPct, ACTS.three.amountPct, ACTS.backPct, ACTS.widthPct, ACTS.smoothPct];

const PHASE_WAYS: readonly Way[] = ['fm', 'steer', 'sync'];

/**
 * Which tones of a layer act on another or are acted on; such tones are run at twice the rate, in the middle.
 */
export function actingTones({ tones, acts }: Pick<Layer, 'tones' | 'acts'>): boolean[] {
  const on = tones.map((tone) => tone.on);
  const two = on[0] && on[1] && acts.two.way !== 'add';
  const three =
    on[2] &&
    acts.three.way !== 'add' &&
    (acts.three.way === 'alternate' ? on[0] && on[1] : acts.three.on === '1' ? on[0] : on[1]);
  return [
    two || (three && (acts.three.way === 'alternate' || acts.three.on === '1')),
    two || (three && (acts.three.way === 'alternate' || acts.three.on === '2')),
    three,
  ];
}

/** Samples of the upper rate by which each tone comes late by its edges. */
function edgeDelays({ acts }: Pick<Layer, 'acts'>): number[] {
  const wave = (way: Way) =>
    way === 'add' || way === 'ring' || way === 'alternate' || PHASE_WAYS.includes(way) ? 0 : SWITCH_DELAY;
  const { two, three } = acts;
  const onTwo = three.on === '2' ? wave(three.way) + (three.way === 'sync' ? SYNC_DELAY : 0) : 0;
  const onOne = three.way === 'alternate' ? SWITCH_DELAY : three.on === '1' ? wave(three.way) : 0;
  const synced = two.way === 'sync' || (three.way === 'sync' && three.on === '1');
  return [wave(two.way) + onOne + (synced ? SYNC_DELAY : 0), onTwo, 0];
}

/**
 * Delay of every tone of an interplay, in frames: each starts so much further on in its cycle, and so stands
 * where tones outside it do. Those that have fewer edges wait for
 * those that have more, so that the tones stand to each other as they would alone.
 */
export function interplayDelay(layer: Pick<Layer, 'acts'>): number {
  return Math.max(...edgeDelays(layer)) / 2 + HALF_BAND_DOWN_DELAY;
}

/** A one-pole high-pass that takes the running mean off. */
class Centre {
  private readonly mean = new Float64Array(1);
  private readonly rate: number;
  constructor(rateHz: number) {
    this.rate = 1 - Math.exp((-2 * Math.PI * CENTRE_HZ) / rateHz);
  }
  reset(): void {
    this.mean[0] = 0;
  }
  copyFrom(other: Centre): void {
    this.mean.set(other.mean);
  }
  process(samples: Float64Array, count: number): void {
    let mean = this.mean[0];
    for (let i = 0; i < count; i++) {
      mean += this.rate * (samples[i] - mean);
      samples[i] -= mean;
    }
    this.mean[0] = mean < 1e-18 && mean > -1e-18 ? 0 : mean;
  }
}

/** A tone as the interplay reads it at twice the rate. */
class Player {
  readonly raw = new Float64Array(UPPER);
  readonly displace = new Float64Array(UPPER);
  readonly swing = new Float64Array(UPPER);
  readonly cycle: CycleTone | null;
  private readonly fm: FmTone | null;
  private readonly up = new HalfBandUp();
  private readonly plain = new Float64Array(BLOCK);
  /** Frequency that the tone is displaced by at most in this step, in hertz. */
  readonly swung = new Float64Array(1);
  /** Its wave as it steers others. */
  readonly dull: Dull;

  constructor(
    readonly source: ToneGenerator,
    rateHz: number,
  ) {
    this.dull = new Dull(STEERS_BELOW_HZ, rateHz);
    this.cycle = source instanceof CycleTone ? source : null;
    this.fm = source instanceof FmTone ? source : null;
    this.fm?.forceUpper();
  }
  reset(): void {
    this.up.reset();
    this.dull.reset();
    this.swung[0] = 0;
  }
  copyFrom(other: Player): void {
    this.up.copyFrom(other.up);
    this.dull.copyFrom(other.dull);
  }
  begin(): void {
    this.displace.fill(0);
    this.swing.fill(0);
  }
  /** Reads a step at once; a cycle must have been prepared. */
  read(frames: number, pitch: Float64Array, values: Float64Array, base: number): void {
    if (this.cycle) this.cycle.steer(this.raw, 0, 2 * frames, this.displace, this.swing);
    else if (this.fm) this.fm.processUpper(this.raw, frames, pitch, values, base);
    else {
      this.source.process(this.plain, this.plain, 0, frames, pitch, values, base, false);
      this.up.process(this.plain, 0, frames, this.raw);
    }
  }
}

/**
 * Tones on each other: tone 2 acts on 1, tone 3 on 2 or on 1, computed 3, 2, 1 at twice the rate. Steering
 * and FM displace the phase of a tone's cycle (Chowning,
 * 1973), hard sync starts it anew with the other's (Brandt, 2001); ring, logic and compare are taken of the
 * two waves. Every
 * edge is a band-limited step. Whatever comes out is centred.
 */
export class Interplay {
  /** What each tone gives, at the engine's rate. */
  readonly outputs: readonly Float64Array[];
  private readonly players: readonly (Player | null)[];
  private readonly acts: Acts;
  /** What acts by waves: tone 2 on 1, tone 3 on 2, tone 3 on 1, and the switch between 1 and 2. */
  private readonly twoOnOne: ToneSwitch | null;
  private readonly threeOnTwo: ToneSwitch | null;
  private readonly threeOnOne: ToneSwitch | null;
  private readonly alternate: ToneSwitch | null;
  private readonly syncs = [new SyncReader(), new SyncReader()];
  /** What each tone waits for, in samples of the upper rate. */
  private readonly waits: readonly number[];
  private readonly lates = [new Late(), new Late(), new Late()];
  private readonly downs = [new HalfBandDown(), new HalfBandDown(), new HalfBandDown()];
  /** Whether tones 1 and 2 are under FM. */
  private readonly fms: readonly boolean[];
  private readonly centres: readonly Centre[];
  private readonly pitches: readonly Float64Array[] = [
    new Float64Array(1),
    new Float64Array(1),
    new Float64Array(1),
  ];
  /** Amounts of 2, 3, back, width and smoothing at the start and the end of the step, 0 to 1. */
  private readonly amount = new Float64Array(10);
  /** Whether amounts have been set since the note began; the last value of tone 1. */
  private readonly state = new Float64Array(2);
  private readonly other = new Float64Array(UPPER);

  constructor(
    layer: Pick<Layer, 'tones' | 'acts'>,
    sources: readonly (ToneGenerator | null)[],
    private readonly sampleRateHz: number,
  ) {
    this.acts = layer.acts;
    const acting = actingTones(layer);
    this.players = sources.map((source, i) =>
      source && acting[i] ? new Player(source, 2 * sampleRateHz) : null,
    );
    this.outputs = sources.map(() => new Float64Array(BLOCK));
    const wave = (way: Way) =>
      way === 'add' || way === 'alternate' || PHASE_WAYS.includes(way)
        ? null
        : new ToneSwitch(way, 2 * sampleRateHz);
    const { two, three } = this.acts;
    this.twoOnOne = wave(two.way);
    this.threeOnTwo = three.on === '2' ? wave(three.way) : null;
    this.threeOnOne = three.on === '1' ? wave(three.way) : null;
    this.alternate = three.way === 'alternate' ? new ToneSwitch('alternate', 2 * sampleRateHz) : null;
    this.fms = [
      two.way === 'fm' || (three.on === '1' && three.way === 'fm'),
      three.on === '2' && three.way === 'fm',
    ];
    const delays = edgeDelays(layer);
    this.waits = delays.map((delay) => Math.max(...delays) - delay);
    this.centres = [0, 1].map(() => new Centre(2 * sampleRateHz));
  }

  /** Whether a tone takes part. */
  has(tone: number): boolean {
    return this.players[tone] !== null;
  }

  /**
   * Begins a note; the tones themselves have been started. `targets[t]` is the frequency in hertz that tone t
   * will stand at.
   */
  start(targets: Float64Array): void {
    for (let i = 0; i < 3; i++) {
      this.players[i]?.reset();
      this.downs[i].reset();
      this.lates[i].reset();
    }
    this.centres[0].reset();
    this.centres[1].reset();
    this.twoOnOne?.reset();
    this.threeOnTwo?.reset();
    this.threeOnOne?.reset();
    this.alternate?.reset();
    const late = SYNC_DELAY / (2 * this.sampleRateHz);
    const two = this.acts.two.way === 'sync';
    this.syncs[0].reset(late * targets[two ? 1 : 2]);
    this.syncs[1].reset(late * targets[2]);
    this.state.fill(0);
  }

  copyFrom(other: Interplay): void {
    for (let i = 0; i < 3; i++) {
      const player = other.players[i];
      if (player) this.players[i]?.copyFrom(player);
      this.downs[i].copyFrom(other.downs[i]);
      this.lates[i].copyFrom(other.lates[i]);
    }
    this.centres[0].copyFrom(other.centres[0]);
    this.centres[1].copyFrom(other.centres[1]);
    for (const part of ['twoOnOne', 'threeOnTwo', 'threeOnOne', 'alternate'] as const) {
      const same = other[part];
      if (same) this[part]?.copyFrom(same);
    }
    this.syncs[0].copyFrom(other.syncs[0]);
    this.syncs[1].copyFrom(other.syncs[1]);
    this.amount.set(other.amount);
    this.state.set(other.state);
  }

  private takeAmounts(values: Float64Array, at: number): void {
    const { amount, state } = this;
    for (let k = 0; k < AMOUNTS.length; k++) {
      const next = values[at + AMOUNTS[k]] / 100;
      amount[2 * k] = state[0] === 0 ? next : amount[2 * k + 1];
      amount[2 * k + 1] = next;
    }
    state[0] = 1;
  }

  /** How one tone acts on the phase of another: `amount` at places `a` and `a + 1`. */
  private steer(target: Player, by: Player, way: Way, a: number, count: number): void {
    const { amount } = this;
    if (way !== 'steer' && way !== 'fm') return;
    const { displace, swing } = target;
    by.dull.take(by.raw, count);
    const raw = by.dull.wave;
    let go = amount[a];
    const step = (amount[a + 1] - go) / count;
    if (way === 'steer')
      for (let i = 0; i < count; i++) {
        go += step;
        displace[i] += STEER_FULL * go * raw[i];
      }
    else
      for (let i = 0; i < count; i++) {
        go += step;
        swing[i] += FM_FULL * go * raw[i];
      }
  }

  /** How far the frequency of a tone is displaced in this step, in hertz. */
  private measureSwing(player: Player, hz: number, count: number): void {
    const { displace, swing, swung } = player;
    let most = 0;
    for (let i = 0; i < count; i++) {
      const s = swing[i] < 0 ? -swing[i] : swing[i];
      if (s * hz > most) most = s * hz;
      if (i === 0) continue;
      const d = displace[i] - displace[i - 1];
      const size = (d < 0 ? -d : d) * 2 * this.sampleRateHz;
      if (size > most) most = size;
    }
    swung[0] = most;
  }

  /** Frequency of a tone in this step: raised where it is synced to another. */
  private tune(tone: number, pitch: Float64Array, synced: boolean, place: number): void {
    this.pitches[tone][0] = synced ? pitch[0] * Math.pow(2, (SYNC_FULL * this.amount[place]) / 12) : pitch[0];
  }

  /**
   * Runs a step of `frames` and writes what each tone gives from `outFrom` on: `pitches[t][0]` is the
   * frequency of tone t, `bases[t]` where its numbers stand in
   * `values`, `at` where those of the acts do.
   */
  process(
    frames: number,
    pitches: readonly Float64Array[],
    values: Float64Array,
    bases: Int32Array,
    at: number,
    outFrom: number,
  ): void {
    this.takeAmounts(values, at);
    const { players, acts, amount, centres, downs, outputs } = this;
    const count = 2 * frames;
    const one = players[0];
    const two = players[1];
    const three = players[2];
    if (three) {
      three.begin();
      three.cycle?.prepareSteered(pitches[2], values, bases[2], frames, three.swung, false);
      three.read(frames, pitches[2], values, bases[2]);
    }
    const back =
      one !== null &&
      two !== null &&
      one.cycle !== null &&
      two.cycle !== null &&
      (amount[4] > 0 || amount[5] > 0);
    const byThree = acts.three.on === '2' && three ? three : null;
    if (two) {
      const master = acts.three.way === 'sync' && byThree?.cycle ? byThree : null;
      two.begin();
      this.tune(1, pitches[1], master !== null, 3);
      if (byThree) this.steer(two, byThree, acts.three.way, 2, count);
      this.prepare(two, 1, frames, values, bases[1], back ? pitches[0][0] * BACK_SWING * amount[5] : 0);
      if (!back) {
        this.read(two, master, 1, frames, values, bases[1]);
        if (byThree && this.threeOnTwo) this.threeOnTwo.combine(two.raw, byThree.raw, amount, 2, count);
        // A tone that nothing acts on is centred as it is.
        if (byThree && acts.three.way !== 'add') centres[1].process(two.raw, count);
      }
    }
    if (one) {
      const nearThree = acts.three.on === '1' && three ? three : null;
      const master =
        acts.two.way === 'sync' && two?.cycle
          ? two
          : acts.three.way === 'sync' && nearThree?.cycle
            ? nearThree
            : null;
      one.begin();
      this.tune(0, pitches[0], master !== null, master === two ? 1 : 3);
      if (two && !back) this.steer(one, two, acts.two.way, 0, count);
      if (nearThree) this.steer(one, nearThree, acts.three.way, 2, count);
      this.prepare(one, 0, frames, values, bases[0], back ? pitches[1][0] * BACK_SWING * amount[1] : 0);
      if (back) {
        this.readBoth(one, two, count);
        if (byThree && this.threeOnTwo) this.threeOnTwo.combine(two.raw, byThree.raw, amount, 2, count);
        centres[1].process(two.raw, count);
      } else this.read(one, master, 0, frames, values, bases[0]);
      if (two && this.twoOnOne) this.twoOnOne.combine(one.raw, two.raw, amount, 0, count);
      if (nearThree && this.threeOnOne) this.threeOnOne.combine(one.raw, nearThree.raw, amount, 2, count);
      if (this.alternate && two && three) {
        for (let i = 0; i < count; i++) this.other[i] = two.raw[i];
        this.alternate.alternate(one.raw, this.other, three.raw, amount, 6, count);
      }
      centres[0].process(one.raw, count);
    }
    for (let t = 0; t < 3; t++) {
      const player = players[t];
      if (!player) continue;
      if (this.waits[t] > 0) this.lates[t].delay(player.raw, count, this.waits[t]);
      downs[t].process(player.raw, outputs[t], outFrom, outFrom + frames);
    }
  }

  /**
   * Prepares a cycle for a step in which its frequency is displaced; `more` is what comes on top, in hertz.
   */
  private prepare(
    player: Player,
    place: number,
    frames: number,
    values: Float64Array,
    base: number,
    more: number,
  ): void {
    if (!player.cycle) return;
    this.measureSwing(player, this.pitches[place][0], 2 * frames);
    player.swung[0] += more;
    player.cycle.prepareSteered(this.pitches[place], values, base, frames, player.swung, this.fms[place]);
  }

  private read(
    player: Player,
    master: Player | null,
    place: number,
    frames: number,
    values: Float64Array,
    base: number,
  ): void {
    if (master?.cycle && player.cycle)
      this.syncs[place].read(
        player.cycle,
        player.raw,
        player.displace,
        player.swing,
        master.cycle,
        master.swing,
        2 * frames,
      );
    else player.read(frames, this.pitches[place], values, base);
  }

  /** Tones 1 and 2 steering each other, sample by sample: each hears the other's last value. */
  private readBoth(one: Player, two: Player, count: number): void {
    const { amount, state, acts } = this;
    const steers = acts.two.way === 'steer';
    const fms = acts.two.way === 'fm';
    for (let i = 0; i < count; i++) {
      const part = (i + 1) / count;
      two.displace[i] += STEER_FULL * (amount[4] + part * (amount[5] - amount[4])) * state[1];
      two.cycle!.steer(two.raw, i, i + 1, two.displace, two.swing);
      const go = (amount[0] + part * (amount[1] - amount[0])) * two.raw[i];
      if (steers) one.displace[i] += STEER_FULL * go;
      else if (fms) one.swing[i] += FM_FULL * go;
      one.cycle!.steer(one.raw, i, i + 1, one.displace, one.swing);
      state[1] = one.raw[i];
    }
  }
}

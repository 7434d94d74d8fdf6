import { LEVELS, type CycleBank } from '../../dsp/index.js';

/** Time in which an edited set of harmonics takes the place of the one before, in seconds. */
const EDIT_S = 0.012;

// Places in the state.
const PLACE = 0;
const LOWEST = 1;
const HIGHEST = 2;
const FADE = 3;
const CACHED_PLACE = 4;
const STOOD = 5;
/** Steps for which it must have stood still before a mixture is made for it. */
const STANDS = 8;

/** Where a selector finds what it needs; places in a `Float64Array`. */
export const SELECT_HZ = 0;
/** Place among the frames, 0 to 1. */
export const SELECT_POSITION = 1;

/**
 * Chooses the tables that a tone reads: one where it stands still, two and a weight that runs from `weight[0]` to `weight[1]` where it moves between frames
 * or an edited set comes in. Still mixtures of two frames are made once and kept.
 */
export class TableSelector {
  a: Float32Array;
  b: Float32Array;
  readonly weight = new Float64Array(2);
  private readonly state = Float64Array.of(-1, 0, 0, 1, -1, 0);
  private level = -1;
  private cachedLevel = -1;
  private old: Float32Array | null = null;
  /** Mixtures, by slot and by the power of two of their length. */
  private readonly mixtures: (Float32Array | undefined)[][] = [[], [], []];

  constructor(private bank: CycleBank, private readonly sampleRateHz: number) {
    this.a = this.b = bank.table(0, bank.levelFor(50));
  }

  /** Forgets where it stood: the next step begins at its own place. */
  reset(): void {
    this.state[PLACE] = -1;
    this.state[FADE] = 1;
    this.old = null;
  }

  copyFrom(other: TableSelector): void {
    this.state[PLACE] = other.state[PLACE];
    if (other.bank !== this.bank && other.level >= 0) this.fadeFrom(other.effective());
  }

  /** Takes other cycles in place of its own, passing over within a few milliseconds. */
  setBank(bank: CycleBank): void {
    if (bank === this.bank) return;
    const old = this.level < 0 ? null : Float32Array.from(this.effective());
    this.bank = bank;
    this.cachedLevel = -1;
    this.state[LOWEST] = this.state[HIGHEST] = 0;
    if (old) this.fadeFrom(old);
  }

  private fadeFrom(table: Float32Array): void {
    this.old = Float32Array.from(table);
    this.state[FADE] = 0;
  }

  /** The cycle as it is read at the end of the last step. */
  private effective(): Float32Array {
    if (this.a === this.b) return this.a;
    const w = this.weight[1];
    return this.a.map((value, i) => value + w * (this.b[i] - value));
  }

  private mixture(slot: number, place: number): Float32Array {
    const { bank, level } = this;
    const last = bank.frames.length - 2;
    const k = place >= last ? last : place | 0;
    const part = place - k;
    const from = bank.table(k, level);
    if (part === 0) return from;
    const to = bank.table(k + 1, level);
    if (part === 1) return to;
    const power = 31 - Math.clz32(from.length);
    const out = this.mixtures[slot][power] ?? (this.mixtures[slot][power] = new Float32Array(from.length));
    for (let i = 0; i < out.length; i++) out[i] = from[i] + part * (to[i] - from[i]);
    return out;
  }

  /** Chooses for a step of `frames`. */
  select(numbers: Float64Array, frames: number): void {
    const { state, weight, bank } = this;
    const hz = numbers[SELECT_HZ];
    if (!(hz >= state[LOWEST] && hz < state[HIGHEST])) {
      this.level = bank.levelFor(hz);
      state[LOWEST] = this.level === 0 ? 0 : bank.lowest(this.level);
      state[HIGHEST] = bank.lowest(this.level + 1);
    }
    const count = bank.frames.length;
    let place = count === 1 ? 0 : numbers[SELECT_POSITION] * (count - 1);
    const began = state[PLACE] < 0;
    const last = began ? place : state[PLACE];
    // On the way past a frame a step ends at that frame and the next goes on from it: two tables are then always enough.
    const next = place > last ? (last | 0) + 1 : Math.ceil(last) - 1;
    if (place > next && place < next + 1 && last < next) place = next;
    else if (place < next && place > next - 1 && last > next) place = next;
    state[PLACE] = place;
    state[STOOD] = place === last && !began ? state[STOOD] + 1 : 0;
    weight[0] = weight[1] = 0;
    if (count === 1) this.a = this.b = bank.table(0, this.level);
    else if (this.old !== null || state[STOOD] >= STANDS || place === (place | 0) && place === last) this.a = this.b = this.still(place);
    else {
      const low = place < last ? place : last;
      const high = place < last ? last : place;
      const k = low | 0;
      if (high <= k + 1) {
        this.a = bank.table(k, this.level);
        this.b = bank.table(k + 1, this.level);
        weight[0] = last - k;
        weight[1] = place - k;
      } else {
        this.a = this.mixture(1, last);
        this.b = this.mixture(2, place);
        weight[1] = 1;
      }
    }
    if (this.old !== null) this.passOver(frames);
  }

  /**
   * Makes one table that may soon be wanted: of the frames near by, at this level and the ones beside it. Says whether there was one to make. Called
   * between blocks, so that the block path finds its tables made.
   */
  prefetch(): boolean {
    const { bank, level, state } = this;
    if (level < 0) return false;
    const k = Math.max(0, state[PLACE] | 0);
    for (let step = 0; step <= 2; step++) {
      const wanted = step === 0 ? level : step === 1 ? level + 1 : level - 1;
      if (wanted < 0 || wanted >= LEVELS) continue;
      for (let frame = Math.max(0, k - 2); frame <= k + 3 && frame < bank.frames.length; frame++) {
        if (bank.has(frame, wanted)) continue;
        bank.table(frame, wanted);
        return true;
      }
    }
    return false;
  }

  private still(place: number): Float32Array {
    const { state } = this;
    if (state[CACHED_PLACE] === place && this.cachedLevel === this.level) return this.mixtures[0][31 - Math.clz32(this.bank.table(0, this.level).length)] ?? this.mixture(0, place);
    const table = this.mixture(0, place);
    const whole = place === (place | 0);
    state[CACHED_PLACE] = whole ? -1 : place;
    this.cachedLevel = whole ? -1 : this.level;
    return table;
  }

  /** On the way from an edited set's forerunner. */
  private passOver(frames: number): void {
    const { state, weight } = this;
    const old = this.old!;
    if (old.length !== this.a.length || state[FADE] >= 1) {
      this.old = null;
      return;
    }
    this.b = this.a;
    this.a = old;
    // A line bent at both ends: the passage has no corners to be heard.
    const was = state[FADE];
    const now = Math.min(1, was + frames / (EDIT_S * this.sampleRateHz));
    state[FADE] = now;
    weight[0] = was * was * (3 - 2 * was);
    weight[1] = now * now * (3 - 2 * now);
  }
}

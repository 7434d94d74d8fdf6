import { LEVELS, MOST_SHIFT, type CycleBank } from './cycle-bank.js';

/** Time in which an edited set of harmonics takes the place of the one before, in seconds. */
const EDIT_S = 0.012;

// Places in the state.
const PLACE = 0;
const LOWEST = 1;
const HIGHEST = 2;
const FADE = 3;
const CACHED_PLACE = 4;
const STOOD = 5;
const SHIFT = 6;
const CACHED_SHIFT = 7;
/** Steps for which it must have stood still before a mixture is made for it. */
const STANDS = 8;

/** Where a selector finds what it needs; places in a `Float64Array`. */
export const SELECT_HZ = 0;
/** Place among the frames, 0 to 1. */
export const SELECT_POSITION = 1;
/** Semitones by which the spectrum stands apart from the note, −24 to 24. */
export const SELECT_SHIFT = 2;
export const SELECT_NUMBERS = 3;

/**
 * Chooses the tables that a tone reads: one where it stands still, two and a weight that runs from
 * `weight[0]` to `weight[1]` where it moves between frames,
 * its spectrum is shifted, or an edited set comes in. Still mixtures (of two frames, of two shifts a semitone
 * apart, of both) are made once and kept.
 */
export class TableSelector {
  a: Float32Array;
  b: Float32Array;
  readonly weight = new Float64Array(2);
  private readonly state = Float64Array.of(-1, 0, 0, 1, -1, 0, 0, 0);
  private level = -1;
  private cachedLevel = -1;
  private old: Float32Array | null = null;
  /** Mixtures, by slot and by the power of two of their length. */
  private readonly mixtures: (Float32Array | undefined)[][] = [[], [], []];

  constructor(
    private bank: CycleBank,
    private readonly sampleRateHz: number,
  ) {
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
    this.state[SHIFT] = other.state[SHIFT];
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

  /**
   * The cycle at a place among the frames, its spectrum shifted, mixed into a slot; a table itself where that
   * is all.
   */
  private mixture(slot: number, place: number, shift: number): Float32Array {
    const { bank, level } = this;
    const low = Math.floor(shift);
    const lower = bank.shifted(low);
    const last = bank.frames.length - 2;
    const k = last < 0 ? 0 : place >= last ? last : place | 0;
    const part = shift - low;
    const along = place - k;
    if (part === 0) {
      if (along === 0) return lower.table(k, level);
      return along === 1
        ? lower.table(k + 1, level)
        : this.mix(slot, lower.table(k, level), lower.table(k + 1, level), along);
    }
    const upper = bank.shifted(low + 1);
    const out = this.mix(slot, lower.table(k, level), upper.table(k, level), part);
    if (along === 0) return out;
    const from = lower.table(k + 1, level);
    const to = upper.table(k + 1, level);
    for (let i = 0; i < out.length; i++) out[i] += along * (from[i] + part * (to[i] - from[i]) - out[i]);
    return out;
  }

  private mix(slot: number, from: Float32Array, to: Float32Array, part: number): Float32Array {
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
    // On the way past a frame a step ends at that frame and the next goes on from it: two tables are then
    // always enough.
    const next = place > last ? (last | 0) + 1 : Math.ceil(last) - 1;
    if (place > next && place < next + 1 && last < next) place = next;
    else if (place < next && place > next - 1 && last > next) place = next;
    const shift = numbers[SELECT_SHIFT];
    const lastShift = began ? shift : state[SHIFT];
    state[PLACE] = place;
    state[SHIFT] = shift;
    state[STOOD] = place === last && shift === lastShift && !began ? state[STOOD] + 1 : 0;
    weight[0] = weight[1] = 0;
    if (shift !== 0 || lastShift !== 0) this.choosePassage(place, last, shift, lastShift);
    else if (count === 1) this.a = this.b = bank.table(0, this.level);
    else if (this.old !== null || state[STOOD] >= STANDS || (place === (place | 0) && place === last))
      this.a = this.b = this.still(place, 0);
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
        this.choosePassage(place, last, 0, 0);
      }
    }
    if (this.old !== null) this.passOver(frames);
  }

  /**
   * Between the mixtures at the start and the end of the step: where several frames, or shifts, are passed in
   * one.
   */
  private choosePassage(place: number, last: number, shift: number, lastShift: number): void {
    if (this.old !== null || (place === last && shift === lastShift)) {
      this.a = this.b = this.still(place, shift);
      return;
    }
    this.a = this.mixture(1, last, lastShift);
    this.b = this.mixture(2, place, shift);
    this.weight[1] = 1;
  }

  /**
   * Makes one table that may soon be wanted: of the frames near by, at this level and the ones beside it.
   * Says whether there was one to make. Called
   * between blocks, so that the block path finds its tables made.
   */
  prefetch(): boolean {
    const { bank, level, state } = this;
    if (level < 0) return false;
    const k = Math.max(0, state[PLACE] | 0);
    const shift = Math.floor(state[SHIFT]);
    // One that stands still without a shift is not taken to be about to move.
    const aside = state[SHIFT] === 0 && state[STOOD] >= STANDS ? 0 : 1;
    for (let step = 0; step <= 2; step++) {
      const wanted = step === 0 ? level : step === 1 ? level + 1 : level - 1;
      if (wanted < 0 || wanted >= LEVELS) continue;
      for (
        let moved = Math.max(-MOST_SHIFT, shift - aside);
        moved <= shift + 2 * aside && moved <= MOST_SHIFT;
        moved++
      ) {
        if (bank.frames.length === 1 && moved !== shift) continue;
        const frames = bank.shifted(moved);
        for (let frame = Math.max(0, k - 2); frame <= k + 3 && frame < bank.frames.length; frame++) {
          if (frames.has(frame, wanted)) continue;
          frames.table(frame, wanted);
          return true;
        }
      }
    }
    return false;
  }

  private still(place: number, shift: number): Float32Array {
    const { state, level, bank } = this;
    const cached =
      state[CACHED_PLACE] === place && state[CACHED_SHIFT] === shift && this.cachedLevel === level;
    if (cached)
      return this.mixtures[0][31 - Math.clz32(bank.table(0, level).length)] ?? this.mixture(0, place, shift);
    const table = this.mixture(0, place, shift);
    const whole = place === (place | 0) && shift === Math.floor(shift);
    state[CACHED_PLACE] = whole ? -1 : place;
    state[CACHED_SHIFT] = shift;
    this.cachedLevel = whole ? -1 : level;
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

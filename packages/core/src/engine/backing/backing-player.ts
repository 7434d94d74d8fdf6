import { BLOCK } from '../../dsp/index.js';
import type { SoundDocument } from '../../document/index.js';
import { dbToGain } from '../../units/index.js';
import { atEngineRate, type Assets, type Recording } from '../base/recording.js';

/** Time in which a part that ends early, or begins again, fades. */
const FADE_S = 0.004;

// Places in the state.
const PLACE = 0;
const LEAVES = 1;
const LEFT = 2;
const GAIN = 3;

/** One backing part playing: from its start to its end, or to where it begins again. */
export class BackingPlayer {
  readonly left = new Float64Array(BLOCK);
  readonly right = new Float64Array(BLOCK);
  silent = true;
  /** Frame it stands at (NaN: none), frame of what fades, frames left of that fade, gain. */
  private readonly state = Float64Array.of(NaN, 0, 0, 1);
  private readonly fadeFrames: number;
  private gain: number;

  /** Parts sound `delayFrames` after their event, as the kick does. */
  constructor(
    private readonly recording: Recording | null,
    gainDb: number,
    sampleRateHz: number,
    private readonly delayFrames: number,
  ) {
    this.fadeFrames = Math.round(FADE_S * sampleRateHz);
    this.gain = dbToGain(gainDb);
    this.state[GAIN] = this.gain;
  }

  set(gainDb: number): void {
    this.gain = gainDb <= -60 ? 0 : dbToGain(gainDb);
  }

  copyFrom(other: BackingPlayer): void {
    this.state.set(other.state);
  }

  /** Begins `into` frames after its start. */
  begin(into = 0): void {
    this.leave();
    this.state[PLACE] = into - this.delayFrames;
  }

  /** Lets what sounds fade. */
  leave(): void {
    const { state } = this;
    if (state[PLACE] > 0) {
      state[LEAVES] = state[PLACE];
      state[LEFT] = this.fadeFrames;
    }
    state[PLACE] = NaN;
  }

  render(frames: number): void {
    const { state, left, right, recording } = this;
    if (!recording || (!(state[PLACE] === state[PLACE]) && state[LEFT] === 0)) {
      this.silent = true;
      return;
    }
    this.silent = false;
    const first = recording.channels[0];
    const second = recording.channels[recording.channels.length - 1];
    const gainStep = (this.gain - state[GAIN]) / frames;
    let gain = state[GAIN];
    const from = state[PLACE];
    const runs = from === from;
    for (let i = 0; i < frames; i++) {
      gain += gainStep;
      const at = runs ? from + i : -1;
      const sounds = at >= 0 && at < first.length;
      left[i] = sounds ? gain * first[at] : 0;
      right[i] = sounds ? gain * second[at] : 0;
    }
    if (runs) state[PLACE] = from + frames < first.length ? from + frames : NaN;
    state[GAIN] = this.gain;
    if (state[LEFT] === 0) return;
    const old = state[LEAVES];
    for (let i = 0; i < frames && state[LEFT] > 0; i++) {
      const share = (this.gain * state[LEFT]) / this.fadeFrames;
      if (old + i < first.length) {
        left[i] += share * first[old + i];
        right[i] += share * second[old + i];
      }
      state[LEFT]--;
    }
    state[LEAVES] = old + frames;
  }
}

/**
 * Recordings of the backing parts at the engine's rate, each at its part's place; null where one is off or
 * not there.
 */
export function backingRecordings(
  { backing }: SoundDocument,
  assets: Assets,
  sampleRateHz: number,
): (Recording | null)[] {
  return backing.map(({ on, asset }) => {
    const found = on ? assets.get(asset) : undefined;
    return found ? atEngineRate(found, sampleRateHz) : null;
  });
}
